import type { DECISIONS } from '@/contract/readings';
import type { Db } from '@/store/pool';
import { correctionChain, findReading, insertDecision, type JudgedReading, lastEnteredSample } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { judgeAgain } from './judging';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

export async function requireReading(db: Db, siteId: number, id: number): Promise<JudgedReading> {
	const reading = await findReading(db, siteId, id);
	if (!reading) throw new Refusal('no-such-reading', [{ path: 'id', message: `There is no reading ${id}.` }]);
	return reading;
}

type DecisionKind = (typeof DECISIONS)[number];

export function requireReason(kind: DecisionKind, reason: string): void {
	if (kind === 'discard' && reason.trim() === '')
		throw new Refusal('reason-needed', [
			{ path: 'reason', message: 'Say why it is discarded; the reason stays with the reading.' },
		]);
}

/** These settle a reading: whoever decides otherwise has to know that somebody did. */
const SETTLES: readonly string[] = ['keep', 'discard'];

/**
 * What a person decides about a reading; nothing is deleted, and the newest counts.
 * @param d.after the decision that the person saw; what was settled meanwhile is not settled otherwise unseen
 */
export async function decide(
	db: Db,
	context: SiteContext,
	id: number,
	d: { kind: DecisionKind; reason: string; after?: string | null | undefined },
	by: { who: string; now: number },
): Promise<void> {
	const { kind, reason } = d;
	requireReason(kind, reason);
	await writing(db, async (client) => {
		const reading = await requireReading(client, context.site.id, id);
		if (reading.superseded && kind !== 'restore')
			throw new Refusal('already-corrected', [
				{ path: 'id', message: 'This reading was corrected meanwhile; decide about the newer value.' },
			]);
		const stands = reading.decision ?? '';
		if (SETTLES.includes(kind) && SETTLES.includes(stands) && stands !== kind && d.after !== stands)
			throw new Refusal('decided-meanwhile', [
				{
					path: 'kind',
					message: `It was decided meanwhile: ${stands}${reading.reason ? ` (${reading.reason})` : ''}. Look at it again; to decide otherwise, say that you have seen it (after: “${stands}”).`,
				},
			]);
		await insertDecision(client, context.site.id, id, kind, reason, by.who);
		await insertAudit(client, context.site.id, by.who, `reading.${kind}`, String(id), { reason });
		// What was kept teaches, what was given up does not: what came after is seen in another light.
		if (kind !== 'retest' && !reading.superseded) await judgeAgain(client, context, reading.at, by.now);
	});
}

/** Takes back the newest typed sample: a decision, so nothing is lost and it can be restored. */
export async function undoLast(
	db: Db,
	context: SiteContext,
	by: { who: string; now: number },
): Promise<JudgedReading[]> {
	return writing(db, async (client) => {
		const rows = await lastEnteredSample(client, context.site.id);
		for (const row of rows) await insertDecision(client, context.site.id, row.id, 'undo', '', by.who);
		if (rows[0]) {
			await insertAudit(client, context.site.id, by.who, 'sample.undo', String(rows[0].sampleId), {});
			await judgeAgain(client, context, rows[0].at, by.now);
		}
		return rows;
	});
}

/** Every row that a reading replaced or was replaced by, oldest first. */
export const readingHistory = (db: Db, context: SiteContext, id: number) => correctionChain(db, context.site.id, id);
