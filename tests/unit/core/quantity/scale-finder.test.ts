import { describe, expect, it } from 'vitest';
import { rawStandard1413 } from '@/core/probe/standard-1413';
import { nearestScale } from '@/core/quantity';

describe('scale finder', () => {
	// Common practice: 1413 µS/cm shows about 706, 904, 989 ppm on the three scales.
	it.each([
		[706, 500],
		[904, 640],
		[989, 700],
	])('%d ppm in 1413 is the %d scale', (ppm, scale) =>
		expect(nearestScale(ppm, 1413)).toMatchObject({ found: true, scale }),
	);
	it('holds an uncompensated pen against the standard at its temperature', () => {
		// A 700-scale pen without compensation shows 895 at 20 °C and looks like 640 at 25.
		expect(nearestScale(895, 1413)).toMatchObject({ scale: 640 });
		expect(nearestScale(895, rawStandard1413(20)!)).toMatchObject({ found: true, scale: 700 });
	});
	it('is undecided between the scales', () =>
		expect(nearestScale(800, 1413)).toMatchObject({ found: false, reason: 'undecided' }));
});
