import { describe, expect, it } from 'vitest';
import type { Engine } from '@/core/judge/engine';
import { compareWith, driftOf, noDrift } from '@/core/judge/second-instrument';
import type { Reading } from '@/core/reading/model';
import { seeded } from '@/sim/random';
import { MINUTE, NEXT, practised, reading } from '../../../helpers/small-site';

/** Facts of the trade (common practice, no source) unless a source is named. */
const judged = (e: Engine, r: Reading) => e.judge([r])[0]!;

describe('two instruments at one station minutes apart', () => {
	it('are held against each other, but not across an addition', () => {
		const e = practised();
		e.take([reading(NEXT, 'pond', 'ph', '5.90', 'pH')]);
		const other = reading(NEXT + 5 * MINUTE, 'pond', 'ph', '6.50', 'pH', { instrument: 'brass' });
		expect(judged(e, other).deciding?.cause).toBe('disagreement');
		e.note({ at: NEXT + 2 * MINUTE, station: 'pond', kind: 'base_added', amount: null, unit: null });
		expect(judged(e, other).deciding).toBeNull();
	});
});

describe('slow drift by CUSUM', () => {
	it('adds up as worked by hand: five differences of two standard deviations cross h = 5 at the fourth', () => {
		// C = max(0, C + z − k), z = 2, k = 0.5: 1.5, 3, 4.5, 6 > 5 (Montgomery’s tabular CUSUM).
		const d = noDrift(0);
		const alarms = [1, 2, 3, 4, 5].map((i) => {
			compareWith(d, 'ph', i, 6.2, 6.0, 'plum');
			return driftOf(d) !== null;
		});
		expect(d.up).toBeCloseTo(7.5, 9);
		expect(alarms).toEqual([false, false, false, true, true]);
		expect(driftOf(d)?.offset).toBeCloseTo(0.2, 9);
	});
	it('a single slip of the hand moves nothing; two calm comparisons withdraw the alarm', () => {
		const d = noDrift(0);
		for (let i = 1; i <= 6; i++) compareWith(d, 'ph', i, 6.25, 6.0, 'plum');
		expect(driftOf(d)).not.toBeNull();
		compareWith(d, 'ph', 7, 6.25, 60, 'plum');
		expect(driftOf(d)?.offset).toBeCloseTo(0.25, 9);
		compareWith(d, 'ph', 8, 6.0, 6.0, 'plum');
		compareWith(d, 'ph', 9, 6.0, 6.0, 'plum');
		expect(driftOf(d)).toBeNull();
	});
	it('noise alone rarely alarms: at most a few in 200 runs of thirty comparisons', () => {
		// Its average run length without a shift is 465, so 30 comparisons alarm in about 6 % of runs.
		const chance = seeded(77);
		let alarmed = 0;
		for (let run = 0; run < 200; run++) {
			const d = noDrift(0);
			let any = false;
			for (let i = 1; i <= 30; i++) {
				compareWith(d, 'ph', i, 6 + 0.1 * chance.normal(), 6, 'plum');
				any ||= driftOf(d) !== null;
			}
			if (any) alarmed++;
		}
		expect(alarmed / 200).toBeLessThan(0.14);
	});
});
