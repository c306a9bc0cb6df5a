import type { DECISIONS } from '@/contract/readings';
import { type Pool, transaction } from '@/store/pool';
import { correctionChain, findReading, insertDecision, type JudgedReading, lastEnteredSample } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { judgeAgain } from './judging';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

export async function requireReading(pool: Pool, siteId: number, id: number): Promise<JudgedReading> {
	const reading = await findReading(pool, siteId, id);
	if (!reading) throw new Refusal('no-such-reading', [{ path: 'id', message: `There is no reading ${id}.` }]);
	return reading;
}

type DecisionKind = (typeof DECISIONS)[number];

/** What a person decides about a reading; nothing is deleted, and the newest counts. */
export async function decide(
	pool: Pool,
	context: SiteContext,
	id: number,
	kind: DecisionKind,
	reason: string,
	by: { who: string; now: number },
): Promise<void> {
	const reading = await requireReading(pool, context.site.id, id);
	if (reading.superseded && kind !== 'restore')
		throw new Refusal('already-corrected', [
			{ path: 'id', message: 'This reading was corrected meanwhile; decide about the newer value.' },
		]);
	if (kind === 'discard' && reason.trim() === '')
		throw new Refusal('reason-needed', [
			{ path: 'reason', message: 'Say why it is discarded; the reason stays with the reading.' },
		]);
	await transaction(pool, async (client) => {
		await insertDecision(client, context.site.id, id, kind, reason, by.who);
		await insertAudit(client, context.site.id, by.who, `reading.${kind}`, String(id), { reason });
		// What was kept teaches, what was given up does not: what came after is seen in another light.
		if (kind !== 'retest' && !reading.superseded) await judgeAgain(client, context, reading.at, by.now);
	});
}

/** Takes back the newest typed sample: a decision, so nothing is lost and it can be restored. */
export async function undoLast(
	pool: Pool,
	context: SiteContext,
	by: { who: string; now: number },
): Promise<JudgedReading[]> {
	return transaction(pool, async (client) => {
		const rows = await lastEnteredSample(client, context.site.id, by.who);
		for (const row of rows) await insertDecision(client, context.site.id, row.id, 'undo', '', by.who);
		if (rows[0]) {
			await insertAudit(client, context.site.id, by.who, 'sample.undo', String(rows[0].sampleId), {});
			await judgeAgain(client, context, rows[0].at, by.now);
		}
		return rows;
	});
}

/** Every row that a reading replaced or was replaced by, oldest first. */
export const readingHistory = (pool: Pool, context: SiteContext, id: number) =>
	correctionChain(pool, context.site.id, id);
