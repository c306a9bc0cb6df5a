import { homeOf, type Pool, transaction } from '@/store/pool';
import { holdNode, listNodes, listSeries } from '@/store/sensors/nodes';
import { dropSamples, makeMonths } from '@/store/sensors/samples';
import { loadSite } from '../site';

const DAY = 86_400_000;
/** Partitions are there this long before they are wanted. */
const AHEAD = [0, 31, 62];

/** Makes the months that come, of samples of all sites. */
export const makeComingMonths = (pool: Pool, now: number): Promise<void> =>
	makeMonths(
		pool,
		homeOf(pool),
		AHEAD.map((days) => now + days * DAY),
	);

/** Lets samples go that are older than their node keeps; rollups stay. */
export async function dropOld(pool: Pool, now: number): Promise<void> {
	const site = await loadSite(pool);
	if (!site) return;
	for (const node of await listNodes(pool, site.site.id)) {
		if (node.keepDays === null) continue;
		// Whole days, so that no rollup is half of what is there and half of what is gone.
		const before = Math.floor((now - node.keepDays * DAY) / DAY) * DAY;
		await transaction(pool, async (client) => {
			await holdNode(client, site.site.id, node.id, null);
			const series = await listSeries(client, site.site.id, { nodeId: node.id });
			if (series.some((s) => s.rawFrom < before))
				await dropSamples(
					client,
					site.site.id,
					series.map((s) => s.id),
					before,
				);
		});
	}
}
