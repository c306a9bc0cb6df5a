import type { FindingCode, FindingParams, FindingSaid, SlipHow } from '@/core/judge/said';
import { displayValue as shown } from './value';

const ADDED: Record<string, string> = {
	nutrient_added: 'feed was added',
	water_added: 'water was added',
	acid_added: 'acid was added',
	base_added: 'base was added',
};
const RINSE = 'Rinse the probe in clean water, shake it, and read again.';
const PUT_BACK = 'Put the probe back under, to its vent hole.';
const OUT_OF_CAP = 'Rinse the probe and put it back in the water.';
const HANGS = 'Look at the sensor, its cable and its clock; dip it in a standard.';
const CLOCK = 'Check the date and the clock of the phone or sensor, and enter the right time.';
const ASK = {
	'confirm-at-source': 'Take a confirming sample from the same tap after running it.',
	'alike-at-source':
		'It was read so several times: take the water for changed, once the meter has been in one standard, and mix by it.',
	'log-or-read-again': 'Was something added or changed? Log it; otherwise read again.',
	'look-at-probe': 'Read again before acting on it; then look at the probe, then at the water.',
	'read-again': 'Read again, rinsed and settled; if it repeats, the water has changed.',
} as const;

/** What happened, as the end of a sentence: "It looks like …". */
function how(h: SlipHow): string {
	switch (h.code) {
		case 'us-for-ms':
			return 'µS/cm written where mS/cm was expected';
		case 'ms-for-us':
			return 'mS/cm written where µS/cm was expected';
		case 'us-as-ppm':
			return 'µS/cm written as ppm';
		case 'ms-as-ppm':
			return 'mS/cm written as ppm';
		case 'f-as-c':
			return '°F written as °C';
		case 'c-as-f':
			return '°C written as °F';
		case 'mark-one-off':
			return 'the decimal mark one place off';
		case 'mark-left-out':
			return 'the decimal mark left out';
		case 'mark-two-off':
			return 'the decimal mark two places off';
		case 'ppm-as-unit':
			return `ppm on the ${h.scale} scale written as ${h.unit}`;
		case 'other-scale':
			return `the meter is on the ${h.scale} scale, not ${h.named}`;
	}
}
const MONTHS = new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' });
const ago = (ms: number): string =>
	ms < 48 * 3_600_000 ? `${(ms / 3_600_000).toFixed(1)} hours` : `${(ms / 86_400_000).toFixed(1)} days`;

const minutes = (ms: number): string => {
	const n = Math.max(1, Math.round(ms / 60_000));
	return n === 1 ? 'minute' : `${n} minutes`;
};

/** What was seen, and the cheapest step that would settle it. */
type Words = readonly [message: string, nextStep: string];
const WORDS: { [C in FindingCode]: (p: FindingParams<C>) => Words } = {
	'against-event': (p) => {
		const done = p.events.flatMap((k) => ADDED[k] ?? []).join(' and ');
		return [
			`${done ? done.replace(/^./, (c) => c.toUpperCase()) : 'Something was added'}, and yet it went from ${shown(p.quantity, p.before)} to ${shown(p.quantity, p.value)}.`,
			'Stir, wait until it has mixed, and read again; then look whether the addition was logged at the right tank.',
		];
	},
	'calibration-failed': () => [
		'This probe failed its last calibration.',
		'Clean and rehydrate it and calibrate again, or use another one.',
	],
	'calibration-overdue': (p) => [
		`This probe was last in a standard ${Math.round(p.days)} days ago; it wants one every ${Math.round(p.intervalDays)}.`,
		'Dip it in one standard before trusting the last digit.',
	],
	'temperature-far': (p) => [
		`Its waters usually have ${shown('temp', p.tempC)}; it was calibrated at ${shown('temp', p.calibratedAtC)}.`,
		'Let sample and standard come to the same temperature, or calibrate at this one.',
	],
	'carry-over-unrinsed': (p) => [
		`${shown('ec', p.value)} is more than this water’s usual ${shown('ec', p.expected)}, and the rinse was left out: salt came along from ${p.from ?? 'the storage cap'}.`,
		RINSE,
	],
	'carry-over-from-cap': (p) => [
		`${shown('ec', p.value)} in the first dip of the round, where ${shown('ec', p.expected)} is usual: salt from the storage cap?`,
		RINSE,
	],
	'carry-over': (p) => [
		`${shown('ec', p.value)} lies between this water’s usual ${shown('ec', p.expected)} and the ${shown('ec', p.before)} that the probe was in just before: salt carried over.`,
		RINSE,
	],
	'clock-ahead': () => ['The time lies in the future.', CLOCK],
	'clock-never-set': () => ['The time lies before the year 2000: a clock that was never set.', CLOCK],
	'clock-back': () => ['The time lies before the reading ahead of it: out of order, or a wrong date.', CLOCK],
	'clock-day-month': (p) => [
		`The date does not follow the reading ahead of it; ${p.day} ${MONTHS.format(new Date(Date.UTC(2000, p.month - 1, 1)))} would: day and month exchanged?`,
		CLOCK,
	],
	'clock-wrong-year': () => ['The time is more than half a year after the reading ahead of it: a wrong year?', CLOCK],
	disagreement: (p) => [
		`${shown(p.quantity, p.value)} here, ${shown(p.quantity, p.other)} by ${p.instrument || 'the other meter'} in the same water: more apart than both can be right.`,
		'Dip the one that was checked longer ago in one standard; that settles it.',
	],
	drifting: (p) => [
		`Over ${p.comparisons} hand readings this sensor has moved ${p.quantity === 'ph' ? `${p.offset.toFixed(2)} pH` : `${(100 * p.offset).toFixed(0)} %`} away: ${shown(p.quantity, p.value)} is more likely ${shown(p.quantity, p.truth)}.`,
		'Clean the sensor and calibrate it; log both.',
	],
	'duplicate-same': () => [
		'The same reading is already there: same time, station, instrument and value.',
		'Discard one of the two.',
	],
	'duplicate-other': () => [
		'Another value is already there for this time, station and instrument.',
		'Say which of the two is right, or correct the time of one.',
	],
	'ppm-on-other-scale': (p) => [
		`The ppm is ${p.ratio} times the EC: this meter is on the ${p.scale} scale, not ${p.named}.`,
		`Set the meter’s scale to ${p.scale}.`,
	],
	'ppm-on-no-scale': (p) => [
		`The ppm is ${p.ratio} times the EC (${shown('ec', p.ec)}); no meter scale gives that, so one of the two was misread.`,
		'Read both again from the display.',
	],
	gap: (p) => [
		`Nothing came for ${ago(p.ms)}; it used to come every ${minutes(p.usualMs)}.`,
		'Look at the power and the connection of the sensor.',
	],
	'low-ionic-strength': (p) => [
		`This water conducts only ${Math.round(p.ecUsCm)} µS/cm: its pH is not telling.`,
		'Do not act on this pH. Judge the water by its EC, and the mix by the pH after feeding.',
	],
	'not-compensated': (p) => [
		`This meter does not compensate; ${shown('ec', p.value)} at ${p.tempC} °C is ${shown('ec', p.at25)} at 25 °C.`,
		'Use the value at 25 °C, or switch the meter’s compensation on.',
	],
	'compensation-off': (p) => [
		`${shown('ec', p.value)} does not fit; taken as raw at ${p.tempC} °C it is ${shown('ec', p.at25)} at 25 °C, which does. Is the meter’s compensation off?`,
		'Switch the meter’s temperature compensation on and read again.',
	],
	'not-settled': (p) => [
		`Written down after ${p.waitS} s; this water wants about ${p.wantedS} s.`,
		`Dip again and wait ${p.wantedS} s, until the last digits stand.`,
	],
	'far-from-history': (p) => [
		`${shown(p.quantity, p.value)} is far from the ${shown(p.quantity, p.expected)} that this station’s last readings lead to.`,
		ASK[p.ask],
	],
	'probe-in-air': (p) => [
		p.seen === 'conductivity'
			? 'Hardly any conductivity: the probe is out of the water.'
			: 'The probe is out of the water.',
		PUT_BACK,
	],
	'probe-in-storage': (p) => [
		p.seen === 'conductivity'
			? 'As salty as storage solution: the probe is in its cap.'
			: p.seen === 'buffer'
				? 'A pH as in a buffer or a storage cap, at once, while the conductivity goes on: the probe is not in the water.'
				: 'The probe is in its storage cap.',
		p.seen === 'buffer'
			? 'Look where the probe is. If it is in the water, measure by hand at once: acid may have run in.'
			: OUT_OF_CAP,
	],
	mixing: () => ['Still mixing after what was added; not judged until it settles.', 'Wait until it has mixed.'],
	spike: (p) => [
		`${shown(p.quantity, p.value)} jumps off the ${shown(p.quantity, p.expected)} around it faster than water changes.`,
		'Look whether the next readings come back; if not, read by hand.',
	],
	slip: (p) => [
		`${shown(p.quantity, p.value)} does not fit this station; did you mean ${shown(p.quantity, p.meant)}? It looks like ${how(p.how)}.`,
		`Take ${shown(p.quantity, p.meant)} if that is what the display said; otherwise read again.`,
	],
	'beyond-any-meter': (p) => [
		`${shown(p.quantity, p.value)} is beyond what any meter for it shows (${shown(p.quantity, p.low)} to ${shown(p.quantity, p.high)}).`,
		'Look at the display again and type what it says, with its unit.',
	],
	stuck: (p) => [
		`The same value ${p.times} times in a row; by chance this sensor repeats itself less than ${p.improbableFrom} times.`,
		'Look at the sensor and its cable; dip it in a standard.',
	],
	'stuck-for': (p) => [
		`The same value for ${ago(p.ms)}; in the last days it never stood for more than ${ago(p.usualMs)}.`,
		HANGS,
	],
	'node-hangs': (p) => [
		`All that this sensor shows has been standing for ${ago(p.ms)}; in the last days that never lasted more than ${ago(p.usualMs)}.`,
		HANGS,
	],
	pasted: (p) => [
		`The same digits at the same minute as ${p.days === 1 ? 'the day' : `${p.days} days`} before: copied from there?`,
		'Look at what was written down on the day; discard it if nobody measured.',
	],
	swapped: (p) => [
		`pH and EC look exchanged: ${shown('ph', p.ph)} and ${shown('ec', p.ec)} would both fit.`,
		'Exchange the two, or read again.',
	],
	'far-outside-range': (p) => [
		`${shown(p.quantity, p.value)} is far outside the range set here (${shown(p.quantity, p.low)} to ${shown(p.quantity, p.high)}).`,
		'Read again before acting on it.',
	],
	'wrong-station': (p) => [
		`This sample does not fit ${p.here}, but it fits ${p.there}.`,
		`If it was taken at ${p.there}, enter it there; otherwise read again.`,
	],
	'new-level': (p) => [
		`It went from ${shown(p.quantity, p.from)} to ${shown(p.quantity, p.value)} and stayed, with nothing logged: ${p.by === 'addition' ? 'something was added or changed' : p.by === 'probe' ? 'a calibration, or a dose' : 'the surroundings changed'}.`,
		p.by === 'addition'
			? 'Log what was added; the readings then count as they are.'
			: 'Log the calibration or the dose; if there was none, dip the probe in a buffer.',
	],
	'drift-found': (p) => [
		`The next calibration found the probe off: ${shown(p.quantity, p.value)} was ${shown(p.quantity, p.truth)}.`,
		'Use the corrected value.',
	],
	'drift-beyond-repair': () => [
		'The probe was found so far off that this reading cannot be put right.',
		'Clean and rehydrate the probe, or replace it; read again.',
	],
	'as-written': (p) => [p.message, p.nextStep],
};

/** What a finding says, and the cheapest step that would settle it; both empty where nothing was found. */
export function findingWords(said: FindingSaid | null | undefined): { message: string; nextStep: string } {
	if (!said) return { message: '', nextStep: '' };
	const [message, nextStep] = (WORDS[said.code] as (p: FindingSaid) => Words)(said);
	return { message, nextStep };
}
