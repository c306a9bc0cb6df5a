import { expect, it } from 'vitest';
import type { Rollup } from '@/core/series/rollup';
import { transaction } from '@/store/pool';
import { copyRollups, rollupsBetween } from '@/store/sensors/rollups';
import { withDatabase } from '../helpers/database';

const HOUR = 3_600_000;
const at = (hour: number) => Date.UTC(2026, 6, 14, hour);
/** Of six samples: all tell of their water, some, none. */
const ALL: Rollup = {
	at: at(8),
	least: 5.8,
	greatest: 6.1,
	total: 35.7,
	count: 6,
	worst: 1,
	goodLeast: 5.8,
	goodGreatest: 6.1,
	goodTotal: 35.7,
	goodCount: 6,
};
const SOME: Rollup = { ...ALL, at: at(9), greatest: 66, total: 95.6, worst: 4, goodTotal: 29.6, goodCount: 5 };
const NONE: Rollup = {
	...ALL,
	at: at(10),
	worst: 4,
	goodLeast: Number.POSITIVE_INFINITY,
	goodGreatest: Number.NEGATIVE_INFINITY,
	goodTotal: 0,
	goodCount: 0,
};

it('rollups are read as they were stored, of one series and of several, whether all of their samples are believed or not', () =>
	withDatabase('empty', async (pool) => {
		const [first, second] = [[ALL, SOME, NONE], [SOME, ALL].map((r, i) => ({ ...r, at: at(8 + i) + HOUR / 2 }))];
		await transaction(pool, (client) =>
			copyRollups(client, 1, [
				{ seriesId: 1, step: 'hour', rollups: first! },
				{ seriesId: 2, step: 'hour', rollups: second! },
			]),
		);
		const got = (ids: number[]) => rollupsBetween(pool, 1, ids, 'hour', at(8), at(11));
		const of = (seriesId: number, list: readonly Rollup[]) => list.map((r) => ({ seriesId, ...r }));
		expect(await got([1])).toEqual(of(1, first!));
		expect(await got([2])).toEqual(of(2, second!));
		expect(await got([1, 2])).toEqual([...of(1, first!), ...of(2, second!)].sort((a, b) => a.at - b.at));
		expect(await rollupsBetween(pool, 1, [1], 'hour', at(9), at(10))).toEqual(of(1, [SOME]));
	}));
