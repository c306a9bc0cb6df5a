import { z } from 'zod';
import type { TimelineOutcome } from '@/core/probe/timeline';
import { quantitiesOf, type Unit } from '@/core/quantity';
import { ENGINE_VERSION } from '@/core/reading/model';
import { type Db, patiently } from './pool';
import { json, read, time, timeOrEnd } from './read';
import { putRows } from './rows';

/** Readings that one probe took, for restatement: current ones, with the instrument's own uncertainty. */
const probeReading = z.strictObject({
	id: z.number(),
	at: time,
	value: z.number(),
	u: z.number(),
	unit: json<Unit>(),
	tempC: z.number().nullable(),
});
export type ProbeReading = z.output<typeof probeReading>;

export async function probeReadings(
	db: Db,
	siteId: number,
	instrumentId: number,
	quantity: 'ph' | 'ec',
	from = Number.NEGATIVE_INFINITY,
	before = Number.POSITIVE_INFINITY,
): Promise<ProbeReading[]> {
	const rows = await read(
		db,
		probeReading,
		patiently(
			`SELECT r.id, r.at AS at, r.value, coalesce(v.u, 0) AS u, r.unit, r.temp_c AS "tempC"
		FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
		WHERE r.site_id = $1 AND r.instrument_id = $2 AND r.quantity = ANY($3) AND r.at >= $4 AND r.at < $5
			AND v.superseded IS NOT TRUE AND v.decision IS DISTINCT FROM 'undo' ORDER BY r.at, r.id`,
			[siteId, instrumentId, quantitiesOf(quantity), timeOrEnd(from), timeOrEnd(before)],
		),
	);
	return rows;
}

const storedRestatement = z.strictObject({
	id: z.number(),
	status: z.string(),
	value: z.number(),
	error: z.number(),
	u: z.number(),
	fouling: z.number(),
	from: z.number().nullable(),
	to: z.number().nullable(),
	provisional: z.boolean(),
	partial: z.boolean(),
});

export type StoredRestatement = z.output<typeof storedRestatement>;

/** What is derived by now for readings, by their number. */
export async function storedRestatements(
	db: Db,
	siteId: number,
	ids: readonly number[],
): Promise<Map<number, StoredRestatement>> {
	if (ids.length === 0) return new Map();
	const rows = await read(
		db,
		storedRestatement,
		patiently(
			`SELECT reading_id AS id, status, value, error, u, fouling, from_calibration AS "from", to_calibration AS "to", provisional, partial
			FROM restatement WHERE site_id = $1 AND reading_id = ANY($2) AND engine = $3`,
			[siteId, ids, ENGINE_VERSION],
		),
	);
	return new Map(rows.map((r) => [r.id, r]));
}

/** Replaces what was derived for readings. */
export async function replaceRestatements(db: Db, siteId: number, outcomes: readonly TimelineOutcome[]): Promise<void> {
	if (outcomes.length === 0) return;
	await db.query(
		patiently('DELETE FROM restatement WHERE site_id = $1 AND reading_id = ANY($2)', [
			siteId,
			outcomes.map((o) => o.id),
		]),
	);
	await insertRestatements(db, siteId, outcomes);
}

const RESTATEMENT_COLUMNS =
	'site_id, reading_id, engine, status, value, error, u, u_instrument, u_standards, u_drift, fouling, from_calibration, to_calibration, provisional, partial';
const restatementCells = (siteId: number, o: TimelineOutcome): unknown[] => [
	siteId,
	o.id,
	ENGINE_VERSION,
	o.status,
	o.value,
	o.error,
	o.u,
	o.parts.instrument,
	o.parts.standards,
	o.parts.drift,
	o.fouling,
	o.from,
	o.to,
	o.provisional,
	o.partial,
];

/** Stores what was derived for readings that have nothing yet. */
export async function insertRestatements(db: Db, siteId: number, outcomes: readonly TimelineOutcome[]): Promise<void> {
	for (let i = 0; i < outcomes.length; i += 5000) {
		const part = outcomes.slice(i, i + 5000);
		await putRows(
			db,
			'restatement',
			RESTATEMENT_COLUMNS,
			part.map((o) => restatementCells(siteId, o)),
		);
	}
}
