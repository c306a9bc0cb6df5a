import type { SeriesQuantity } from '../quantity/quantities';
import type { Unit } from '../quantity/units';

/** How an ordinary slip of writing came about. */
export type SlipHow =
	| { code: 'us-for-ms' | 'ms-for-us' | 'us-as-ppm' | 'ms-as-ppm' | 'f-as-c' | 'c-as-f' }
	| { code: 'mark-one-off' | 'mark-left-out' | 'mark-two-off' }
	| { code: 'ppm-as-unit'; scale: number; unit: Unit }
	| { code: 'other-scale'; scale: number; named: number };

type Of = { quantity: SeriesQuantity; value: number };

/**
 * What a check saw and what would settle it, without its words: by code, what is needed to say it. Values are canonical (pH,
 * µS/cm at 25 °C, °C). Kept with each verdict, so a code is never given another meaning; words are in src/words.
 */
interface Sayings {
	'against-event': Of & { before: number; events: readonly string[] };
	'calibration-failed': Record<never, never>;
	'calibration-overdue': { days: number; intervalDays: number };
	/** Of a probe; of a reading until it is judged again. */
	'temperature-far': { tempC: number; calibratedAtC: number };
	'carry-over-unrinsed': { value: number; expected: number; from: string | null };
	'carry-over-from-cap': { value: number; expected: number };
	'carry-over': { value: number; expected: number; before: number };
	'clock-ahead': Record<never, never>;
	'clock-never-set': Record<never, never>;
	'clock-back': Record<never, never>;
	'clock-wrong-year': Record<never, never>;
	/** With the day and the month that it would fit. */
	'clock-day-month': { day: number; month: number };
	disagreement: Of & { other: number; instrument: string };
	drifting: Of & { comparisons: number; offset: number; truth: number };
	'duplicate-same': Record<never, never>;
	'duplicate-other': Record<never, never>;
	'ppm-on-other-scale': { ratio: number; scale: number; named: number };
	'ppm-on-no-scale': { ratio: number; ec: number };
	gap: { ms: number; usualMs: number };
	'low-ionic-strength': { ecUsCm: number };
	'not-compensated': { value: number; tempC: number; at25: number };
	'compensation-off': { value: number; tempC: number; at25: number };
	'not-settled': { waitS: number; wantedS: number };
	'far-from-history': Of & {
		expected: number;
		ask: 'confirm-at-source' | 'alike-at-source' | 'log-or-read-again' | 'look-at-probe' | 'read-again';
	};
	'probe-in-air': { seen: 'conductivity' | 'beside' };
	'probe-in-storage': { seen: 'conductivity' | 'beside' | 'buffer' };
	mixing: Record<never, never>;
	spike: Of & { expected: number };
	slip: Of & { meant: number; how: SlipHow };
	'beyond-any-meter': Of & { low: number; high: number };
	/** Of when repeats were counted; until it is judged again. */
	stuck: { times: number; improbableFrom: number };
	'stuck-for': { ms: number; usualMs: number };
	'node-hangs': { ms: number; usualMs: number };
	pasted: { days: number };
	swapped: { ph: number; ec: number };
	'far-outside-range': Of & { low: number; high: number };
	'wrong-station': { here: string; there: string };
	'new-level': Of & { from: number; by: 'addition' | 'probe' | 'surroundings' };
	'drift-found': Of & { truth: number };
	'drift-beyond-repair': Record<never, never>;
	/** Of before there were codes: in the words of then, until it is judged again. */
	'as-written': { message: string; nextStep: string };
}
export type FindingCode = keyof Sayings;
export type FindingParams<C extends FindingCode> = Sayings[C];
/** One saying: its code beside what it needs. */
export type FindingSaid = { [C in FindingCode]: { code: C } & Sayings[C] }[FindingCode];
