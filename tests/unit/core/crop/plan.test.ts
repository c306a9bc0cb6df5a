import { describe, expect, it } from 'vitest';
import { beginStage, daysLater, type PlanStage, planNow, planSpans, stagesFor } from '@/core/crop/plan';
import { CROPS } from '@/core/crop/presets';

const stage = (name: string, days: number, begun: string | null = null): PlanStage => ({
	name,
	days,
	ecUsCm: [1000, 1600],
	ph: [5.5, 6.5],
	begun,
});
const PLAN = [stage('seedling', 14, '2026-03-01'), stage('growing', 28), stage('flowering', 21), stage('fruiting', 90)];

describe('a plan', () => {
	it('counts the days of what is planned from what has begun, over the end of a month and a leap day', () => {
		expect(planSpans(PLAN, '2026-03-05')).toEqual([
			{ index: 0, from: '2026-03-01', until: '2026-03-15', begun: true },
			{ index: 1, from: '2026-03-15', until: '2026-04-12', begun: false },
			{ index: 2, from: '2026-04-12', until: '2026-05-03', begun: false },
			{ index: 3, from: '2026-05-03', until: null, begun: false },
		]);
		expect(daysLater('2028-02-28', 2)).toBe('2028-03-01');
		expect(planNow(PLAN, '2026-03-08')).toEqual({ current: 0, next: { index: 1, on: '2026-03-15', inDays: 7 } });
	});
	it('waits for somebody: what is due and not begun is due since so many days, and begins no earlier than today', () => {
		expect(planNow(PLAN, '2026-03-20').next).toEqual({ index: 1, on: '2026-03-15', inDays: -5 });
		expect(planSpans(PLAN, '2026-03-20')[1]).toMatchObject({ from: '2026-03-20', begun: false });
		expect(planSpans(PLAN, '2026-03-20')[0]).toMatchObject({ until: '2026-03-20' });
	});
	it('is moved forward by a word, and back', () => {
		const on = beginStage(PLAN, 1, '2026-03-12')!;
		expect(planNow(on, '2026-03-12')).toEqual({ current: 1, next: { index: 2, on: '2026-04-09', inDays: 28 } });
		// One is passed over: it was never.
		const jumped = beginStage(on, 3, '2026-04-01')!;
		expect(planSpans(jumped, '2026-04-02').map((s) => [s.index, s.from, s.until])).toEqual([
			[0, '2026-03-01', '2026-03-12'],
			[1, '2026-03-12', '2026-04-01'],
			[3, '2026-04-01', null],
		]);
		// Back to the one before, on its own day.
		expect(beginStage(on, 0, '2026-03-01')).toEqual(PLAN);
		expect(beginStage(PLAN, 9, '2026-03-12')).toBeNull();
	});
	it('ends with its last stage, and begins with its first', () => {
		expect(planNow(beginStage(PLAN, 3, '2026-06-01')!, '2026-07-01')).toEqual({ current: 3, next: null });
		expect(planNow([stage('growing', 10)], '2026-03-01')).toEqual({
			current: null,
			next: { index: 0, on: '2026-03-01', inDays: 0 },
		});
	});
});

describe('stages to start from', () => {
	it('seedlings about half, grown plants the range of the crop (extension ranges, from memory)', () => {
		for (const { crop, ecUsCm } of CROPS) {
			const stages = stagesFor(crop);
			expect(stages[0]!.ecUsCm[1]).toBeCloseTo(ecUsCm[1] / 2, -1);
			expect(Math.max(...stages.map((s) => s.ecUsCm[1]))).toBeCloseTo(ecUsCm[1], -1);
			for (const s of stages) expect([crop, s.name, s.ecUsCm[0] < s.ecUsCm[1]]).toEqual([crop, s.name, true]);
		}
		expect(stagesFor('strawberry').map((s) => s.name)).toEqual(['seedling', 'growing', 'flowering', 'fruiting']);
	});
});
