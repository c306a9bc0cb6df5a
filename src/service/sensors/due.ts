import { type Pool, transaction } from '@/store/pool';
import { streamsDue, streamsJudged } from '@/store/sensors/memory';
import { holdNode, listSeries } from '@/store/sensors/nodes';
import { loadSite } from '../site';
import { judgeFrom } from './streams';

/**
 * Judges the streams again of which something of the past was learned, a station at a time.
 * @param judged hears of each station whose streams were
 */
export async function judgeDueStreams(pool: Pool, judged: (station: string) => void): Promise<void> {
	const site = await loadSite(pool);
	if (!site) return;
	for (const { stationId, at, version } of await streamsDue(pool, site.site.id)) {
		const all = await listSeries(pool, site.site.id, { stationIds: [stationId] });
		await transaction(pool, async (client) => {
			// In the order of their numbers, as whoever else holds several.
			for (const node of [...new Set(all.map((s) => s.nodeId))].sort((a, b) => a - b))
				await holdNode(client, site.site.id, node, null);
			const context = (await loadSite(client))!;
			for (const instrumentId of new Set(all.map((s) => s.instrumentId))) {
				const station = all.find((s) => s.instrumentId === instrumentId)!.station;
				await judgeFrom(client, context, { stationId, station, instrumentId }, at);
			}
			await streamsJudged(client, site.site.id, stationId, version);
		});
		if (all[0]) judged(all[0].station);
	}
}
