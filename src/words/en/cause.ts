/** What a check suspects, in the words of the bench: for lists, where there is no room for a sentence. */
const CAUSES: Record<string, string> = {
	'unit-slip': 'another unit',
	'decimal-slip': 'the decimal mark',
	swapped: 'values swapped',
	'scale-mismatch': 'another ppm scale',
	spike: 'a single jump',
	stuck: 'does not move',
	gap: 'a long gap before it',
	span: 'beyond what it can show',
	pasted: 'copied from before',
	'probe-in-air': 'probe in the air',
	'probe-in-storage': 'probe in its cap or a buffer',
	mixing: 'not mixed yet',
	'carry-over': 'carried over from before',
	'not-settled': 'not waited for',
	'no-compensation': 'not corrected for temperature',
	drift: 'the probe drifts',
	'calibration-step': 'a step at a calibration',
	'unlogged-addition': 'something was added',
	'unexpected-change': 'changed without a reason',
	'against-event': 'not what was poured',
	'source-shift': 'the source changed',
	'membrane-decline': 'the membrane tires',
	disagreement: 'two instruments disagree',
	'out-of-range': 'unlike what it was',
	'low-ionic-strength': 'too pure for pH',
	duplicate: 'entered twice',
	clock: 'the time is odd',
	'wrong-station': 'from another station',
	'calibration-overdue': 'calibration overdue',
};

/** A cause in a few words; nothing where there is none. */
export const causeWords = (cause: string): string =>
	cause === '' ? '' : (CAUSES[cause] ?? cause.replaceAll('-', ' '));
