import { describe, expect, it } from 'vitest';
import { oneAtATime } from '@/server/one-at-a-time';

describe('work of which one run goes at a time', () => {
	it('runs once more for all who asked meanwhile, and goes on after it failed', async () => {
		const runs: (() => void)[] = [];
		let going = 0;
		const failed: unknown[] = [];
		const ask = oneAtATime(
			async () => {
				expect(++going).toBe(1);
				await new Promise<void>((done) => runs.push(done));
				going--;
				if (runs.length === 3) throw new Error('away');
			},
			(error) => failed.push(error),
		);
		const first = ask();
		for (let i = 0; i < 5; i++) await ask();
		runs[0]!();
		await new Promise((r) => setTimeout(r, 5));
		expect(runs).toHaveLength(2);
		runs[1]!();
		await first;
		const third = ask();
		runs[2]!();
		await third;
		expect(failed).toHaveLength(1);
		const fourth = ask();
		runs[3]!();
		await fourth;
		expect(runs).toHaveLength(4);
	});
});
