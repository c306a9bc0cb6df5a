import type { DECISIONS } from '@/contract/readings';
import { correctionChain } from '@/store/corrections';
import type { Db } from '@/store/pool';
import { findReading, insertDecision, type JudgedReading, lastEnteredSample } from '@/store/readings';
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

/** One reading to decide about, and the decision that the person saw: what was settled meanwhile is not settled otherwise unseen. */
export interface Seen {
	id: number;
	after?: string | null | undefined;
}

/** What a person decides about readings, all or none; nothing is deleted, and the newest decision counts. */
export async function decide(
	db: Db,
	context: SiteContext,
	readings: readonly Seen[],
	{ kind, reason }: { kind: DecisionKind; reason: string },
	by: { who: string; now: number },
): Promise<void> {
	requireReason(kind, reason);
	await writing(db, async (client) => {
		let from = Number.POSITIVE_INFINITY;
		for (const seen of readings) {
			const reading = await requireReading(client, context.site.id, seen.id);
			requireUndecided(reading, kind, seen.after);
			await insertDecision(client, context.site.id, seen.id, kind, reason, by.who);
			await insertAudit(client, context.site.id, by.who, `reading.${kind}`, String(seen.id), { reason });
			if (!reading.superseded) from = Math.min(from, reading.at);
		}
		// What was kept teaches, what was given up does not: what came after is seen in another light.
		if (kind !== 'retest' && Number.isFinite(from)) await judgeAgain(client, context, from, by.now);
	});
}

function requireUndecided(reading: JudgedReading, kind: DecisionKind, after: string | null | undefined): void {
	if (reading.superseded && kind !== 'restore')
		throw new Refusal('already-corrected', [
			{ path: 'id', message: 'This reading was corrected meanwhile; decide about the newer value.' },
		]);
	const stands = reading.decision ?? '';
	if (SETTLES.includes(kind) && SETTLES.includes(stands) && stands !== kind && after !== stands)
		throw new Refusal('decided-meanwhile', [
			{
				path: 'kind',
				message: `It was decided meanwhile: ${stands}${reading.reason ? ` (${reading.reason})` : ''}. Look at it again; to decide otherwise, say that you have seen it (after: “${stands}”).`,
			},
		]);
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
