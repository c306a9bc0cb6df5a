import { describe, expect, it } from 'vitest';
import { HAND_LOGS } from './by-hand';
import { disagreements } from './hand-log';

describe('logs written by hand', () => {
	it('are at least sixty, each under a name of its own', () => {
		expect(new Set(HAND_LOGS.map((l) => l.name)).size).toBe(HAND_LOGS.length);
		expect(HAND_LOGS.length).toBeGreaterThanOrEqual(60);
	});
	it('say where they and the checks differ', async () => {
		const lines = 'day 1..8 7:30 pond plum ph 5.90|5.94 pH\nday 9 7:30 pond plum ph 592 pH';
		expect(await disagreements({ name: 'a slip called honest', lines })).toHaveLength(1);
		const meant = `${lines} → decimal-slip meant 5.2`;
		expect(await disagreements({ name: 'another value meant', lines: meant })).toHaveLength(1);
	});
	it.each(HAND_LOGS)('$name', async (log) => {
		expect(await disagreements(log)).toEqual([]);
	});
});
