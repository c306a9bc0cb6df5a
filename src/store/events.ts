import { z } from 'zod';
import type { EventKind } from '@/core/reading/model';
import { EVENT_KINDS } from '@/core/reading/model';
import type { Db } from './pool';
import { idRow, read, time } from './read';

export interface NewEvent {
	at: number;
	stationId: number;
	kind: EventKind;
	amount: number | null;
	amountText: string;
	unitText: string;
	product: string;
	note: string;
	extra: Record<string, string> | null;
	source: string;
	enteredBy: string;
	/** The event that this one corrects. */
	supersedes?: number | null;
}

const eventRecord = z.strictObject({
	id: z.number(),
	at: time,
	station: z.string(),
	kind: z.enum(EVENT_KINDS),
	amount: z.number().nullable(),
	amountText: z.string(),
	unitText: z.string(),
	product: z.string(),
	note: z.string(),
	extra: z.record(z.string(), z.string()).nullable(),
});
export type EventRecord = z.output<typeof eventRecord>;

const EVENT = `id, at, station, kind, amount,
	amount_text AS "amountText", unit_text AS "unitText", product, note, extra`;

/** Stores many events in one statement. */
export async function insertEvents(db: Db, siteId: number, events: readonly NewEvent[]): Promise<number[]> {
	if (events.length === 0) return [];
	const rows = await read(
		db,
		idRow,
		`INSERT INTO event (site_id, at, station_id, kind, amount, amount_text, unit_text, product, note, extra, source, entered_by, supersedes)
		SELECT $1, x.at, x.station_id, x.kind, x.amount, x.amount_text, x.unit_text, x.product, x.note, x.extra, x.source, x.entered_by, x.supersedes
		FROM jsonb_to_recordset($2) AS x(at timestamptz, station_id bigint, kind text, amount double precision, amount_text text,
			unit_text text, product text, note text, extra jsonb, source text, entered_by text, supersedes bigint)
		RETURNING id`,
		[
			siteId,
			JSON.stringify(
				events.map((e) => ({
					at: new Date(e.at).toISOString(),
					station_id: e.stationId,
					kind: e.kind,
					amount: e.amount,
					amount_text: e.amountText,
					unit_text: e.unitText,
					product: e.product,
					note: e.note,
					extra: e.extra,
					source: e.source,
					entered_by: e.enteredBy,
					supersedes: e.supersedes ?? null,
				})),
			),
		],
	);
	return rows.map((r) => r.id);
}

export async function listEvents(
	db: Db,
	siteId: number,
	f: {
		from?: number | undefined;
		to?: number | undefined;
		station?: string | undefined;
		kinds?: readonly EventKind[] | undefined;
		after?: { at: number; id: number } | undefined;
		order?: 'oldest' | 'newest' | undefined;
		limit: number;
	},
): Promise<EventRecord[]> {
	const rows = await read(
		db,
		eventRecord,
		`SELECT ${EVENT} FROM event_current
		WHERE site_id = $1 AND ($2::timestamptz IS NULL OR at >= $2) AND ($3::timestamptz IS NULL OR at < $3)
			AND ($4::text IS NULL OR station = $4) AND ($5::timestamptz IS NULL OR (at, id) ${f.order === 'newest' ? '<' : '>'} ($5, $6))
			AND ($8::text[] IS NULL OR kind = ANY($8))
		ORDER BY at ${f.order === 'newest' ? 'DESC' : 'ASC'}, id ${f.order === 'newest' ? 'DESC' : 'ASC'} LIMIT $7`,
		[
			siteId,
			f.from === undefined ? null : new Date(f.from),
			f.to === undefined ? null : new Date(f.to),
			f.station ?? null,
			f.after ? new Date(f.after.at) : null,
			f.after?.id ?? 0,
			f.limit,
			f.kinds ?? null,
		],
	);
	return rows;
}

const lastRow = z.strictObject({ station: z.string(), at: time });
/** When something of these kinds was last done at each of some stations; a station where it never was is not in it. */
export async function lastDone(
	db: Db,
	siteId: number,
	stations: readonly string[],
	kinds: readonly EventKind[],
): Promise<Map<string, number>> {
	const rows = await read(
		db,
		lastRow,
		`SELECT s.code AS station, e.at FROM station s
		CROSS JOIN LATERAL (SELECT c.at FROM event_current c WHERE c.site_id = $1 AND c.station_id = s.id AND c.kind = ANY($3)
			ORDER BY c.at DESC LIMIT 1) e
		WHERE s.site_id = $1 AND s.code = ANY($2)`,
		[siteId, stations, kinds],
	);
	return new Map(rows.map((r) => [r.station, r.at]));
}

/**
 * What is written of events at some times, to tell which of a file are there already.
 * @param before only rows with a smaller number
 */
export async function eventsAt(
	db: Db,
	siteId: number,
	times: readonly number[],
	before: number | null,
): Promise<EventRecord[]> {
	const rows = await read(
		db,
		eventRecord,
		`SELECT ${EVENT} FROM event_current WHERE site_id = $1 AND at = ANY($2) AND ($3::bigint IS NULL OR id < $3)`,
		[siteId, times.map((at) => new Date(at)), before],
	);
	return rows;
}

const keptEvent = eventRecord.extend({
	withdrawn: z.boolean(),
	superseded: z.boolean(),
	enteredAt: time,
	enteredBy: z.string(),
});
/** An event with what became of it. */
export type KeptEvent = z.output<typeof keptEvent>;

/** An event and every other that it corrects or that corrects it, whatever became of them, as they were entered. */
export async function eventHistory(db: Db, siteId: number, id: number): Promise<KeptEvent[]> {
	return read(
		db,
		keptEvent,
		`WITH RECURSIVE chain AS (
			SELECT id, supersedes FROM event WHERE site_id = $1 AND id = $2
			UNION
			SELECT e.id, e.supersedes FROM event e JOIN chain c ON e.supersedes = c.id OR c.supersedes = e.id WHERE e.site_id = $1
		)
		SELECT e.id, e.at, s.code AS station, e.kind, e.amount, e.amount_text AS "amountText", e.unit_text AS "unitText", e.product, e.note, e.extra,
			coalesce((SELECT w.withdrawn FROM event_withdrawal w WHERE w.site_id = e.site_id AND w.event_id = e.id ORDER BY w.id DESC LIMIT 1), false) AS withdrawn,
			EXISTS (SELECT 1 FROM event n WHERE n.site_id = e.site_id AND n.supersedes = e.id) AS superseded,
			e.entered_at AS "enteredAt", e.entered_by AS "enteredBy"
		FROM chain c JOIN event e ON e.site_id = $1 AND e.id = c.id
			JOIN station s ON s.site_id = e.site_id AND s.id = e.station_id
		ORDER BY e.id`,
		[siteId, id],
	);
}

/** One event, whatever became of it. */
export const findEvent = async (db: Db, siteId: number, id: number): Promise<KeptEvent | null> =>
	(await eventHistory(db, siteId, id)).find((e) => e.id === id) ?? null;

export async function insertEventWithdrawal(
	db: Db,
	siteId: number,
	id: number,
	withdrawn: boolean,
	reason: string,
	who: string,
): Promise<void> {
	await db.query(
		'INSERT INTO event_withdrawal (site_id, event_id, withdrawn, reason, who) VALUES ($1, $2, $3, $4, $5)',
		[siteId, id, withdrawn, reason, who],
	);
}
