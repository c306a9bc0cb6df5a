import type { EventKind } from '@/core/reading/model';
import type { Db } from './pool';

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
}

export interface EventRecord {
	id: number;
	at: number;
	station: string;
	kind: EventKind;
	amount: number | null;
	amountText: string;
	unitText: string;
	product: string;
	note: string;
	extra: Record<string, string> | null;
}

const EVENT = `id, at, station, kind, amount,
	amount_text AS "amountText", unit_text AS "unitText", product, note, extra`;

/** Stores many events in one statement. */
export async function insertEvents(db: Db, siteId: number, events: readonly NewEvent[]): Promise<number[]> {
	if (events.length === 0) return [];
	const { rows } = await db.query<{ id: number }>(
		`INSERT INTO event (site_id, at, station_id, kind, amount, amount_text, unit_text, product, note, extra, source, entered_by)
		SELECT $1, x.at, x.station_id, x.kind, x.amount, x.amount_text, x.unit_text, x.product, x.note, x.extra, x.source, x.entered_by
		FROM jsonb_to_recordset($2) AS x(at timestamptz, station_id bigint, kind text, amount double precision, amount_text text,
			unit_text text, product text, note text, extra jsonb, source text, entered_by text)
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
		limit: number;
	},
): Promise<EventRecord[]> {
	const { rows } = await db.query<EventRecord>(
		`SELECT ${EVENT} FROM event_current
		WHERE site_id = $1 AND ($2::timestamptz IS NULL OR at >= $2) AND ($3::timestamptz IS NULL OR at < $3)
			AND ($4::text IS NULL OR station = $4) AND ($5::timestamptz IS NULL OR (at, id) > ($5, $6))
			AND ($8::text[] IS NULL OR kind = ANY($8))
		ORDER BY at, id LIMIT $7`,
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

/** Everything that is written of events between two times, to tell which of a file are there already. */
export async function eventsBetween(db: Db, siteId: number, from: number, to: number): Promise<EventRecord[]> {
	const { rows } = await db.query<EventRecord>(
		`SELECT ${EVENT} FROM event_current WHERE site_id = $1 AND at >= $2 AND at <= $3`,
		[siteId, new Date(from), new Date(to)],
	);
	return rows;
}
