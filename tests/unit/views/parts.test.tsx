import { createElement, type ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { Advice } from '@/contract/doses';
import type { Product } from '@/contract/products';
import { dilute } from '@/core/mix/dilute';
import { evaluateCalibration } from '@/core/probe/calibration';
import type { Verdict } from '@/core/reading/model';
import { FoundStep } from '@/views/calibrate/FoundStep';
import { LeftSteps } from '@/views/calibrate/LeftSteps';
import { LiveVerdict } from '@/views/calibrate/LiveVerdict';
import { Result } from '@/views/calibrate/Result';
import { blank, standardsFor, start } from '@/views/calibrate/step';
import { WrongBottle } from '@/views/calibrate/WrongBottle';
import { VerdictLine } from '@/views/entry/VerdictLine';
import { Afterwards } from '@/views/mix/Afterwards';
import { BatchSheet, sheetRows } from '@/views/mix/BatchSheet';
import { CorrectEc } from '@/views/mix/CorrectEc';
import { PlanWords } from '@/views/mix/PlanWords';
import { SoFar } from '@/views/mix/SoFar';
import { GaugeStrip } from '@/views/ui/GaugeStrip';
import { StandingMark } from '@/views/ui/StandingMark';

/** Parts of the pages, drawn as the server draws them: what a person reads, and what a reader of the screen is told. */
const units = { ec: 'mS/cm', temp: 'C' } as const;
const draw = (part: ReactElement): string => renderToStaticMarkup(part);
const read = (part: ReactElement): string =>
	draw(part)
		.replace(/<[^>]+>/g, ' ')
		.replace(/&#x27;/g, '’')
		.replace(/\s+/g, ' ')
		.trim();
const nothing = () => undefined;

describe('a verdict', () => {
	const verdict = (more: Partial<Verdict>): Verdict => ({
		flag: 1,
		deciding: null,
		findings: [],
		expected: null,
		u: 0.05,
		inRange: null,
		...more,
	});
	const slip: Verdict['deciding'] = {
		check: 'slip',
		flag: 3,
		cause: 'decimal-slip',
		suggested: 5.9,
		said: { code: 'slip', quantity: 'ph', value: 59, meant: 5.9, how: { code: 'mark-one-off' } },
		evidence: {},
		weight: 99,
	};
	it('says what was seen, what to do, and offers what was probably meant', () => {
		const part = createElement(VerdictLine, {
			quantity: 'ph',
			verdict: verdict({ flag: 3, deciding: slip, findings: [slip] }),
			units,
			onFix: nothing,
			fixKey: 'f',
		});
		expect(read(part)).toContain('did you mean pH 5.9? It looks like the decimal mark one place off.');
		expect(read(part)).toContain('Take pH 5.90 f');
		expect(draw(part)).toContain('data-flag="3"');
		expect(draw(part)).toContain('data-cause="decimal-slip"');
	});
	it('a sound one says what was expected, and whether it is out of range all the same', () => {
		const words = read(
			createElement(VerdictLine, {
				quantity: 'ec',
				verdict: verdict({ expected: { value: 1800, low: 1700, high: 1900 }, inRange: false }),
				units,
				chance: 0.004,
			}),
		);
		expect(words).toContain('EC fits · expected 1.70 to 1.90');
		expect(words).toContain('in range with under 1 % chance');
		expect(words).toContain('outside the target range');
	});
});

describe('marks are told apart without colour', () => {
	it('each standing has a shape and its word', () => {
		const all = (['sound', 'doubtful', 'bad', 'restated', 'discarded'] as const).map((standing) =>
			draw(createElement(StandingMark, { standing })),
		);
		expect(
			new Set(all.map((m) => m.replace(/<span class="sr-only">.*?<\/span>/, '').replace(/color:[^"]*/, ''))).size,
		).toBe(5);
		for (const [i, word] of ['sound', 'doubtful', 'bad', 'restated', 'discarded'].entries())
			expect(all[i]).toContain(word);
	});
	it('a strip says value, uncertainty, standing, range and what was read', () => {
		const strip = draw(
			createElement(GaugeStrip, {
				quantity: 'ph',
				value: 6.11,
				u: 0.1,
				range: { low: 5.5, high: 6.5 },
				standing: 'restated',
				units,
				was: 6.4,
			}),
		);
		expect(strip).toContain('pH 6.11 ± 0.20, restated, range 5.50 to 6.50, read as 6.40');
	});
});

describe('a batch', () => {
	const feed = {
		name: 'feed A and B',
		unit: 'mL',
		parts: 2,
		learned_from_batches: 1,
		gain_us_cm_per_ml_l: 400,
		learned_gain_us_cm_per_ml_l: 419,
	} as Product;
	it('is planned with what it should come to, and how that is known', () => {
		const plan = (gain: number | undefined, expectedEcUsCm: number | null) =>
			read(
				createElement(PlanWords, {
					plan: { mlEach: 250, expectedEcUsCm },
					feed,
					litres: 100,
					asLabel: '50.7 tsp',
					gain,
					waterEcUsCm: 780,
					units,
				}),
			);
		expect(plan(419, 1830)).toBe(
			'250 mL (50.7 tsp) of each of 2 parts (2.50 mL/L). EC should come to 1.83 mS/cm, of which 0.78 is the water’s own. Its gain, 419 µS/cm for each mL/L, is what it showed the last time.',
		);
		expect(plan(undefined, null)).toContain('What EC it brings is not known yet; this batch teaches it.');
	});
	const correct = (seen: number, more: number, capacityL?: number) =>
		createElement(CorrectEc, {
			seen,
			target: 1800,
			tooHigh: seen > 1800,
			tooLow: seen < 1800,
			correction:
				seen > 1800 ? dilute({ volumeL: 100, ecUsCm: seen, targetEcUsCm: 1800, withEcUsCm: 400, capacityL }) : null,
			more,
			plan: { unit: 'mL', parts: 2, water: 'Borehole' },
			units,
			onDone: nothing,
			onLeave: nothing,
		});
	it('too strong is drained and topped up, with where it may run off', () => {
		expect(read(correct(2100, Number.NaN))).toContain('EC 2.10 is above the target of 1.80. Add 21 L of Borehole.');
		expect(read(correct(2100, Number.NaN, 100))).toMatch(
			/Drain 18 L and add 18 L of Borehole\..*local discharge rules/,
		);
	});
	it('too weak is fed more, with the caution; where nobody knows how much, that is said', () => {
		expect(read(correct(1600, 45))).toMatch(
			/Add 45.0 mL more of each part, stirred in between\. .*Gloves and eye protection/,
		);
		expect(read(correct(1600, Number.NaN))).toContain('How much feed that takes is not known');
		expect(draw(correct(1600, Number.NaN))).toMatch(/<button[^>]*disabled[^>]*>Done: measure again/);
	});
	it('keeps what was done, and that a doubt was kept', () => {
		const step = (s: object) => ({ time: '2026-07-14T09:00:00Z', expected: null, measured: null, ...s }) as never;
		const words = read(
			createElement(SoFar, {
				log: [
					step({ step: 'part', words: '250 mL of part A' }),
					step({ step: 'ec', words: 'EC 1.90', measured: 1900, expected: 1830, doubt: 'It jumps.' }),
					step({ step: 'done', words: 'done' }),
				],
				mS: (v: number) => (v / 1000).toFixed(2),
			}),
		);
		expect(words).toBe('✓ 250 mL of part A ◐ EC 1.90 (expected 1.83) kept though it was doubted');
	});
	it('on paper has a line for every step, pH where it is set first too', () => {
		const draft = { targetPh: '5.8', phFirst: true } as Parameters<typeof sheetRows>[0];
		const rows = sheetRows(
			draft,
			feed,
			{ litres: 100, water: 'Borehole', tank: 'Mix tank', amount: '250 mL', asLabel: null, expectedEcUsCm: 1830 },
			units,
		);
		expect(rows[0]![0]).toBe('100 L of Borehole into Mix tank');
		expect(rows[1]![0]).toContain('pH of the water, target 5.8');
		expect(rows.filter(([what]) => what.includes('part '))).toHaveLength(2);
		expect(read(createElement(BatchSheet, { title: 'leaf', rows }))).toContain('acid into water, never the reverse');
	});
});

describe('after a dose', () => {
	const advice = (more: Partial<Advice>) => ({ do: 'dose', ...more }) as Advice;
	it('tells where the pH goes by itself, and what is left to hold it', () => {
		const words = read(
			createElement(Afterwards, {
				advice: advice({
					rebound: [
						{ time: '2026-07-14T10:00:00Z', when: 'hour', ph: 5.94, low_ph: 5.8, high_ph: 6.1 },
						{ time: '2026-07-15T09:00:00Z', when: 'day', ph: 6.62, low_ph: 6.2, high_ph: 7 },
					],
					alkalinity_left_meq_l: { value: 1.24, low: 0.8, high: 1.7 },
					rebound_ends: 'It ends when the alkalinity is used up.',
				}),
			}),
		);
		expect(words).toContain('in an hour tomorrow alkalinity left, meq/L');
		expect(words).toContain('5.9 5.8 to 6.1 6.6 6.2 to 7.0 1.2 0.8 to 1.7');
		expect(words).toContain('It ends when');
	});
	it('says nothing where there is no dose', () => {
		expect(draw(createElement(Afterwards, { advice: advice({ do: 'wait' }) }))).toBe('');
	});
});

describe('a calibration', () => {
	it('begins with two buffers or one conductivity standard', () => {
		expect(start('ph').map((s) => s.standard)).toEqual(['pH 7.00', 'pH 4.01']);
		expect(start('ec').map((s) => s.standard)).toEqual(['KCl 1413']);
		expect(standardsFor('ec')).toContain('KCl 12880');
	});
	const step = (more: object) =>
		createElement(FoundStep, {
			number: 0,
			step: blank('pH 7.00'),
			quantity: 'ph',
			nominal: null,
			show: (v: number) => v.toFixed(2),
			unit: '',
			showsMv: false,
			lots: [
				{
					id: 1,
					name: 'seven A',
					standard: 'pH 7.00',
					own_table: null,
					tolerance: null,
					opened: null,
					expires: null,
					single_use: false,
				},
				{
					id: 2,
					name: 'four A',
					standard: 'pH 4.01',
					own_table: null,
					tolerance: null,
					opened: null,
					expires: null,
					single_use: false,
				},
			],
			onChange: nothing,
			...more,
		});
	it('says what a standard should show at this temperature, or how far its table runs', () => {
		expect(draw(step({}))).toContain('data-nominal="0">–<');
		expect(draw(step({ nominal: { ok: true, value: 7.02 } }))).toContain('data-nominal="0">7.02<');
		expect(read(step({ nominal: { ok: false, text: 'its table runs from 5 to 40 °C' } }))).toContain(
			'runs from 5 to 40',
		);
	});
	it('offers the bottles of this standard alone, and mV where the meter shows it', () => {
		expect(draw(step({}))).toContain('<option>seven A</option>');
		expect(draw(step({}))).not.toContain('four A');
		expect(draw(step({ showsMv: true }))).toContain('mV');
		expect(draw(step({ showsMv: true }))).not.toContain('seven A');
	});
	it('as left has a field for each standard with what it should be', () => {
		const left = draw(createElement(LeftSteps, { steps: start('ph'), placeholders: ['7.02', ''], onChange: nothing }));
		expect(left.match(/id="c-left-/g)).toHaveLength(2);
		expect(left).toContain('placeholder="7.02"');
	});
	it('asks which bottle it is before it calls the probe wrong', () => {
		const asked = read(
			createElement(WrongBottle, { found: '4.05', other: 'pH 4.01', onOther: nothing, onRight: nothing }),
		);
		expect(asked).toBe('It reads 4.05: is this the pH 4.01 bottle? Yes, pH 4.01 No, it is right as it is');
	});
	const live = (points: { nominal: number; asFound: number }[]) =>
		createElement(LiveVerdict, {
			quantity: 'ph',
			result: evaluateCalibration('ph', points, 25),
			points: points.length,
		});
	it('tells while it is typed what the values say, in the words of its reasons', () => {
		expect(
			read(
				live([
					{ nominal: 7, asFound: 7.02 },
					{ nominal: 4, asFound: 4.03 },
				]),
			),
		).toBe('Good · offset +0.02 pH, slope 99.7 %');
		const bad = live([
			{ nominal: 7, asFound: 7.5 },
			{ nominal: 4, asFound: 5.1 },
		]);
		expect(read(bad)).toMatch(/^Fails · offset \+0.50 pH, slope 80.0 % Slope 80.0 % is below 85 %/);
		expect(draw(bad)).toContain('data-live="fail"');
		expect(read(live([{ nominal: 7, asFound: 7.02 }]))).toContain('One buffer shows the offset only');
		expect(
			read(
				live([
					{ nominal: 7, asFound: 7 },
					{ nominal: 7, asFound: 7.1 },
				]),
			),
		).toContain('The same standard is given twice');
	});
	it('and afterwards what it means for the readings before', () => {
		const outcome = {
			id: 3,
			result: { offset: 0.31, offset_mv: null, slope_pct: 96.2, cell_factor: null, verdict: 'watch', reasons: [] },
			doubts: ['The bottle four A expired on 2026-05-01; check with a fresh one.'],
			points: [],
			restated: 1,
			rejected: 2,
			provisional: true,
		} as Parameters<typeof Result>[0]['outcome'];
		const probe = { name: 'Plum', instrument: 'plum', quantity: 'ph', last_offset: null } as Parameters<
			typeof Result
		>[0]['probe'];
		const words = read(createElement(Result, { outcome, probe, onAgain: nothing }));
		expect(words).toContain('Plum: watch it As found it was 0.31 too high, slope 96.2 %.');
		expect(words).toContain('It is the first calibration of this probe here.');
		expect(words).toContain('1 reading since the last calibration has been restated');
		expect(words).toContain('It is provisional');
		expect(words).toContain('2 lie too far off to be put right.');
		expect(words).toContain('the bulb stays wet');
	});
});
