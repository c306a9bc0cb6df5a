import { describe, expect, it } from 'vitest';
import { countSwing, noRhythm, swing } from '@/core/judge/day-rhythm';
import { Engine } from '@/core/judge/engine';
import { seeded } from '@/sim/random';
import { DAY, NEXT, reading, START, stationOf } from '../../../helpers/small-site';

describe('rhythm of the day', () => {
	it('learns that evenings are higher, and forgets nothing of a flat day', () => {
		const r = noRhythm();
		for (let d = 0; d < 20; d++) {
			countSwing(r, START + d * DAY, -0.15);
			countSwing(r, START + d * DAY + 12 * 3_600_000, 0.15);
		}
		expect(swing(r, START + 30 * DAY)).toBeCloseTo((-0.15 * 20) / 23, 9);
		expect(swing(r, START + 12 * 3_600_000)).toBeGreaterThan(0.12);
		expect(swing(r, START + 6 * 3_600_000)).toBe(0);
	});
	it('narrows the prediction of a station read morning and evening', () => {
		const e = new Engine(
			{ stations: new Map([stationOf('pond', 'reservoir')]), instruments: new Map() },
			() => NEXT * 2,
		);
		const chance = seeded(5);
		for (let d = 0; d < 40; d++)
			for (const [hours, swingBy] of [
				[0, -0.2],
				[10, 0.2],
			] as const)
				e.take([
					reading(
						START + d * DAY + hours * 3_600_000,
						'pond',
						'ph',
						(6 + swingBy + 0.02 * chance.normal()).toFixed(2),
						'pH',
					),
				]);
		const morning = e.expect('pond', 'ph', START + 40 * DAY)!;
		const evening = e.expect('pond', 'ph', START + 40 * DAY + 10 * 3_600_000)!;
		expect(evening.level - morning.level).toBeGreaterThan(0.2);
		expect(Math.abs(morning.level - 5.8)).toBeLessThan(0.15);
	});
});
