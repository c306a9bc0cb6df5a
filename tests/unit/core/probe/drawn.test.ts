import { describe, expect, it } from 'vitest';
import { drawCurve, metMarks } from '@/core/probe/drawn';
import { pairsOf } from '@/core/probe/error-curve/pairs';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import type { ProbeCalibration } from '@/core/probe/error-curve/visit';
import { evidenceOf } from '@/core/probe/evidence';

const DAY = 86_400_000;
const at = (day: number, found: number): ProbeCalibration => ({
	id: day + 1,
	at: day * DAY,
	kind: 'adjust',
	points: [{ nominal: 7, asFound: found, asLeft: 7, u: 0 }],
});
const probes = [
	{ code: 'a', calibrations: [at(0, 7), at(20, 7.4)], jumps: [] },
	{ code: 'b', calibrations: [at(0, 7), at(9, 7), at(18, 7)], jumps: [] },
];
const pairs = pairsOf(
	'ph',
	[5, 10, 15].flatMap((day) =>
		(['a', 'b'] as const).map((probe, i) => ({
			id: day * 10 + i,
			probe,
			continuous: false,
			station: 'pond',
			sample: String(day),
			at: day * DAY,
			value: 6 + (probe === 'a' ? 0.02 * day : 0),
			uRepeat: 0.02,
		})),
	),
	() => false,
);
const errors = new SiteErrors('ph', probes, pairs);

describe('the drawn curve', () => {
	const curve = drawCurve('ph', errors.of('a')!, 0, 25 * DAY);
	it('goes in order of time through what was found at each visit, and starts anew from what was left', () => {
		expect(curve.every((p, i) => i === 0 || p.at >= curve[i - 1]!.at)).toBe(true);
		const before = curve.findLast((p) => p.at < 20 * DAY)!;
		const after = curve.find((p) => p.at >= 20 * DAY)!;
		expect(before.error).toBeCloseTo(0.4, 2);
		expect(after.error).toBeCloseTo(0, 2);
		expect(curve.find((p) => p.at > 9.5 * DAY)!.error).toBeCloseTo(0.2, 1);
	});
	it('has no more than some hundred points, whatever the span', () => {
		expect(drawCurve('ph', errors.of('a')!, 0, 5000 * DAY).length).toBeLessThan(200);
		expect(drawCurve('ph', errors.of('a')!, 5 * DAY, 5 * DAY)).toEqual([]);
	});
	it('marks what it was held against without the error of that', () => {
		const marks = metMarks('ph', errors.of('a')!, (code) => errors.of(code)!, 400);
		expect(marks.map((m) => [m.at / DAY, m.other])).toEqual([
			[5, 'b'],
			[10, 'b'],
			[15, 'b'],
		]);
		for (const m of marks) expect(m.error).toBeCloseTo((0.02 * m.at) / DAY, 1);
		expect(metMarks('ph', errors.of('a')!, (code) => errors.of(code)!, 2)).toHaveLength(2);
	});
});

describe('what a reading’s error is known from', () => {
	const reading = { probe: 'a', at: 10.5 * DAY, value: 6.2 };
	const found = evidenceOf('ph', probes, pairs, reading);
	it('its two calibrations, and whom it was held against between them', () => {
		expect(found).toMatchObject({ from: 0, to: 20 * DAY, beside: [{ other: 'b', times: 3, counted: 3 }] });
		expect(found.calibrations.error).toBeCloseTo(0.21, 10);
	});
	it('a share is what would not be known without it: 1 − u²/u²(without)', () => {
		expect(found.all.u).toBeLessThan(found.calibrations.u);
		expect(found.beside[0]!.share).toBeCloseTo(1 - (found.all.u / found.calibrations.u) ** 2, 10);
	});
	it('after the last visit only what was known when it was taken counts', () => {
		const open = evidenceOf('ph', [{ ...probes[0]!, calibrations: [at(0, 7)] }, probes[1]!], pairs, {
			...reading,
			at: 6 * DAY,
		});
		expect(open).toMatchObject({ from: 0, to: null, beside: [{ other: 'b', times: 1 }] });
	});
});
