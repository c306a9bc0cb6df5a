import { describe, expect, it } from 'vitest';
import { planTopUp } from '@/core/mix/top-up';

describe('a top-up down to its target', () => {
	it('says how much of this water alone lands on the target, where it fits', () => {
		const plan = (capacityL: number) =>
			planTopUp({
				volumeL: 100,
				ecUsCm: 2200,
				addL: 5,
				withEcUsCm: 200,
				targetEcUsCm: 2000,
				capacityL,
				stirred: true,
			});
		const toTarget = (capacityL: number) => {
			const p = plan(capacityL);
			return p.ok ? p.value.toTarget! : null;
		};
		// 100·(2200 − 2000)/(2000 − 200) = 11.1 L; where only 110 L fit, 110·200/2000 = 11 L go in after 1 L was drained.
		expect(toTarget(120)).toEqual({ drainL: 0, addL: expect.closeTo(11.11, 2) });
		expect(toTarget(110)).toEqual({ drainL: expect.closeTo(1, 6), addL: expect.closeTo(11, 6) });
	});
});

describe('topping up', () => {
	const plan = (more: Partial<Parameters<typeof planTopUp>[0]> = {}) =>
		planTopUp({ volumeL: 12, ecUsCm: 2000, addL: 2, withEcUsCm: 600, stirred: true, ...more });
	it('EC by mass balance: 12 L of 2000 and 2 L of 600 make 1800', () => {
		expect(plan()).toMatchObject({ ok: true, value: { volumeL: 14, ecUsCm: 1800, feedMlEach: 0 } });
	});
	it('what feed brings it to the target: 100 µS/cm short at 400 per mL/L in 14 L is 3.5 mL', () => {
		expect(plan({ targetEcUsCm: 1900, gainUsCmPerMlL: 400 })).toMatchObject({ value: { feedMlEach: 3.5 } });
		expect(plan({ targetEcUsCm: 1900 })).toMatchObject({ value: { feedMlEach: null } });
	});
	it('2 L into 12 L that cannot be stirred go in parts, with hours between', () => {
		const p = plan({ stirred: false });
		expect(p.ok && p.value.parts.length).toBe(3);
		expect(p.ok && p.value.parts.at(-1)!.ecUsCm).toBeCloseTo(1800, 9);
		expect(p.ok && p.value.waitHours).toBeGreaterThanOrEqual(2);
	});
	it('refuses what runs over, and litres that are not said', () => {
		expect(plan({ capacityL: 13 })).toMatchObject({ ok: false, problem: { field: 'add_l' } });
		expect(plan({ volumeL: 0 })).toMatchObject({ ok: false, problem: { field: 'volume_l' } });
		expect(plan({ addL: -1 })).toMatchObject({ ok: false, problem: { field: 'add_l' } });
	});
});
