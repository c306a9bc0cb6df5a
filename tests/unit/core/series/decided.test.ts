import { describe, expect, it } from 'vitest';
import { decidedAt, keptStretches } from '@/core/series/decided';

describe('what was decided about a stretch', () => {
	const keep = (since: number, until: number) => ({ since, until, kind: 'keep' as const });
	const discard = (since: number, until: number) => ({ since, until, kind: 'discard' as const });
	const undo = (since: number, until: number) => ({ since, until, kind: 'undo' as const });
	it('counts by its newest, and nothing once it was undone', () => {
		const all = [keep(0, 10), discard(5, 7), undo(9, 10)];
		expect([0, 5, 7, 8, 9, 11].map((t) => decidedAt(all, t))).toEqual([1, 2, 2, 1, 0, 0]);
	});
	it('stretches that are kept stand apart from what lies between', () => {
		expect(keptStretches([keep(0, 10), discard(5, 7), keep(11, 20)])).toEqual([
			[0, 5],
			[8, 21],
		]);
		expect(keptStretches([keep(0, 10), undo(0, 10)])).toEqual([]);
	});
});
