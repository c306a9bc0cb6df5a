import { describe, expect, it } from 'vitest';
import { numberOf } from '@/core/series/findings';
import { streamEpisodes } from '@/core/series/stream-episodes';

const MINUTE = 60_000;
const [SOUND, AIR, SPIKE, MIXING] = [0, numberOf('probe-in-air'), numberOf('spike'), numberOf('mixing')];
const samples = (list: [minute: number, cause: number][]) => ({
	at: list.map(([m]) => m * MINUTE),
	cause: list.map(([, c]) => c),
	count: list.length,
});

describe('episodes of a stream', () => {
	it('join doubts of one cause that follow each other, and keep causes apart', () => {
		const e = streamEpisodes(
			[],
			samples([
				[0, AIR],
				[5, AIR],
				[10, SOUND],
				[15, AIR],
				[16, SPIKE],
				[60, AIR],
				[61, MIXING],
			]),
		);
		expect(e.map((x) => [x.cause, x.since / MINUTE, x.until / MINUTE, x.samples])).toEqual([
			[AIR, 0, 15, 3],
			[SPIKE, 16, 16, 1],
			[AIR, 60, 60, 1],
		]);
	});
	it('of a node that is read each hour the next hour belongs to it, and the one after a sound morning does not', () => {
		const hourly = samples([
			[0, AIR],
			[60, AIR],
			[120, AIR],
			[180, SOUND],
			[420, AIR],
		]);
		expect(streamEpisodes([], hourly, 60 * MINUTE).map((x) => x.samples)).toEqual([3, 1]);
		expect(streamEpisodes([], hourly).map((x) => x.samples)).toEqual([1, 1, 1, 1]);
	});
	it('go on where they were left, in pieces as in one', () => {
		const all = samples([
			[0, AIR],
			[5, AIR],
			[10, AIR],
			[45, AIR],
			[50, AIR],
		]);
		const whole = streamEpisodes([], all);
		const first = streamEpisodes([], { at: all.at.slice(0, 2), cause: all.cause.slice(0, 2), count: 2 });
		const second = streamEpisodes(first, { at: all.at.slice(2), cause: all.cause.slice(2), count: 3 });
		expect(second).toEqual(whole);
	});
});
