import { unitNamed } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import { eventHistory, findEvent, insertEvents, insertEventWithdrawal, type KeptEvent } from '@/store/events';
import { isLate } from '@/store/judging';
import type { Client, Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { keepWithEvent } from './errors';
import { Judging } from './judgement';
import { judgeAgain } from './judging';
import { Refusal } from './refusal';
import { requireSite, type SiteContext } from './site';
import { requireTime } from './time-ahead';

export interface TypedEvent {
	at: number;
	station: string;
	kind: EventKind;
	amount: number | null;
	unitText: string;
	product: string;
	note: string;
}

const AMOUNT_UNITS = ['mL', 'L', 'gal', 'g', 'kg', 'min', 'drops', ''];

export const enterEvent = (
	db: Db,
	context: SiteContext,
	e: TypedEvent,
	by: { who: string; now: number },
): Promise<number> => writing(db, (client) => storeEvent(client, context, e, by));

/** The same inside a transaction that holds more. */
export async function storeEvent(
	client: Client,
	context: SiteContext,
	e: TypedEvent,
	by: { who: string; now: number },
): Promise<number> {
	const id = await insertTyped(client, context, e, by, null);
	// Logged late, it explains what was read since.
	if (await isLate(client, context.site.id, e.at)) await judgeAgain(client, context, e.at, by.now);
	else {
		const after = await requireSite(client);
		keepWithEvent(client, context, after, e);
		const { at, station, kind, amount } = e;
		const unit = unitNamed(e.unitText) ?? null;
		Judging.noteInPresent(client, context, after, { at, station, kind, amount, unit });
	}
	return id;
}

async function insertTyped(
	client: Client,
	context: SiteContext,
	e: TypedEvent,
	by: { who: string; now: number },
	supersedes: number | null,
): Promise<number> {
	requireTime(e.at, by.now, 'time');
	const station = context.stations.find((s) => s.code === e.station);
	if (!station)
		throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${e.station}”.` }]);
	if (!unitNamed(e.unitText) && !AMOUNT_UNITS.includes(e.unitText))
		throw new Refusal('unknown-unit', [
			{ path: 'unit', message: `“${e.unitText}” is not a unit of an amount; use mL, L or g.` },
		]);
	const [id] = await insertEvents(client, context.site.id, [
		{
			at: e.at,
			stationId: station.id,
			kind: e.kind,
			amount: e.amount,
			amountText: e.amount === null ? '' : String(e.amount),
			unitText: e.unitText,
			product: e.product,
			note: e.note,
			extra: null,
			source: 'typed',
			enteredBy: by.who,
			supersedes,
		},
	]);
	return id!;
}

const noEvent = (id: number) => new Refusal('no-such-event', [{ path: 'id', message: `There is no event ${id}.` }]);

/** An event with all that it corrects or that corrects it, the first entered first. */
export async function eventStory(db: Db, context: SiteContext, id: number): Promise<KeptEvent[]> {
	const events = await eventHistory(db, context.site.id, id);
	if (events.length === 0) throw noEvent(id);
	return events;
}

async function requireEvent(client: Client, context: SiteContext, id: number): Promise<KeptEvent> {
	const event = await findEvent(client, context.site.id, id);
	if (!event) throw noEvent(id);
	if (event.superseded)
		throw new Refusal('already-corrected', [
			{ path: 'id', message: 'This event was corrected meanwhile. Look at the list again for what it says now.' },
		]);
	return event;
}

/** What was wrongly logged, as it should read: a new event that supersedes; the original stays. What hung on either is judged anew. */
export const correctEvent = (
	db: Db,
	context: SiteContext,
	id: number,
	{ reason, ...change }: Partial<TypedEvent> & { reason: string },
	by: { who: string; now: number },
): Promise<number> =>
	writing(db, async (client) => {
		const old = await requireEvent(client, context, id);
		if (old.withdrawn)
			throw new Refusal('withdrawn', [
				{ path: 'id', message: 'This event was taken back. Put it back first, or log it anew.' },
			]);
		const given = Object.fromEntries(Object.entries(change).filter(([, v]) => v !== undefined));
		const event: TypedEvent = { ...old, ...given };
		const made = await insertTyped(client, context, event, by, id);
		await insertAudit(client, context.site.id, by.who, 'event.corrected', String(id), { new: made, reason });
		await judgeAgain(client, context, Math.min(old.at, event.at), by.now);
		return made;
	});

/** Takes an event back, or puts it back: it stays in the record, and what hung on it is judged anew. */
export const withdrawEvent = (
	db: Db,
	context: SiteContext,
	id: number,
	w: { withdrawn: boolean; reason: string },
	by: { who: string; now: number },
): Promise<void> =>
	writing(db, async (client) => {
		const event = await requireEvent(client, context, id);
		if (event.withdrawn === w.withdrawn) return;
		await insertEventWithdrawal(client, context.site.id, id, w.withdrawn, w.reason, by.who);
		await insertAudit(
			client,
			context.site.id,
			by.who,
			w.withdrawn ? 'event.withdrawn' : 'event.reinstated',
			String(id),
			{
				reason: w.reason,
			},
		);
		await judgeAgain(client, context, event.at, by.now);
	});
