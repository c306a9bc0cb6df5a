import { describe, expect, it } from 'vitest';
import { evaluateCalibration } from '@/core/probe/calibration';
import { nernstSlopeMv } from '@/core/probe/nernst';

describe('electrode', () => {
	// CODATA 2018 constants; handbook values of the Nernst slope.
	it.each([
		[0, 54.2],
		[20, 58.17],
		[25, 59.16],
		[37, 61.54],
	])('Nernst slope at %d °C is %d mV', (t, mv) => expect(nernstSlopeMv(t)).toBeCloseTo(mv, 2));
	it('slope and offset from mV: an ideal electrode at 25 °C is 100 % and 0 mV', () => {
		const k = nernstSlopeMv(25);
		const r = evaluateCalibration(
			'ph',
			[
				{ nominal: 7, asFound: 7, mv: 0 },
				{ nominal: 4, asFound: 4, mv: 3 * k },
			],
			25,
		);
		expect(r).toMatchObject({ ok: true, value: { verdict: 'good', reasons: [] } });
		expect(r.ok && r.value.slopePct).toBeCloseTo(100, 9);
		expect(r.ok && r.value.offsetMv).toBeCloseTo(0, 9);
	});
	it('limits at their edges: slope 95–102 good, 85 and 105 watch, beyond fail; offset 15 and 30 mV (common practice)', () => {
		const k = nernstSlopeMv(25);
		const verdict = (slope: number, offset = 0) => {
			const r = evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 7, mv: offset },
					{ nominal: 4, asFound: 4, mv: offset + 3 * k * slope },
				],
				25,
			);
			return r.ok ? r.value.verdict : r.problem;
		};
		expect([0.951, 1.019].map((s) => verdict(s))).toEqual(['good', 'good']);
		expect([0.949, 0.851, 1.021, 1.049].map((s) => verdict(s))).toEqual(['watch', 'watch', 'watch', 'watch']);
		expect([0.849, 1.051].map((s) => verdict(s))).toEqual(['fail', 'fail']);
		expect([14.9, 15.1, 29.9, 30.1].map((o) => verdict(1, o))).toEqual(['good', 'watch', 'watch', 'fail']);
	});
	it('a pen 0.24 wrong is not good because its electrode is healthy', () => {
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7.01, asFound: 7.25 },
					{ nominal: 4.01, asFound: 4.25 },
				],
				25,
			),
		).toMatchObject({ value: { verdict: 'fail' } });
		expect(evaluateCalibration('ph', [{ nominal: 7.01, asFound: 7.11 }], 25)).toMatchObject({
			value: { verdict: 'good', slopePct: null },
		});
	});
	it('slow settling is a sign of a dry bulb', () =>
		expect(evaluateCalibration('ph', [{ nominal: 7, asFound: 7 }], 25, 75)).toMatchObject({
			value: { verdict: 'watch' },
		}));
	it('EC cell factor: ±5 % good, ±20 % watch', () => {
		const verdict = (found: number) => {
			const r = evaluateCalibration('ec', [{ nominal: 1413, asFound: found }], 25);
			return r.ok && r.value.verdict;
		};
		expect([1413 / 1.049, 1413 / 1.051, 1413 / 1.199, 1413 / 1.201].map(verdict)).toEqual([
			'good',
			'watch',
			'watch',
			'fail',
		]);
	});
	it('refuses a slope from nothing', () => {
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 6.9 },
					{ nominal: 7, asFound: 7 },
				],
				25,
			),
		).toMatchObject({ ok: false, problem: 'same-standard-twice' });
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 6.9 },
					{ nominal: 4, asFound: 6.9 },
				],
				25,
			),
		).toMatchObject({ ok: false, problem: 'no-answer' });
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 4 },
					{ nominal: 4, asFound: 7 },
				],
				25,
			),
		).toMatchObject({ value: { verdict: 'fail' } });
		expect(evaluateCalibration('ec', [{ nominal: 1413, asFound: 0 }], 25)).toMatchObject({ ok: false });
		expect(evaluateCalibration('ph', [], 25)).toMatchObject({ ok: false });
	});
	it('standards less than two pH apart tell the offset and judge no slope (common practice, no source)', () => {
		const near = evaluateCalibration(
			'ph',
			[
				{ nominal: 6.86, asFound: 6.9 },
				{ nominal: 7.0, asFound: 7.02 },
			],
			25,
		);
		expect(near).toMatchObject({ ok: true, value: { slopePct: null, verdict: 'good' } });
	});
});
