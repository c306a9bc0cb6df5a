import { ask, quantile } from '@tests/evaluate/forecast-windows';
import { describe, expect, it } from 'vitest';
import { windowTo } from '@/core/trend/forecast';

const DAY = 86_400_000;
const line = (days: number, slope: number, wave = 0.01) =>
	Array.from({ length: days }, (_, i) => ({ at: i * DAY, value: 5.6 + slope * i + (i % 2 ? wave : -wave), u: 0.01 }));

describe('when a limit is reached', () => {
	it('is a window around what a line says', () => {
		// 6.0 after ten days at 0.04: half a unit more takes 12.5 days from the last reading.
		const w = windowTo(line(11, 0.04), [], 6.2, 10 * DAY)!;
		expect((w.middle - 10 * DAY) / DAY).toBeGreaterThan(4);
		expect((w.middle - 10 * DAY) / DAY).toBeLessThan(6.5);
		expect(w.from).toBeLessThan(15 * DAY);
		expect(w.to).toBeGreaterThan(15 * DAY);
	});
	it('is not said of what goes the other way, stands still, was just changed, was last read days ago, or takes longer than a month', () => {
		expect(windowTo(line(11, 0.04), [], 5.3, 10 * DAY)).toBeNull();
		expect(windowTo(line(11, 0, 0.05), [], 6.2, 10 * DAY)).toBeNull();
		expect(windowTo(line(11, 0.04), [10.2 * DAY], 6.2, 10.5 * DAY)).toBeNull();
		expect(windowTo(line(11, 0.04), [8.5 * DAY], 6.2, 10 * DAY)).toBeNull();
		expect(windowTo(line(11, 0.04), [], 6.4, 12 * DAY)).not.toBeNull();
		expect(windowTo(line(11, 0.04), [], 6.4, 14 * DAY)).toBeNull();
		expect(windowTo(line(11, 0.01), [], 7.5, 10 * DAY)).toBeNull();
	});
});

/** Tanks that were written before the forecast (tests/evaluate/worlds/drifting.ts); these seeds were not looked at. */
describe('on tanks whose future is known', () => {
	it('windows stated as 90 % hold 85 to 95 %, and are not wider than twice the spread of what came', () => {
		const { stated } = ask(50_001, 53_000);
		const held = stated.filter((s) => s.held).length / stated.length;
		expect(stated.length).toBeGreaterThan(200);
		expect(held).toBeGreaterThan(0.85);
		expect(held).toBeLessThan(0.96);
		const off = stated.map((s) => s.off);
		const spread = quantile(off, 0.95) - quantile(off, 0.05);
		expect(stated.reduce((n, s) => n + s.width, 0) / stated.length).toBeLessThan(2 * spread);
	});
});
