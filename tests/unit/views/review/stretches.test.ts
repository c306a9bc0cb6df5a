import { describe, expect, it } from 'vitest';
import type { SensorEpisode } from '@/contract/sensors';
import { stretchGroups } from '@/views/review/stretches';

const episode = (
	id: number,
	quantity: SensorEpisode['quantity'],
	cause: string,
	from: number,
	to: number,
	other: Partial<SensorEpisode> = {},
): SensorEpisode => ({
	id,
	station: 'pond',
	instrument: 'post',
	node: 'post',
	quantity,
	cause,
	flag: 3,
	since: new Date(from * 60_000).toISOString(),
	until: new Date(to * 60_000).toISOString(),
	samples: 3,
	goes_on: false,
	decision: null,
	least: 1,
	greatest: 2,
	...other,
});
describe('what happened to a node', () => {
	it('is one line, whatever it shows there', () => {
		const groups = stretchGroups([
			episode(1, 'ph', 'stuck', 100, 400),
			episode(2, 'ec', 'stuck', 95, 400, { goes_on: true }),
			episode(3, 'ph', 'spike', 200, 200),
			episode(4, 'temp', 'stuck', 700, 900),
			episode(5, 'ec', 'stuck', 100, 400, { node: 'other' }),
		]);
		expect(groups.map((g) => [g.key, g.episodes.map((e) => e.id), g.since / 60_000, g.goesOn])).toEqual([
			[1, [1, 2], 95, true],
			[3, [3], 200, false],
			[4, [4], 700, false],
			[5, [5], 100, false],
		]);
	});
});
