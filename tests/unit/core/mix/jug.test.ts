import { describe, expect, it } from 'vitest';
import { readJug } from '@/core/mix/jug';
import { DosingTank } from '@/sim/dosing-world';
import { seeded } from '@/sim/random';

describe('jug titration', () => {
	const steps = [
		{ ml: 0, ph: 7 },
		{ ml: 0.1, ph: 6.6 },
		{ ml: 0.3, ph: 6.1 },
	];
	it('gives a strength, the buffer over the way, and the mL to a pH in between', () => {
		const r = readJug(steps, 1);
		if (!r.ok) throw new Error(r.problem.code);
		expect(r.value.strengthMeqMl).toBeGreaterThan(0);
		expect(r.value.bufferMeqLPh).toBeCloseTo((r.value.strengthMeqMl * 0.3) / 0.9, 9);
		expect(r.value.mlPerLitreTo(6.35)).toBeCloseTo(0.2, 9);
		expect(r.value.mlPerLitreTo(5)).toBeNull();
	});
	it('shows the true strength of a simulated product within a third, in a solution like the assumed one', () => {
		const tank = new DosingTank(
			{
				volumeL: 1,
				alkalinityMeqL: 1,
				phosphateMmolL: 1,
				ammoniumMmolL: 0,
				tempC: 20,
				productMeqMl: 3,
				startPh: 7,
			},
			seeded(7),
		);
		const noted = [{ ml: 0, ph: tank.ph }];
		for (let n = 1; n <= 4; n++) {
			tank.pour(0.1);
			noted.push({ ml: 0.1 * n, ph: tank.ph });
		}
		const r = readJug(noted, 1);
		expect(r.ok && Math.abs(r.value.strengthMeqMl / 3 - 1)).toBeLessThan(0.33);
	});
	it.each([
		['no first reading', steps.slice(1), 1],
		['hardly moved', [steps[0]!, { ml: 0.1, ph: 6.95 }], 1],
		['went back', [...steps, { ml: 0.4, ph: 6.6 }], 1],
		['no jug', steps, 0],
	] as const)('refuses: %s', (_, list, litres) => {
		expect(readJug(list, litres).ok).toBe(false);
	});
});
