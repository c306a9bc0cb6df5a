import type { ShownReading } from '@/contract/readings';
import { type Episode, episodeUpTo, insertDecisions, listEpisodes, readingsById } from '@/store/episodes';
import type { Db } from '@/store/pool';
import { decisionScores } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { requireReason } from './decide';
import { judgeAgain } from './judging';
import { shownReading } from './reading-shown';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** So many are shown; the rest comes up as these are decided. */
const SHOWN = 100;

/** What waits for a decision, an episode each with its newest reading, the worst first: failed before suspect, newer before older. */
export async function reviewQueue(
	db: Db,
	context: SiteContext,
): Promise<{
	episodes: (Episode & { reading: ShownReading })[];
	scores: { cause: string; decided: number; right: number }[];
}> {
	const episodes = await listEpisodes(db, context.site.id, SHOWN);
	const rows = await readingsById(
		db,
		context.site.id,
		episodes.map((e) => e.newest),
	);
	const of = new Map(rows.map((r) => [r.id, r]));
	const waiting = episodes.flatMap((episode) => {
		const reading = of.get(episode.newest);
		return reading ? [{ ...episode, reading: shownReading(reading) }] : [];
	});
	return { episodes: waiting, scores: await decisionScores(db, context.site.id) };
}

/**
 * Decides about all readings of an episode up to one: what came since was not seen. What was decided meanwhile stays decided.
 * @returns how many
 */
export async function decideEpisode(
	db: Db,
	context: SiteContext,
	upTo: number,
	{ kind, reason }: { kind: 'keep' | 'discard'; reason: string },
	by: { who: string; now: number },
): Promise<number> {
	requireReason(kind, reason);
	return writing(db, async (client) => {
		const readings = await episodeUpTo(client, context.site.id, upTo);
		const first = readings[0];
		if (!first)
			throw new Refusal('decided-meanwhile', [
				{ path: 'id', message: 'This reading does not wait for a decision any more. Look at Review again.' },
			]);
		const ids = readings.map((r) => r.id);
		await insertDecisions(client, context.site.id, ids, kind, reason, by.who);
		await insertAudit(client, context.site.id, by.who, `episode.${kind}`, String(upTo), {
			reason,
			readings: ids.length,
		});
		await judgeAgain(client, context, first.at, by.now);
		return ids.length;
	});
}
