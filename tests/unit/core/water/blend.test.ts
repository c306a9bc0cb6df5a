import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blend } from '@/core/water/blend';

describe('blends', () => {
	const two = (a: number, b: number) => [{ ecUsCm: a }, { ecUsCm: b }];
	it('equal parts of 130 and 0 give 65 (common practice)', () => {
		const r = blend([
			{ ecUsCm: 130, volumeL: 5 },
			{ ecUsCm: 0, volumeL: 5 },
		]);
		expect(r.ok && r.value.ecUsCm).toBeCloseTo(65, 9);
	});
	it('an answer is refused exactly when no mixture reaches it, and salt is conserved (property)', () => {
		const amount = fc.double({ min: 0, max: 3000, noNaN: true });
		fc.assert(
			fc.property(
				fc.array(amount, { minLength: 1, maxLength: 5 }),
				amount,
				fc.double({ min: 1, max: 5000, noNaN: true }),
				(list, target, total) => {
					const r = blend(
						list.map((ecUsCm) => ({ ecUsCm })),
						{ ecUsCm: target },
						total,
					);
					const reachable = target >= Math.min(...list) && target <= Math.max(...list);
					if (!r.ok) return !reachable || Math.max(...list) - Math.min(...list) < 1e-6;
					const sum = r.value.volumesL.reduce((a, b) => a + b, 0);
					const salt = r.value.volumesL.reduce((a, v, i) => a + v * list[i]!, 0);
					return (
						r.value.fractions.every((f) => f >= 0) &&
						Math.abs(sum - total) < 1e-6 * total &&
						Math.abs(salt / sum - target) < 1e-6 * Math.max(target, 1)
					);
				},
			),
		);
	});
	it('two targets with three waters; contradictory ones are refused; an unmeasured alkalinity is unknown and not 0', () => {
		const waters = [
			{ ecUsCm: 780, alkalinityMgLCaco3: 210 },
			{ ecUsCm: 60, alkalinityMgLCaco3: 15 },
			{ ecUsCm: 900, alkalinityMgLCaco3: 40 },
		];
		const r = blend(waters, { ecUsCm: 400, alkalinityMgLCaco3: 60 }, 100);
		if (!r.ok) throw new Error(r.problem.code);
		expect(r.value.ecUsCm).toBeCloseTo(400, 6);
		expect(r.value.alkalinityMgLCaco3).toBeCloseTo(60, 6);
		expect(blend(waters, { ecUsCm: 880, alkalinityMgLCaco3: 200 })).toMatchObject({
			problem: { code: 'targets-contradict' },
		});
		expect(blend([{ ecUsCm: 780 }, { ecUsCm: 60, alkalinityMgLCaco3: 15 }], { alkalinityMgLCaco3: 40 })).toMatchObject({
			ok: false,
			problem: { code: 'water-not-measured', field: 'waters.0', water: 1 },
		});
		const unknown = blend([
			{ ecUsCm: 780, volumeL: 1 },
			{ ecUsCm: 60, alkalinityMgLCaco3: 15, volumeL: 1 },
		]);
		expect(unknown.ok && unknown.value.alkalinityMgLCaco3).toBeNull();
		expect(blend(two(780, 60), { ecUsCm: 900 })).toMatchObject({ ok: false, problem: { field: 'target.ec_us_cm' } });
		expect(blend([{ ecUsCm: 1 }, { ecUsCm: 2 }])).toMatchObject({ ok: false, problem: { field: 'waters' } });
	});
	it('takes the cheapest waters that reach the target', () => {
		const r = blend(
			[
				{ ecUsCm: 780, costPerL: 0 },
				{ ecUsCm: 20, costPerL: 1 },
				{ ecUsCm: 60, costPerL: 0.01 },
			],
			{ ecUsCm: 300 },
		);
		expect(r.ok && r.value.fractions[1]).toBe(0);
	});
	it('pH comes from carbonate chemistry: hard water and rain do not average', () => {
		const r = blend([
			{ ecUsCm: 780, alkalinityMgLCaco3: 210, ph: 7.4, volumeL: 1 },
			{ ecUsCm: 50, alkalinityMgLCaco3: 5, ph: 5.8, volumeL: 1 },
		]);
		// The average would be 6.6; the hard water’s carbonate decides.
		expect(r.ok && r.value.ph).toBeGreaterThan(7);
	});
});
