import { describe, expect, it } from 'vitest';
import { keptBackups } from '@/core/keep/backups';

/** A rotation of three generations (common practice): seven days, five weeks, twelve months. */
const DAY = 86_400_000;
const day = (n: number) => new Date(Date.UTC(2026, 6, 14) - n * DAY).toISOString().slice(0, 10);

describe('which backups stay', () => {
	it('of two years of nights: seven days, then weeks to five, then months to twelve', () => {
		const kept = keptBackups(Array.from({ length: 730 }, (_, n) => day(n)));
		expect(kept.slice(0, 7)).toEqual(Array.from({ length: 7 }, (_, n) => day(n)));
		// The newest of each of twelve months, August of last year the oldest.
		expect(kept.at(-1)).toBe('2025-08-31');
		expect(new Set(kept.map((d) => d.slice(0, 7))).size).toBe(12);
		expect(kept.length).toBeLessThanOrEqual(7 + 5 + 12);
		expect(kept).toContain('2026-06-21');
	});
	it('night after night nothing is let go that a later night would have kept', () => {
		let there: string[] = [];
		for (let n = 400; n >= 0; n--) there = keptBackups([...there, day(n)]);
		expect(new Set(there.map((d) => d.slice(0, 7))).size).toBeGreaterThanOrEqual(11);
		expect(there).toContain(day(6));
	});
	it('of few all stay', () => {
		expect(keptBackups(['2020-01-01', '2026-07-14'])).toEqual(['2026-07-14', '2020-01-01']);
		expect(keptBackups([])).toEqual([]);
	});
});
