/** What was done, of the audit's own names. */
const WORDS: Readonly<Record<string, string>> = {
	'attachment.added': 'attached a file',
	'attachment.removed': 'removed a file',
	'calibration.entered': 'calibrated',
	'event.corrected': 'corrected an event',
	'import.undo': 'took a file back',
	'instrument.saved': 'changed an instrument',
	'irrigation.logged': 'logged an irrigation',
	'irrigation.step': 'took a step of watering',
	'irrigation.step-withdrawn': 'took a step of watering back',
	'lot.saved': 'changed a bottle of standard',
	'node.revoked': 'revoked the token of a node',
	'node.saved': 'changed a node',
	'node.token': 'made a token for a node',
	'person.changed': 'changed the role of',
	'person.code': 'showed a code to join as',
	'person.joined': 'joined',
	'person.owner': 'was named the first grower',
	'plan.ended': 'put a season away',
	'plan.saved': 'changed a season',
	'probe.saved': 'changed a probe',
	'product.saved': 'changed a product',
	'reading.corrected': 'corrected a reading',
	'recipe.put-away': 'put a recipe away',
	'recipe.saved': 'changed a recipe',
	'report.entered': 'entered a water report',
	'sample.undo': 'took an entry back',
	'site.changed': 'changed the site',
	'site.made': 'made the site',
	'station.saved': 'changed a station',
	'stations.ordered': 'changed the order of the stations',
	'system.saved': 'changed a system',
	'watch.condition': 'watches for something',
	'watch.off': 'no longer watches for something',
	'watch.on': 'watches for something again',
	'watch.settings': 'changed how alerts are told',
	'watch.snoozed': 'had an alert wait',
};
const KINDS: Readonly<Record<string, string>> = {
	reading: 'a reading',
	episode: 'several readings',
	stretch: 'a stretch of a sensor',
	probe: 'a probe',
};
const VERBS: Readonly<Record<string, string>> = {
	keep: 'kept',
	discard: 'discarded',
	undo: 'took back a decision about',
	restore: 'put back',
	retest: 'asked for a retest of',
};

/**
 * What was done, in words; its own name where there are none.
 * @example changeWords('reading.discard') // 'discarded a reading'
 */
export function changeWords(what: string): string {
	const [kind = '', done = ''] = what.split('.');
	return WORDS[what] ?? (VERBS[done] && KINDS[kind] ? `${VERBS[done]} ${KINDS[kind]}` : what);
}
