import { describe, expect, it } from 'vitest';
import { disturbances } from '@/core/series/disturbances';

const MINUTE = 60_000;
describe('disturbances', () => {
	it('last from a little before they were noted until it has mixed, and join where they meet', () => {
		const at = (kind: 'water_added' | 'note' | 'calibrated', minute: number) => ({ at: minute * MINUTE, kind });
		expect(
			disturbances([at('calibrated', 300), at('water_added', 100), at('note', 200), at('water_added', 150)]).map((d) =>
				d.map((t) => t / MINUTE),
			),
		).toEqual([
			[85, 210],
			[285, 360],
		]);
	});
});
