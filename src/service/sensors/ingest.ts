import { DOUBTED_FLAGS } from '@/core/trust/trust';
import { homeOf, type Pool, transaction } from '@/store/pool';
import { holdNode, listSeries, makeSeries, type NodeRow, type SensorSeries } from '@/store/sensors/nodes';
import { makeMonths, timesThere } from '@/store/sensors/samples';
import { Refusal } from '../refusal';
import { requireSite, type SiteContext } from '../site';
import type { Sent, SentSeries } from './read-samples';
import { type Coming, storeStreams } from './streams';

/** What became of what a node sent. */
export interface Taken {
	accepted: number;
	duplicates: number;
	flagged: Record<string, number>;
	station: string;
}

/**
 * Stores what a node sent, judged, rolled up and remembered, in one transaction: all of it or nothing. One at a time for each node;
 * nodes do not wait for one another, nor for people.
 */
export async function takeSamples(
	pool: Pool,
	node: NodeRow & { siteId: number },
	sent: Sent,
	now: number,
): Promise<Taken> {
	await makeMonths(pool, homeOf(pool), monthsOf(sent));
	return transaction(pool, async (client) => {
		await holdNode(client, node.siteId, node.id, now);
		const context = await requireSite(client);
		const bySeries = await seriesFor(client, context, node, sent);
		const flagged: Record<string, number> = {};
		let accepted = 0;
		const byProbe = new Map<number, Coming[]>();
		for (const [s, series] of bySeries) {
			const coming = await notThere(client, node.siteId, s, series);
			accepted += coming.at.length;
			if (coming.at.length === 0) continue;
			const own = byProbe.get(series.instrumentId);
			if (own) own.push(coming);
			else byProbe.set(series.instrumentId, [coming]);
		}
		for (const [instrumentId, coming] of byProbe) {
			const probe = { stationId: node.stationId, station: node.station, instrumentId };
			for (const [flag, n] of await storeStreams(client, context, probe, coming))
				if (DOUBTED_FLAGS.includes(flag)) flagged[flag] = (flagged[flag] ?? 0) + n;
		}
		return { accepted, duplicates: sent.samples - accepted, flagged, station: node.station };
	});
}

function monthsOf(sent: Sent): number[] {
	const months = new Map<number, number>();
	for (const s of sent.series) for (const t of s.at) months.set(Math.floor(t / 86_400_000), t);
	return [...months.values()];
}

/** The series that what was sent belongs to; made where it is the first of its kind. */
async function seriesFor(
	client: Parameters<typeof listSeries>[0],
	context: SiteContext,
	node: NodeRow,
	sent: Sent,
): Promise<Map<SentSeries, SensorSeries>> {
	const siteId = context.site.id;
	const instrumentOf = (probe: string): number => {
		const found = context.instruments.find((i) => i.code === probe);
		if (found) return found.id;
		throw new Refusal('bad-samples', [
			{
				path: 'probe',
				message: `There is no instrument “${probe.slice(0, 40)}”. Make it in Setup, or leave “probe” out for the node’s own.`,
			},
		]);
	};
	const wanted = sent.series.map((s) => ({ s, instrumentId: instrumentOf(s.probe) }));
	const ids = [...new Set(wanted.map((w) => w.instrumentId))];
	let known = await listSeries(client, siteId, { instrumentIds: ids });
	const other = known.find((k) => k.nodeId !== node.id);
	if (other)
		throw new Refusal('probe-of-another', [
			{
				path: 'probe',
				message: `${other.instrument} is a probe of the node “${other.node}”: two nodes cannot tell of one probe. Give this one a probe of its own.`,
			},
		]);
	const find = (w: (typeof wanted)[number]) =>
		known.find(
			(k) => k.instrumentId === w.instrumentId && k.quantity === w.s.quantity && k.stationId === node.stationId,
		);
	const missing = wanted.filter((w) => !find(w));
	for (const { s, instrumentId } of missing)
		await makeSeries(client, siteId, {
			nodeId: node.id,
			stationId: node.stationId,
			instrumentId,
			quantity: s.quantity,
		});
	if (missing.length > 0) known = await listSeries(client, siteId, { instrumentIds: ids });
	return new Map(wanted.map((w) => [w.s, find(w)!]));
}

/** What of a series is not stored yet. */
async function notThere(
	client: Parameters<typeof listSeries>[0],
	siteId: number,
	s: SentSeries,
	series: SensorSeries,
): Promise<Coming> {
	if (s.at[0]! < series.rawFrom)
		throw new Refusal('bad-samples', [
			{
				path: 'at',
				message: `Samples before ${new Date(series.rawFrom).toISOString()} have gone from here, as the node was told to: older ones are not taken.`,
			},
		]);
	if (series.newestAt === null || s.at[0]! > series.newestAt) return { series, at: s.at, value: s.value };
	const there = await timesThere(client, siteId, series.id, s.at);
	if (there.size === 0) return { series, at: s.at, value: s.value };
	const keep = s.at.map((t) => !there.has(t));
	return { series, at: s.at.filter((_, i) => keep[i]), value: s.value.filter((_, i) => keep[i]) };
}
