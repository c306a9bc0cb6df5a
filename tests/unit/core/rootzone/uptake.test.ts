import { describe, expect, it } from 'vitest';
import type { BelievedReading } from '@/core/reading/believed';
import { type TankAct, tankStretches } from '@/core/rootzone/tank-looks';
import { nextTopUp, type Stretch, uptakeOf } from '@/core/rootzone/uptake';
import { seeded } from '@/sim/random';
import { Tank } from '@/sim/tank';
import reference from '../../../reference/uptake.json';

/** Mass balance: Δ(EC·V)/ΔV between additions (Sonneveld and Voogt 2009, from memory); figures by hand. */
const DAY = 86_400_000;
const look = (day: number, value: number, litres: number) => ({
	at: day * DAY,
	value,
	u: 0.01 * value,
	meterShare: 0.02,
	litres,
	litresU: 0.5,
});
const stretch = (a: [number, number, number], b: [number, number, number]): Stretch => ({
	first: look(...a),
	last: look(...b),
});

describe('what plants take from a tank', () => {
	it('EC rising as the level falls: they take less salt than water', () => {
		// (2000·100 − 2200·80)/20 = 1200 µS/cm, 20 L in five days.
		const u = uptakeOf([stretch([0, 2000, 100], [5, 2200, 80])])!;
		expect([u.taken.value, u.perDayL.value, u.says]).toEqual([1200, 4, 'takes-less']);
		expect(u.tank).toBe(2100);
	});
	it('EC falling with the level: they take more', () => {
		// (2000·100 − 1700·70)/30 = 2700.
		const u = uptakeOf([stretch([0, 2000, 100], [5, 1700, 70])])!;
		expect([u.taken.value, u.says]).toEqual([2700, 'takes-more']);
	});
	it.each(reference)('$name: bounds as an independent Monte Carlo has them (numpy, 2,000,000 draws)', (r) => {
		const found = uptakeOf(
			r.stretches.map(([e1, u1, v1, w1, e2, u2, v2, w2], i) => ({
				first: { at: 8 * i * DAY, value: e1!, u: u1!, meterShare: r.meter_share, litres: v1!, litresU: w1! },
				last: { at: (8 * i + 7) * DAY, value: e2!, u: u2!, meterShare: r.meter_share, litres: v2!, litresU: w2! },
			})),
		)!;
		const [low, high] = r.taken as [number, number];
		expect(Math.abs(found.taken.low - low)).toBeLessThan(0.08 * (high - low));
		expect(Math.abs(found.taken.high - high)).toBeLessThan(0.08 * (high - low));
	});
	it('of a few litres it says nothing; several stretches say more together', () => {
		const one = stretch([0, 2000, 100], [1, 2020, 98]);
		expect(uptakeOf([one])!.says).toBe('unknown');
		const many = Array.from({ length: 12 }, (_, i) => stretch([6 * i, 2000, 100], [6 * i + 5, 2100, 90]));
		const [few, all] = [uptakeOf(many.slice(0, 1))!, uptakeOf(many)!];
		expect(all.taken.value).toBeCloseTo(few.taken.value, 9);
		expect(all.taken.high - all.taken.low).toBeLessThan(few.taken.high - few.taken.low);
	});
	it('nothing drunk is nothing taken', () => {
		expect(uptakeOf([stretch([0, 2000, 80], [5, 2000, 80])])).toBeNull();
		expect(uptakeOf([])).toBeNull();
	});
});

describe('the next top-up', () => {
	const u = { perDayL: { value: 4, low: 3.2, high: 5 }, taken: { value: 1200, low: 1100, high: 1300 }, unknown: false };
	it('comes out on target: when, how much, how strong', () => {
		const t = nextTopUp({ litres: 90, ecUsCm: 2100, fullL: 100, leastL: 80, targetUsCm: 2000 }, u)!;
		expect([t.fromDays, t.toDays, t.addL]).toEqual([2, 3.125, 20]);
		// (2100·90 − 1200·10)/80 = 2212.5; (2000·100 − 2212.5·80)/20 = 1150.
		expect([t.thenEcUsCm.value, t.withEcUsCm.value]).toEqual([2212.5, 1150]);
		expect((t.thenEcUsCm.value * 80 + t.withEcUsCm.value * 20) / 100).toBe(2000);
	});
	it('says where no water is weak enough', () => {
		const t = nextTopUp({ litres: 80, ecUsCm: 3000, fullL: 100, leastL: 80, targetUsCm: 2000 }, u)!;
		expect(t.withEcUsCm.value).toBeLessThan(0);
		expect(t.stillUsCm).toBe(2400);
	});
	it('is not said of what is unknown', () => {
		const now = { litres: 90, ecUsCm: 2100, fullL: 100, leastL: 80, targetUsCm: 2000 };
		expect(nextTopUp(now, { ...u, unknown: true })).toBeNull();
		expect(nextTopUp(now, { ...u, perDayL: { value: 1, low: -1, high: 3 } })).toBeNull();
	});
});

describe('looks at a tank', () => {
	const reading = (day: number, value: number): BelievedReading => ({
		id: 1,
		at: day * DAY,
		value,
		u: 0.022 * value,
		instrument: 'plum',
	});
	const filled = (day: number, litres: number | null): TankAct => ({ at: day * DAY, kind: 'filled', litres });
	it('by the dipstick where it was read, else by being filled to the same mark', () => {
		const ec = [reading(0.1, 2000), reading(4.9, 2200), reading(5.1, 2000), reading(9.9, 2200)];
		const acts = [filled(0, 20), filled(5, 20), filled(10, 20)];
		const mark = tankStretches(ec, [], acts, 100);
		expect([mark.known, mark.stretches.length]).toEqual(['mark', 2]);
		expect(mark.stretches[0]!.last.litres).toBeCloseTo(100 - 20 * 0.98, 9);
		const levels = [
			{ at: 0.1 * DAY, litres: 99 },
			{ at: 4.9 * DAY, litres: 79 },
		];
		const stick = tankStretches(ec, levels, acts, 100);
		expect([stick.known, stick.stretches.length, stick.stretches[0]!.last.litres]).toEqual(['level', 1, 79]);
	});
	it('an amount that nobody wrote down, or another act, says nothing of the litres', () => {
		const ec = [reading(0.1, 2000), reading(4.9, 2200)];
		expect(tankStretches(ec, [], [filled(0, 20), filled(5, null)], 100).known).toBeNull();
		expect(tankStretches(ec, [], [{ at: 0, kind: 'other', litres: null }, filled(5, 20)], 100).known).toBeNull();
		expect(tankStretches(ec, [], [filled(0, 20), filled(5, 20)], null).known).toBeNull();
	});
	/** The tank of the demo (src/sim/tank.ts), written long before: what its plants take is known. */
	it('intervals hold 90 to 98 % of what simulated plants took, by dipstick and by the mark', () => {
		let [held, all] = [0, 0];
		for (let seed = 1; seed <= 240; seed++) {
			const c = seeded(seed * 77 + 3);
			const uptakeEcUsCm = c.between(900, 2400);
			const traits = {
				fullL: 600,
				drinkLPerDay: c.between(20, 60),
				uptakeEcUsCm,
				phRisePerDay: 0.05,
				bufferMeq: 1,
				meanTempC: 20,
			};
			const tank = new Tank(traits, { volumeL: 600, ecUsCm: 2000, ph: 5.8, tempC: 20 });
			const off = 1 + 0.02 * c.normal();
			const [ec, levels, acts]: [BelievedReading[], { at: number; litres: number }[], TankAct[]] = [
				[],
				[],
				[filled(0, 0)],
			];
			for (let day = 0; day < 24; day++) {
				const shown = tank.state.ecUsCm * off * (1 + 0.01 * c.normal());
				ec.push({ id: 1, at: (day + 0.3) * DAY, value: shown, u: Math.hypot(0.02, 0.01) * shown, instrument: 'plum' });
				levels.push({ at: (day + 0.3) * DAY, litres: tank.state.volumeL + 0.005 * 600 * c.normal() });
				tank.live(24, 0.3, c);
				if (day % 6 !== 5) continue;
				const litres = (600 - tank.state.volumeL) * (1 + 0.01 * c.normal());
				tank.add(litres, 1500, 5.8);
				acts.push(filled(day + 1, Math.round(litres)));
			}
			const { stretches } = tankStretches(ec, seed % 2 ? levels : [], acts, 600);
			const { taken } = uptakeOf(stretches)!;
			all++;
			if (taken.low <= uptakeEcUsCm && uptakeEcUsCm <= taken.high) held++;
		}
		expect(held / all).toBeGreaterThan(0.9);
		expect(held / all).toBeLessThan(0.99);
	});
});
