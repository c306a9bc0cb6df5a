import { z } from 'zod';
import type { TimelineOutcome } from '@/core/probe/timeline';
import type { Quantity, Unit } from '@/core/quantity';
import { QUANTITIES } from '@/core/quantity';
import { ENGINE_VERSION } from '@/core/reading/model';
import { type Db, patiently } from './pool';
import { json, read, time } from './read';
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
): Promise<ProbeReading[]> {
	const rows = await read(
		db,
		probeReading,
		patiently(
			`SELECT r.id, r.at AS at, r.value, coalesce(v.u, 0) AS u, r.unit, r.temp_c AS "tempC"
		FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
		WHERE r.site_id = $1 AND r.instrument_id = $2 AND r.quantity = ANY($3) ORDER BY r.at, r.id`,
			[siteId, instrumentId, quantity === 'ec' ? ['ec', 'tds'] : ['ph']],
		),
	);
	return rows;
}

/** Readings from a number on in the order of their numbers, which have nothing derived yet. */
export async function freshReadings(
	db: Db,
	siteId: number,
	fromId: number,
	limit: number,
): Promise<(ProbeReading & { instrumentId: number | null; quantity: Quantity })[]> {
	const rows = await read(
		db,
		probeReading.extend(z.strictObject({ instrumentId: z.number().nullable(), quantity: z.enum(QUANTITIES) }).shape),
		patiently(
			`SELECT r.id, r.at AS at, r.value, coalesce(v.u, 0) AS u, r.unit, r.temp_c AS "tempC", r.instrument_id AS "instrumentId", r.quantity
		FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
		WHERE r.site_id = $1 AND r.id >= $2 ORDER BY r.id LIMIT $3`,
			[siteId, fromId, limit],
		),
	);
	return rows;
}

/** Replaces what was derived for one probe's readings. */
export async function replaceRestatements(
	db: Db,
	siteId: number,
	readingIds: readonly number[],
	outcomes: readonly TimelineOutcome[],
	progress: (done: number) => void = () => {},
): Promise<void> {
	await db.query(
		patiently('DELETE FROM restatement WHERE site_id = $1 AND reading_id = ANY($2)', [siteId, readingIds]),
	);
	await insertRestatements(db, siteId, outcomes, progress);
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
export async function insertRestatements(
	db: Db,
	siteId: number,
	outcomes: readonly TimelineOutcome[],
	progress: (done: number) => void = () => {},
): Promise<void> {
	for (let i = 0; i < outcomes.length; i += 5000) {
		const part = outcomes.slice(i, i + 5000);
		await putRows(
			db,
			'restatement',
			RESTATEMENT_COLUMNS,
			part.map((o) => restatementCells(siteId, o)),
		);
		progress(i + part.length);
	}
}
