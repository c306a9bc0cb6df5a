import { fromWorking } from '@/core/judge/working-scale';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { type Due, dueNow, hasFewMinerals, type Rhythm, type Rhythms, usualRhythms } from '@/core/rhythm/due';
import type { Client, Db } from '@/store/pool';
import { newestTimes } from '@/store/readings';
import {
	addToRound,
	answerRetest,
	findRound,
	finishRound,
	insertRound,
	newestRound,
	type OpenRetest,
	type RoundRow,
	retests,
} from '@/store/rounds';
import { Judging } from './judgement';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** What is due at one station, in the order it is dipped. */
export interface StationDue {
	code: string;
	rhythms: Rhythms;
	due: { quantity: Quantity; rhythm: Rhythm; due: Due }[];
	/** Readings here that want to be taken again, not yet answered. */
	retests: { readingId: number; quantity: string }[];
}

const HALF_DAY = 12 * 3_600_000;
/** In water of few minerals EC is dipped first (salt leaks from a pH electrode); elsewhere pH, which is judged first. */
const ORDER: Quantity[] = ['ph', 'ec', 'temp', 'level', 'volume', 'alkalinity', 'hardness'];

/** The round under way or done within the last half day; null before the first of the day. */
export const currentRound = (db: Db, context: SiteContext, now: number): Promise<RoundRow | null> =>
	newestRound(db, context.site.id, now - HALF_DAY);

export async function startRound(db: Db, context: SiteContext, now: number, who: string): Promise<RoundRow> {
	const open = await currentRound(db, context, now);
	return open && open.finishedAt === null ? open : insertRound(db, context.site.id, now, who);
}

export async function endRound(
	db: Db,
	context: SiteContext,
	id: number,
	leftOut: readonly { station: string; reason: string }[],
	now: number,
): Promise<RoundRow> {
	const unknown = leftOut.findIndex((l) => !context.stations.some((s) => s.code === l.station));
	if (unknown >= 0)
		throw new Refusal('unknown-station', [
			{ path: `left_out.${unknown}.station`, message: `There is no station “${leftOut[unknown]!.station}”.` },
		]);
	const round = await finishRound(db, context.site.id, id, now, leftOut);
	if (!round) throw noRound(id);
	return round;
}

const noRound = (id: number) => new Refusal('no-such-round', [{ path: 'round', message: `There is no round ${id}.` }]);

/** What is due along the line now. */
export async function dueAlongTheLine(
	db: Db,
	context: SiteContext,
	now: number,
	round: RoundRow | null,
): Promise<StationDue[]> {
	const { engine } = await Judging.present(db, context, now);
	const newest = await newestTimes(db, context.site.id);
	const open = (await retests(db, context.site.id)).filter((r) => r.answers.length === 0);
	return context.inUse.stations
		.filter((s) => s.kind !== 'standard')
		.map((s) => {
			const ec = engine.expect(s.code, 'ec', now);
			const thin = hasFewMinerals(ec !== null && ec.from > 0 ? fromWorking('ec', ec.level) : null);
			const rhythms = s.rhythm ?? usualRhythms(s.kind, thin);
			const order = thin ? ['ec', ...ORDER.filter((q) => q !== 'ec')] : ORDER;
			const due = Object.entries(rhythms)
				.map(([q, rhythm]) => {
					const last = newest.get(`${s.code}\u0000${q}`) ?? null;
					return {
						quantity: q as Quantity,
						rhythm,
						due: dueNow(rhythm, last, now, context.site.timezone, round?.startedAt ?? null),
					};
				})
				.sort((a, b) => order.indexOf(a.quantity) - order.indexOf(b.quantity));
			return {
				code: s.code,
				rhythms,
				due,
				retests: open
					.filter((r) => r.station === s.code)
					.map((r) => ({ readingId: r.readingId, quantity: r.quantity })),
			};
		});
}

export interface Told {
	/** When the round it belongs to had already been finished. */
	roundFinishedAt: number | null;
	/** Retests that this sample answers, with when somebody had answered before. */
	retests: { readingId: number; answeredAt: number | null }[];
}

/** Ties an entered sample to its round and to the retests it answers. Nothing is refused: a late one is kept as late. */
export async function tieSample(
	client: Client,
	context: SiteContext,
	sample: { id: number; at: number; station: string; quantities: readonly Quantity[] },
	roundId: number | null,
	open: readonly OpenRetest[],
	now: number,
): Promise<Told> {
	let roundFinishedAt: number | null = null;
	if (roundId !== null) {
		const round = await addToRound(client, context.site.id, roundId, sample.id);
		if (!round) throw noRound(roundId);
		roundFinishedAt = round.finishedAt;
	}
	const answered: Told['retests'] = [];
	const measured = new Set(sample.quantities.map(seriesQuantity));
	for (const r of open) {
		if (!answers(r, sample.station, sample.at, measured)) continue;
		await answerRetest(client, context.site.id, r.readingId, sample.id, now);
		answered.push({ readingId: r.readingId, answeredAt: r.answers.at(-1)?.at ?? null });
	}
	return { roundFinishedAt, retests: answered };
}

const answers = (r: OpenRetest, station: string, at: number, measured: ReadonlySet<string>): boolean =>
	r.station === station && at > r.at && measured.has(seriesQuantity(r.quantity as Quantity));

/** The stops of a round: stations where something is due or wants a retest, in the order the water runs. */
export async function walkOf(
	db: Db,
	context: SiteContext,
	id: number,
	now: number,
): Promise<{ id: number; stops: { station: string; due: Quantity[]; retest: Quantity[] }[] } | null> {
	const round = await findRound(db, context.site.id, id);
	if (!round) return null;
	const stops = (await dueAlongTheLine(db, context, now, round))
		.map((s) => ({
			station: s.code,
			due: s.due.filter((d) => d.due.due).map((d) => d.quantity),
			retest: s.retests.map((r) => r.quantity as Quantity),
		}))
		.filter((s) => s.due.length > 0 || s.retest.length > 0);
	return { id, stops };
}
