import { decidedAt } from '@/core/series/decided';
import { DECISIONS, FLAG_OF, STREAM_CAUSES } from '@/core/series/findings';
import { OPEN_DOUBTS, permits } from '@/core/trust/trust';
import { type Db, transaction } from '@/store/pool';
import {
	decisionsWithin,
	episodesWithin,
	extremesOf,
	findEpisode,
	insertSensorDecision,
	openEpisodes,
} from '@/store/sensors/episodes';
import { holdNode, listSeries, type SensorSeries } from '@/store/sensors/nodes';
import { putDecision } from '@/store/sensors/samples';
import { insertAudit } from '@/store/site';
import { requireReason } from '../decide';
import { Refusal } from '../refusal';
import type { SiteContext } from '../site';
import { makeDerivedAgain } from './derived';
import { judgeFrom } from './streams';

/** What of the findings waits for a person, by number. */
const WAITS = STREAM_CAUSES.flatMap((cause, i) =>
	cause !== '' && !OPEN_DOUBTS.withoutCauses.includes(cause) && permits({ flag: FLAG_OF[i]!, cause }, 'review')
		? [i]
		: [],
);
const SHOWN = 100;

/** Doubtful stretches that nobody decided about, the newest first. */
export async function waitingEpisodes(db: Db, { site }: SiteContext) {
	const series = new Map((await listSeries(db, site.id)).map((s) => [s.id, s]));
	const waiting = await openEpisodes(db, site.id, WAITS, SHOWN);
	if (waiting.length === 0) return [];
	const showed = new Map(
		(
			await extremesOf(
				db,
				site.id,
				waiting.map((e) => e.id),
			)
		).map((x) => [x.id, x]),
	);
	// One that was taken back may be there still.
	const decisions = await decisionsWithin(
		db,
		site.id,
		[...new Set(waiting.map((e) => e.seriesId))],
		Math.min(...waiting.map((e) => e.since)),
		Math.max(...waiting.map((e) => e.until)),
	);
	return waiting.map((e) => {
		const s = series.get(e.seriesId)!;
		return {
			...e,
			cause: STREAM_CAUSES[e.cause]!,
			station: s.station,
			instrument: s.instrument,
			node: s.node,
			quantity: s.quantity,
			goesOn: s.newestAt !== null && e.until >= s.newestAt,
			decision:
				DECISIONS[
					decidedAt(
						decisions.filter((d) => d.seriesId === s.id),
						e.since,
					)
				]!,
			least: showed.get(e.id)?.least ?? null,
			greatest: showed.get(e.id)?.greatest ?? null,
		};
	});
}

/** Doubtful stretches of some series within a time, for their marks on a chart. */
export async function episodesOf(
	db: Db,
	{ site }: SiteContext,
	all: readonly Pick<SensorSeries, 'id'>[],
	from: number,
	to: number,
) {
	const rows = await episodesWithin(
		db,
		site.id,
		all.map((s) => s.id),
		from,
		to,
	);
	if (rows.length === 0) return [];
	const decisions = await decisionsWithin(
		db,
		site.id,
		all.map((s) => s.id),
		from,
		to,
	);
	return rows.map((e) => ({
		...e,
		cause: STREAM_CAUSES[e.cause]!,
		decision:
			DECISIONS[
				decidedAt(
					decisions.filter((d) => d.seriesId === e.seriesId),
					e.since,
				)
			]!,
	}));
}

/** Decides about a stretch as it was seen; what came since is left. What the checks learn from it is judged again. */
export async function decideStretch(
	db: Db,
	context: SiteContext,
	id: number,
	{ kind, until, reason }: { kind: 'keep' | 'discard' | 'undo'; until: number; reason: string },
	{ who, now }: { who: string; now: number },
): Promise<void> {
	if (kind !== 'undo') requireReason(kind, reason);
	const siteId = context.site.id;
	await transaction(db, async (client) => {
		const episode = await findEpisode(client, siteId, id);
		if (!episode)
			throw new Refusal('no-such-episode', [
				{
					path: 'id',
					message: 'This stretch is not doubtful any more: it was judged anew meanwhile. Look at Review again.',
				},
			]);
		const series = (await listSeries(client, siteId)).find((s) => s.id === episode.seriesId)!;
		await holdNode(client, siteId, series.nodeId, null);
		const end = Math.min(until, episode.until);
		await insertSensorDecision(client, siteId, {
			seriesId: series.id,
			since: episode.since,
			until: end,
			kind,
			reason,
			who,
		});
		await insertAudit(client, siteId, who, `stretch.${kind}`, String(id), {
			reason,
			quantity: series.quantity,
			probe: series.instrument,
			now,
		});
		await putDecision(client, siteId, series.id, episode.since, end, kind === 'undo' ? 0 : DECISIONS.indexOf(kind));
		await judgeFrom(
			client,
			context,
			{ stationId: series.stationId, station: series.station, instrumentId: series.instrumentId },
			episode.since,
		);
		await makeDerivedAgain(client, context, series, episode.since, end);
	});
}
