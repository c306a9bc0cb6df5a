import { OPEN_DOUBTS } from '@/core/trust/trust';
import type { Db } from '@/store/pool';
import { decisionScores, type JudgedReading, listReadings } from '@/store/readings';
import type { SiteContext } from './site';

/** Doubtful readings that wait for a decision, the worst first: failed before suspect, newer before older. */
export async function reviewQueue(
	db: Db,
	context: SiteContext,
): Promise<{ queue: JudgedReading[]; scores: { cause: string; decided: number; right: number }[] }> {
	const rows = await listReadings(db, context.site.id, {
		...OPEN_DOUBTS,
		limit: 300,
	});
	const queue = rows.sort((a, b) => (b.flag ?? 0) - (a.flag ?? 0) || b.at - a.at);
	return { queue, scores: await decisionScores(db, context.site.id) };
}
