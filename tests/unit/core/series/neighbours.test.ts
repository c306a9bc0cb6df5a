import { describe, expect, it } from 'vitest';
import { apart, type Told } from '@/core/series/neighbours';

/** Common practice, no source: pens and sensors within ±0.1 pH and ±2 % each are sound; between two only a third tells which is off. */
const HOUR = 3_600_000;
const T0 = Date.UTC(2026, 4, 1);
/** The hours of two weeks, a little noise on a day's swing. */
const hours = (value: (h: number) => number): Told[] =>
	Array.from({ length: 336 }, (_, h) => ({
		at: T0 + h * HOUR,
		value: value(h) + 0.02 * Math.sin(h * 12.9898) + 0.1 * Math.sin((h * Math.PI) / 12),
	}));
const drifting = (perDay: number) => hours((h) => 5.8 + (perDay * Math.max(h - 96, 0)) / 24);
const pen = (...days: number[]): Told[] => days.map((d) => ({ at: T0 + (d * 24 + 9) * HOUR, value: 5.82 }));

describe('two sensors in one water', () => {
	it('that agree as two sound instruments do are left in peace, the same water swinging as it may', () => {
		expect(
			apart(
				'ph',
				hours(() => 5.8),
				hours(() => 5.9),
				[],
			),
		).toBeNull();
		expect(
			apart(
				'ph',
				hours(() => 5.8),
				[],
				[],
			),
		).toBeNull();
	});
	it('one that wanders off is told of with when it began and by how much, and nobody is blamed', () => {
		const found = apart(
			'ph',
			drifting(0.08),
			hours(() => 5.8),
			[],
		)!;
		expect(found.off).toBeNull();
		expect(found.by).toBeGreaterThan(0.3);
		expect((found.since - T0) / HOUR).toBeGreaterThan(90);
		expect((found.since - T0) / HOUR).toBeLessThan(200);
		// The other way round it is the same, with the other sign.
		expect(
			apart(
				'ph',
				hours(() => 5.8),
				drifting(0.08),
				[],
			)!.by,
		).toBeCloseTo(-found.by, 6);
	});
	it('two hand readings since then tell which; one does not, and neither do pens that are far from both', () => {
		const [off, sound] = [drifting(0.08), hours(() => 5.8)];
		expect(apart('ph', off, sound, pen(11, 12, 13))!.off).toBe('first');
		expect(apart('ph', sound, off, pen(11, 12, 13))!.off).toBe('second');
		expect(apart('ph', off, sound, pen(13))!.off).toBeNull();
		const far = pen(11, 12, 13).map((p) => ({ ...p, value: 4.9 }));
		expect(apart('ph', off, sound, far)!.off).toBeNull();
	});
	it('hands that read while something was poured do not turn it round', () => {
		const [off, sound] = [drifting(0.08), hours(() => 5.8)];
		const poured = [...pen(11, 12, 13), { at: T0 + 12.5 * 24 * HOUR, value: 7.4 }];
		expect(apart('ph', off, sound, poured)!.off).toBe('first');
	});
	it('EC is held against one another by share', () => {
		const at = (v: number) => hours(() => 0).map((x) => ({ at: x.at, value: v * (1 + x.value / 20) }));
		expect(apart('ec', at(1800), at(1830), [])).toBeNull();
		expect(apart('ec', at(1800), at(2050), [])!.by).toBeCloseTo(-0.12, 1);
	});
});
