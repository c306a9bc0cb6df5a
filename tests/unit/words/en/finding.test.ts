import { describe, expect, it } from 'vitest';
import type { FindingCode, FindingParams, FindingSaid } from '@/core/judge/said';
import { findingWords } from '@/words/en/finding';
import { displayValue } from '@/words/en/value';

/** One of each; a code that is added without an example here does not compile. Invented values. */
const ec = { quantity: 'ec', value: 1712 } as const;
const EXAMPLES: { [C in FindingCode]: FindingParams<C> } = {
	'against-event': { ...ec, before: 1500, events: ['water_added', 'acid_added'] },
	'calibration-failed': {},
	'calibration-overdue': { days: 31.4, intervalDays: 14.2 },
	'temperature-far': { tempC: 31, calibratedAtC: 18 },
	'carry-over-unrinsed': { value: 60, expected: 12.34, from: null },
	'carry-over-from-cap': { value: 60, expected: 12.34 },
	'carry-over': { value: 60, expected: 12.34, before: 1500 },
	'clock-ahead': {},
	'clock-never-set': {},
	'clock-back': {},
	'clock-day-month': { day: 3, month: 4 },
	'clock-wrong-year': {},
	disagreement: { ...ec, other: 1400, instrument: '' },
	drifting: { quantity: 'ph', value: 6.4, comparisons: 8, offset: 0.31, truth: 6.09 },
	'duplicate-same': {},
	'duplicate-other': {},
	'ppm-on-other-scale': { ratio: 0.64, scale: 640, named: 500 },
	'ppm-on-no-scale': { ratio: 0.31, ec: 1712 },
	gap: { ms: 3 * 86_400_000, usualMs: 20_000 },
	'low-ionic-strength': { ecUsCm: 14.4 },
	'not-compensated': { value: 1500, tempC: 15, at25: 1875 },
	'compensation-off': { value: 1500, tempC: 15, at25: 1875 },
	'not-settled': { waitS: 5, wantedS: 60 },
	'far-from-history': { ...ec, expected: 2400, ask: 'read-again' },
	'probe-in-air': { seen: 'conductivity' },
	'probe-in-storage': { seen: 'beside' },
	mixing: {},
	spike: { ...ec, expected: 2400 },
	slip: { ...ec, meant: 1.712, how: { code: 'us-for-ms' } },
	'beyond-any-meter': { quantity: 'ph', value: 61, low: 0, high: 14 },
	stuck: { times: 90, improbableFrom: 40 },
	'stuck-for': { ms: 9e6, usualMs: 1e6 },
	'node-hangs': { ms: 9e7, usualMs: 1e6 },
	pasted: { days: 7 },
	swapped: { ph: 6.1, ec: 1712 },
	'far-outside-range': { ...ec, low: 500, high: 900 },
	'wrong-station': { here: 'pond', there: 'mix' },
	'new-level': { quantity: 'ph', value: 5.5, from: 6.1, by: 'probe' },
	'drift-found': { quantity: 'ph', value: 6.4, truth: 6.1 },
	'drift-beyond-repair': {},
	'as-written': { message: 'It was said so.', nextStep: 'Do that.' },
};
const said = Object.entries(EXAMPLES).map(([code, params]) => ({ code, ...params }) as FindingSaid);

describe('what findings say', () => {
	it.each(said)('$code: one sentence of what was seen, one of what to do', (s) => {
		const { message, nextStep } = findingWords(s);
		for (const words of [message, nextStep]) {
			expect(words).toMatch(/^[A-Z0-9p].*[.?]$/);
			expect(words).not.toMatch(/undefined|NaN|null|\[object|Infinity/);
		}
	});
	it('names what was seen and what was meant', () => {
		expect(findingWords(said.find((s) => s.code === 'slip'))).toEqual({
			message:
				'1.712 mS/cm does not fit this station; did you mean 1.7 µS/cm? It looks like µS/cm written where mS/cm was expected.',
			nextStep: 'Take 1.7 µS/cm if that is what the display said; otherwise read again.',
		});
		expect(findingWords(said.find((s) => s.code === 'against-event')).message).toBe(
			'Water was added and acid was added, and yet it went from 1.5 mS/cm to 1.712 mS/cm.',
		);
		expect(findingWords({ code: 'against-event', ...EXAMPLES['against-event'], events: [] }).message).toMatch(
			/^Something was added, and yet/,
		);
		expect(findingWords(said.find((s) => s.code === 'gap')).message).toBe(
			'Nothing came for 3.0 days; it used to come every minute.',
		);
	});
	it.each([
		[{ code: 'ppm-as-unit', scale: 700, unit: 'uS/cm' }, 'ppm on the 700 scale written as uS/cm'],
		[{ code: 'other-scale', scale: 640, named: 500 }, 'the meter is on the 640 scale, not 500'],
		[{ code: 'f-as-c' }, '°F written as °C'],
		[{ code: 'mark-left-out' }, 'the decimal mark left out'],
	] as const)('a slip of %o', (how, words) => {
		expect(findingWords({ code: 'slip', ...ec, meant: 1, how }).message).toContain(`It looks like ${words}.`);
	});
	it('says nothing where nothing was found', () => {
		expect(findingWords(null)).toEqual({ message: '', nextStep: '' });
	});
});

describe('a value as it is read aloud', () => {
	it.each([
		['ph', 6.1049, 'pH 6.1'],
		['ec', 1712.4, '1.712 mS/cm'],
		['ec', 99.96, '100 µS/cm'],
		['ec', 100, '0.1 mS/cm'],
		['ec', 12.34, '12.3 µS/cm'],
		['temp', 18.25, '18.3 °C'],
		['alkalinity', 220.456, '220.46'],
	] as const)('%s %d: %s', (quantity, value, words) => {
		expect(displayValue(quantity, value)).toBe(words);
	});
});
