import { describe, expect, it } from 'vitest';
import { secondOpinion, type Witness } from '@/core/probe/second-opinion';

const DAY = 86_400_000;
const NOW = 100 * DAY;
const pen = (name: string, value: number, more: Partial<Witness> = {}): Witness => ({
	name,
	value,
	u: 0.05,
	interval: null,
	lastCheckedAt: NOW - 5 * DAY,
	record: { passed: 3, failed: 0 },
	...more,
});
const never = { lastCheckedAt: null, record: { passed: 0, failed: 0 } };
/** A colour card leaves an interval open; rectangular, u = width/√12 (GUM 4.3.7). */
const kit = (low: number, high: number): Witness => ({
	name: 'kit',
	value: (low + high) / 2,
	u: (high - low) / Math.sqrt(12),
	interval: [low, high],
	...never,
});

describe('two meters in one sample', () => {
	it('ζ as ISO 13528 has it, and the weighted mean where they agree: equal ones halve the variance', () => {
		const o = secondOpinion([pen('a', 5.8, { u: 0.03 }), pen('b', 5.899, { u: 0.04 })], NOW)!;
		expect(o).toMatchObject({ agree: false, zeta: expect.closeTo(1.98, 9) });
		const equal = secondOpinion([pen('a', 5.8, { u: 0.04 }), pen('b', 5.82, { u: 0.04 })], NOW)!;
		expect(equal).toMatchObject({ agree: true, odd: [], dip: [] });
		expect(equal.combined.value).toBeCloseTo(5.81, 12);
		expect(equal.combined.u).toBeCloseTo(0.04 / Math.SQRT2, 12);
	});
	it('who passed its dips is believed; the one that failed, or was never dipped, is dipped', () => {
		const failed = { record: { passed: 0, failed: 3 } };
		expect(secondOpinion([pen('a', 5.8), pen('b', 6.2, failed)], NOW)).toMatchObject({
			agree: false,
			believed: ['a'],
			dip: ['b'],
		});
		expect(secondOpinion([pen('a', 5.8, never), pen('b', 6.2)], NOW)).toMatchObject({ believed: ['b'], dip: ['a'] });
	});
	it('a check of last year counts for little', () => {
		const old = secondOpinion([pen('a', 5.8, { lastCheckedAt: NOW - 400 * DAY }), pen('b', 6.2)], NOW)!;
		expect(old).toMatchObject({ believed: ['b'], dip: ['a'] });
	});
});

describe('more witnesses', () => {
	it('two pens at 5.70 and 5.81 and a kit at 5.0 to 5.5: dip the pens in the 7, the kit cannot be', () => {
		// A fact of the trade: drops have no calibration to check, and one buffer settles both pens.
		const o = secondOpinion([pen('Plum', 5.7), pen('Brass', 5.81), kit(5, 5.5)], NOW)!;
		expect(o).toMatchObject({ agree: false, believed: ['Plum', 'Brass'], odd: ['kit'], dip: ['Plum', 'Brass'] });
		expect(o.combined.value).toBeCloseTo(5.755, 9);
	});
	it('and when both pens failed their last dips the kit is believed', () => {
		const failed = { record: { passed: 0, failed: 4 } };
		const o = secondOpinion([pen('Plum', 5.9, failed), pen('Brass', 6.4, failed), kit(5, 5.5)], NOW)!;
		expect(o.believed).toEqual(['kit']);
		expect(o.dip).toEqual(['Plum', 'Brass']);
	});
	it('a kit whose interval holds what the pens say agrees, and does not pull them to its middle', () => {
		const o = secondOpinion([pen('Plum', 5.9), kit(5.5, 6)], NOW)!;
		expect(o).toMatchObject({ agree: true, zeta: null });
		expect(o.combined.value).toBeCloseTo(5.9, 12);
	});
	it('two that say the same outweigh one, however well it was kept', () => {
		const o = secondOpinion([pen('a', 5.3, never), pen('b', 5.32, never), pen('c', 5.81)], NOW)!;
		expect(o).toMatchObject({ agree: false, believed: ['a', 'b'], odd: ['c'], dip: ['c'] });
	});
	it('but not one with many good dips against two that failed theirs', () => {
		const failed = { record: { passed: 0, failed: 4 } };
		const kept = { record: { passed: 8, failed: 0 } };
		const o = secondOpinion([pen('a', 5.3, failed), pen('b', 5.32, failed), pen('c', 5.81, kept)], NOW)!;
		expect(o.believed).toEqual(['c']);
	});
	it('weighs by certainty, worked by hand: (5.9·100 + 6.0·25)/125, u = 1/√125', () => {
		const o = secondOpinion([pen('a', 5.9, { u: 0.1 }), pen('b', 6, { u: 0.2 })], NOW)!;
		expect(o.combined.value).toBeCloseTo(740 / 125, 9);
		expect(o.combined.u).toBeCloseTo(1 / Math.sqrt(125), 9);
	});
	it('repeats of one instrument are one witness with their mean', () => {
		expect(secondOpinion([pen('a', 5), pen('a', 5.02)], NOW)).toBeNull();
		const o = secondOpinion([pen('a', 5, { u: 0.1 }), pen('a', 5.1, { u: 0.1 }), pen('b', 5.05, { u: 0.1 })], NOW)!;
		expect(o.combined.value).toBeCloseTo(5.05, 9);
	});
	it('the chances of all ways add up: belief is never above one', () => {
		const o = secondOpinion([pen('a', 5), pen('b', 6), pen('c', 7), kit(5, 5.5)], NOW)!;
		expect(o.chance).toBeGreaterThan(0);
		expect(o.chance).toBeLessThanOrEqual(1);
	});
});
