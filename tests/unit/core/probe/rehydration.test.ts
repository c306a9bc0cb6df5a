import { describe, expect, it } from 'vitest';
import { renewalOverdue } from '@/core/probe/care';
import { LEAST_SOAK_MS, rehydration } from '@/core/probe/rehydration';

/** A dry bulb is soaked for hours, then dipped in two buffers, and its slope compared: common practice, no source. */
const H = 3_600_000;
const dried = { at: 100 * H, kind: 'dried_out' as const };
const soaked = { at: 101 * H, kind: 'rehydrated' as const };
const slopes = [{ at: 50 * H, slopePct: 97 }];

describe('a bulb that dried out', () => {
	it('is dry until somebody stands it in solution, soaks its hours, and is ready for two buffers', () => {
		expect(rehydration([dried], slopes, 100.5 * H)).toMatchObject({ state: 'dry', soakedAt: null, slopeBeforePct: 97 });
		expect(rehydration([dried, soaked], slopes, 102 * H)).toMatchObject({ state: 'soaking' });
		expect(rehydration([dried, soaked], slopes, soaked.at + LEAST_SOAK_MS)).toMatchObject({ state: 'ready' });
	});
	it('came back, or is weaker: two buffers tell no finer than 2 %', () => {
		const soakedTo = (slopePct: number, at = 110 * H) =>
			rehydration([dried, soaked], [...slopes, { at, slopePct }], 120 * H);
		expect(soakedTo(96)).toMatchObject({ state: 'done', slopeAfterPct: 96, came: 'back' });
		expect(soakedTo(90)).toMatchObject({ state: 'done', came: 'weaker' });
		// A calibration before its hours were over says nothing.
		expect(soakedTo(96, 101.5 * H)).toMatchObject({ state: 'ready', came: null });
	});
	it('a new probe ends it; without a dry-out there is nothing', () => {
		expect(rehydration([dried, { at: 105 * H, kind: 'new_probe' }], slopes, 120 * H)).toBeNull();
		expect(rehydration([], slopes, 120 * H)).toBeNull();
	});
});

describe('the solution in a cap', () => {
	it('is renewed about monthly; a dry cell has none, and nobody knows where nothing was noted', () => {
		expect(renewalOverdue('kcl_3m', '2026-06-01', '2026-06-30')).toBeNull();
		expect(renewalOverdue('kcl_3m', '2026-06-01', '2026-07-01')).toBe(0);
		expect(renewalOverdue('dry', '2026-06-01', '2026-07-14')).toBeNull();
		expect(renewalOverdue('kcl_3m', null, '2026-07-14')).toBeNull();
	});
});
