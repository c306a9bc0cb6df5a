import { homeOf, type Pool, transaction } from '@/store/pool';
import { streamsDue, streamsJudged } from '@/store/sensors/memory';
import { holdNode, listSeries } from '@/store/sensors/nodes';
import { loadSite } from '../site';
import { judgeFrom } from './streams';

/** Databases that are known to have no streams, so that nobody need ask. */
const without = new WeakSet<object>();
/** A node has sent something. */
export const hasStreams = (pool: Pool): boolean => without.delete(homeOf(pool));

/**
 * Judges the streams again of which something of the past was learned, a station at a time.
 * @returns the stations whose streams were judged
 */
export async function judgeDueStreams(pool: Pool): Promise<string[]> {
	if (without.has(homeOf(pool))) return [];
	const site = await loadSite(pool);
	if (!site) return [];
	if ((await listSeries(pool, site.site.id)).length === 0) {
		without.add(homeOf(pool));
		return [];
	}
	const stations: string[] = [];
	for (const { stationId, at } of await streamsDue(pool, site.site.id)) {
		const all = await listSeries(pool, site.site.id, { stationIds: [stationId] });
		await transaction(pool, async (client) => {
			// In the order of their numbers, as whoever else holds several.
			for (const node of [...new Set(all.map((s) => s.nodeId))].sort((a, b) => a - b))
				await holdNode(client, site.site.id, node, 0);
			const context = (await loadSite(client))!;
			for (const instrumentId of new Set(all.map((s) => s.instrumentId))) {
				const station = all.find((s) => s.instrumentId === instrumentId)!.station;
				await judgeFrom(client, context, { stationId, station, instrumentId }, at);
			}
			await streamsJudged(client, site.site.id, stationId, at);
		});
		if (all[0]) stations.push(all[0].station);
	}
	return stations;
}
