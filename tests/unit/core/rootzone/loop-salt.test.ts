import { describe, expect, it } from 'vitest';
import { type Loop, loopOutlook } from '@/core/rootzone/loop-salt';

/** Mass balance, by hand and step by step; which limits a crop has is from memory and not what is checked here. */
const loop: Loop = {
	volumeL: 600,
	drunkLPerDay: 40,
	sourceMmolL: 1,
	nowMmolL: 1,
	limitMmolL: 4,
	takenMmolL: 0.4,
	bleedLPerDay: 0,
};
const found = (change: Partial<Loop> = {}) => {
	const a = loopOutlook({ ...loop, ...change });
	if (!a.ok) throw new Error('refused');
	return a.value;
};
/** The loop in steps of an hour. */
function stepped(days: number, l: Loop): number {
	let c = l.nowMmolL;
	for (let h = 0; h < 24 * days; h++)
		c +=
			((l.drunkLPerDay + l.bleedLPerDay) * l.sourceMmolL -
				(l.drunkLPerDay * l.takenMmolL * c) / l.limitMmolL -
				l.bleedLPerDay * c) /
			l.volumeL /
			24;
	return c;
}

describe('sodium in a closed loop', () => {
	it('settles where what comes is what is taken, and comes to the limit on the day it says', () => {
		// 40 L at 1 mmol/L are 40 mmol a day; taken 40·0.1·C, so C = 10.
		expect(found().settlesMmolL).toBeCloseTo(10, 9);
		expect(stepped(found().daysToLimit!, loop)).toBeCloseTo(4, 1);
	});
	it('the bleed it says holds it at the limit: 40·(1 − 0.4)/(4 − 1) is 8 L a day', () => {
		expect(found().bleedLPerDay).toBeCloseTo(8, 9);
		expect(stepped(600, { ...loop, bleedLPerDay: 8 })).toBeCloseTo(4, 2);
		expect(found({ bleedLPerDay: 8.1 }).daysToLimit).toBeNull();
	});
	it('the blend it says needs no bleed', () => {
		const { pureShare } = found();
		expect(pureShare).toBeCloseTo(0.6, 9);
		expect(stepped(900, { ...loop, sourceMmolL: 1 - pureShare })).toBeCloseTo(4, 1);
	});
	it('renewing the part it says brings it to half the limit', () => {
		const { renewL } = found({ nowMmolL: 5 });
		expect(5 - (renewL! / 600) * (5 - 1)).toBeCloseTo(2, 9);
		expect(found({ nowMmolL: 5 }).daysToLimit).toBe(0);
	});
	it('a crop that takes none, a water as strong as the limit, no water at all', () => {
		expect(found({ takenMmolL: 0 })).toMatchObject({ settlesMmolL: Number.POSITIVE_INFINITY, daysToLimit: 45 });
		expect(found({ sourceMmolL: 4.5 }).bleedLPerDay).toBeNull();
		expect(found({ sourceMmolL: 0 })).toMatchObject({ daysToLimit: null, bleedLPerDay: 0, pureShare: 0 });
		expect(loopOutlook({ ...loop, volumeL: 0 }).ok).toBe(false);
	});
});
