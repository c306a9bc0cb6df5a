import { describe, expect, it } from 'vitest';
import { settling } from '@/core/reading/settling';
import { PLAIN_METER, SimulatedMeter } from '@/sim/meter';
import { seeded } from '@/sim/random';

describe('the simulated meter behaves as meters do', () => {
	const meter = (more = {}) => new SimulatedMeter({ ...PLAIN_METER, ...more }, seeded(1));
	const TANK = { ph: 5.8, ecUsCm: 1900, tempC: 20 };
	const RO = { ph: 6.2, ecUsCm: 28, tempC: 15 };
	const settled = (m: SimulatedMeter, seconds: number) => {
		for (let s = 0; s < seconds; s++) m.after(1);
		return m.after(1);
	};
	it('ends at the water it is in, after a rinse', () => {
		const m = meter();
		m.store();
		m.rinse();
		m.dip(TANK);
		const shown = settled(m, 60);
		expect(Math.abs(shown.ph - 5.8)).toBeLessThan(0.02);
		expect(Math.abs(shown.ecUsCm / 1900 - 1)).toBeLessThan(0.02);
	});
	it('brings salt from the storage cap when it is not rinsed, many times what pure water has', () => {
		const m = meter();
		m.store();
		m.dip(RO);
		expect(settled(m, 200).ecUsCm).toBeGreaterThan(200);
		m.store();
		m.rinse();
		m.dip(RO);
		expect(settled(m, 200).ecUsCm).toBeLessThan(40);
	});
	it('without compensation reads about 2 % low for each °C below 25', () => {
		const m = meter({ compensates: false });
		m.store();
		m.rinse();
		m.dip({ ...TANK, tempC: 15 });
		expect(settled(m, 100).ecUsCm / 1900).toBeCloseTo(0.805, 2);
	});
	it('is still moving after 20 s in pure water and has settled after a minute in nutrient', () => {
		const m = meter();
		const ph = (water: typeof RO, seconds: number) => {
			m.store();
			m.rinse();
			m.dip(water);
			return settling(
				'ph',
				Array.from({ length: seconds }, (_, s) => ({ s, value: m.after(1).ph })),
			).state;
		};
		expect(ph(TANK, 60)).toBe('settled');
		expect(ph(RO, 20)).not.toBe('settled');
	});
	it('a bubble reads low until it is swirled away', () => {
		const m = meter({ bubbleChance: 1 });
		m.store();
		m.rinse();
		m.dip(TANK);
		expect(settled(m, 30).ecUsCm).toBeLessThan(1400);
		m.swirl();
		expect(settled(m, 30).ecUsCm).toBeGreaterThan(1850);
	});
});
