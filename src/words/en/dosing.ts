import type { Said } from '@/core/mix/dose/record';

/** What advice on a dose says, by its code. Amounts in meq/L are told in words of the hand: millilitres stand beside them. */
const ph = (v: number | string): string => Number(v).toFixed(2);
const meq = (v: number | string): string => `${Number(Number(v).toPrecision(2))} meq/L`;
const span = (minutes: number): string => {
	if (minutes < 90) return minutes === 1 ? 'one minute' : `${minutes} minutes`;
	const quarters = Math.round(minutes / 15) / 4;
	return `${quarters} hours`;
};
const ADDED: Record<string, string> = {
	filled: 'a new solution',
	water: 'water',
	fed: 'feed',
	drained: 'a drain',
};

type Words = (p: Said['params']) => string;
const WORDS: Record<string, Words> = {
	'litres-unknown': () => 'How many litres are in the tank? Without that no dose can be said.',
	'no-reading': () => 'There is no pH of this tank yet. Read it first.',
	'ph-impossible': () => 'The pH lies between 0 and 14, and a target for plants between 3 and 10.',
	'on-target': (p) => `pH ${ph(p.ph!)} is on target. Leave it.`,
	'in-range': (p) => `pH ${ph(p.ph!)} is in range. Leave it.`,
	'as-near-as-told': (p) =>
		`pH ${ph(p.ph!)} is as near as this pen can tell (give or take ${ph(p.spread!)}). A dip in a buffer would make it surer; leave the tank.`,
	'wants-acid': () => 'The target lies lower: that takes an acid.',
	'wants-base': () => 'The target lies higher: that takes a base, or the patience to let it climb by itself.',
	'strength-unknown': () =>
		'The strength of this product is not known. Try it on one litre in a jug first, drop by drop, and enter what it took; no volume is said before.',
	'thin-water': (p) =>
		`At ${Number(p.ec).toFixed(0)} µS/cm nothing in this water holds its pH: a drop goes a whole unit, and the reading itself hardly means anything. Feed it first, or blend in some water that has alkalinity, and look again.`,
	doubtful: (p) => `The reading is in doubt: ${p.message} Read again before dosing.`,
	provisional: () =>
		'This reading was put right by a calibration that is not confirmed yet. Check the pen in a second bottle of buffer, then read again before dosing.',
	'added-since': (p) =>
		`Since the last pH reading ${Number(p.amount) > 0 ? `${p.amount} ${p.unit} of ` : ''}${ADDED[String(p.what)] ?? p.what} went in. Read again before dosing.`,
	'moved-untold': (p) =>
		`The pH went from ${ph(p.from!)} to ${ph(p.to!)} within ${span(Number(p.minutes))}, and nothing is logged: was something poured? Log it, then read again. If nothing was, read again before dosing.`,
	'read-twice': (p) =>
		`This was read ${span(Number(p.since))} after another reading, and nothing is logged between them. If something was poured, log it now. If not, ask again in ${span(Number(p.minutes))}.`,
	stale: (p) =>
		Number(p.most) < 6
			? `The reading is ${Number(p.hours).toFixed(1)} hours old, and in moved water the pH climbs meanwhile. Read again before dosing.`
			: 'The reading is more than half a day old, and pH moves. Read again before dosing.',
	'probe-off': (p) =>
		`${p.by || 'The pen'} was found ${ph(p.error!)} off and not adjusted: more than the ${ph(p.way!)} that is to be moved. Calibrate it, then read again before dosing.`,
	'probe-unsure': (p) =>
		`${p.by || 'The pen'} may be ${ph(p.spread!)} off by now, and the way is ${ph(p.way!)}: a dip in a buffer comes first. Then read again before dosing.`,
	'wait-to-mix': (p) =>
		`What was poured has not mixed yet: wait ${span(Number(p.minutes))} more, stir where you can, then read again. A pH from before says nothing.`,
	'read-again-mixed': (p) =>
		`The pH was read less than ${span(Number(p.whole))} after pouring, before it could mix. Read again now.`,
	'target-beyond-limit': (p) =>
		`The target ${ph(p.target!)} lies beyond the limit of this tank, ${ph(p.limit!)}. Change the limit in Setup if you mean it.`,
	'alkalinity-spent': (p) =>
		`By what was poured since it was filled (${meq(p.given!)}) all the buffer that this filling can have (${meq(p.all!)}) is used up: the next millilitre would go far. Measure the alkalinity of the tank with a drop kit and enter it, or change the solution.`,
	'first-step': (p) =>
		`The first dose here: a small step of ${meq(p.meqL!)}, to see how this solution answers. A litre tried in a jug first allows larger ones.`,
	'first-step-thin': (p) =>
		`Little holds the pH of so thin a solution: a very small step of ${meq(p.meqL!)} first, to see how it answers.`,
	'first-step-ec-unknown': (p) =>
		`Nobody has read the EC of this solution: a very small step of ${meq(p.meqL!)}, in case it is thin. Read its EC, and larger steps can be said.`,
	'twice-what-was-seen': (p) => `At most twice the ${meq(p.meqL!)} that was seen to do what it should in this filling.`,
	'another-visit': (p) =>
		`A small step of ${meq(p.meqL!)} to begin with: the tank stood since the last dose, carbon dioxide has left and taken its buffer with it, so what it took then is no measure now.`,
	'filling-probe': (p) =>
		`The first dose of a filling asks a question: ${meq(p.meqL!)}, at most a third of the ${meq(p.took!)} that ${Number(p.fillings) === 1 ? 'the last filling took' : `the last ${p.fillings} fillings took`}, and no more than the feed alone would bear. Its answer decides the rest.`,
	'not-answered-yet': () => 'The last dose has no reading after it that counts: no more than what is known to be good.',
	'read-too-early': () => 'The last dose was read before it could mix and taught nothing: a small step again.',
	'answered-stronger': (p) =>
		`The last dose went further than it should (${ph(p.got!)}, not ${ph(p.expected!)}): half of it now. Another water, another bottle, fewer litres?`,
	'answered-weaker': (p) =>
		`The last dose did less than it should (${ph(p.got!)}, not ${ph(p.expected!)}): no larger step until one does what is expected. Was it mixed? Is the bottle good?`,
	'answered-wrong-way': (p) =>
		`After the last dose the pH went the wrong way (${ph(p.got!)}, not ${ph(p.expected!)}): it taught nothing. Check the pen and the bottle; no larger step meanwhile.`,
	'worst-case': (p) => `No more, so that even at worst it stays on this side of ${ph(p.limit!)}.`,
	'poured-more': (p) =>
		`No more, so that even with half as much again by mistake it does not come to ${Number(p.limit).toFixed(1)}: little holds the pH now.`,
	'alkalinity-nearly-spent': (p) =>
		`The alkalinity is nearly spent (${meq(p.given!)} poured of about ${meq(p.all!)}): small steps from here, each moves far.`,
	'within-alkalinity': () => 'No more than the buffer that is left by what was poured.',
	'aim-sure': () => 'This is known well: nearly the whole way.',
	'aim-fair': () => 'This is known fairly well: three quarters of the way.',
	'aim-half': () => 'Half of the way by what is known; the rest after measuring.',
	'aim-cliff': () => 'Short of the target on purpose: this solution may buffer less than it seems.',
	'aim-nothing-safe': () =>
		'Nothing that could be measured out is safe by what is known. Try a litre of the tank in a jug, drop by drop.',
	rebounds: (p) =>
		`It will climb again by itself, to about ${Number(p.ph).toFixed(1)} in ${p.hours === 24 ? 'a day' : `${p.hours} hours`}, as carbon dioxide leaves.`,
	rebounded: (p) =>
		`The pH has climbed from ${ph(p.from!)} to ${ph(p.to!)} by itself: carbon dioxide has left, and with it much of the buffer. Less acid moves it now.`,
};

export const doseWords = (s: Said): string => WORDS[s.code]?.(s.params) ?? s.code;

/** What ends the climbing, where it comes back again and again. */
export const REBOUND_ENDS =
	'What ends it: spend the alkalinity in the source water before it enters (acid the day before, with an air stone), or blend in rain or RO water.';
