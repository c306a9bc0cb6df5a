import type { TimelineOutcome } from '@/core/probe/timeline';
import type { Unit } from '@/core/quantity';
import { ENGINE_VERSION } from '@/core/reading/model';
import { type Db, patiently } from './pool';

/** Readings that one probe took, for restatement: current ones, with the instrument's own uncertainty. */
export interface ProbeReading {
	id: number;
	at: number;
	value: number;
	u: number;
	unit: Unit;
	tempC: number | null;
}

export async function probeReadings(
	db: Db,
	siteId: number,
	instrumentId: number,
	quantity: 'ph' | 'ec',
): Promise<ProbeReading[]> {
	const { rows } = await db.query<ProbeReading>(
		patiently(
			`SELECT r.id, r.at AS at, r.value, coalesce(v.u, 0) AS u, r.unit, r.temp_c AS "tempC"
		FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
		WHERE r.site_id = $1 AND r.instrument_id = $2 AND r.quantity = ANY($3) ORDER BY r.at, r.id`,
			[siteId, instrumentId, quantity === 'ec' ? ['ec', 'tds'] : ['ph']],
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

/** Stores what was derived for readings that have nothing yet. */
export async function insertRestatements(
	db: Db,
	siteId: number,
	outcomes: readonly TimelineOutcome[],
	progress: (done: number) => void = () => {},
): Promise<void> {
	for (let i = 0; i < outcomes.length; i += 5000) {
		await db.query(
			`INSERT INTO restatement (site_id, reading_id, engine, status, value, error, u, u_instrument, u_standards, u_drift, fouling, from_calibration, to_calibration, provisional, partial)
			SELECT $1, x.id, $2, x.status, x.value, x.error, x.u, x.ui, x.us, x.ud, x.fouling, x.f, x.t, x.provisional, x.partial
			FROM jsonb_to_recordset($3) AS x(id bigint, status text, value double precision, error double precision, u double precision, ui double precision,
				us double precision, ud double precision, fouling double precision, f bigint, t bigint, provisional boolean, partial boolean)`,
			[
				siteId,
				ENGINE_VERSION,
				JSON.stringify(
					outcomes.slice(i, i + 5000).map((o) => ({
						id: o.id,
						status: o.status,
						value: o.value,
						error: o.error,
						u: o.u,
						ui: o.parts.instrument,
						us: o.parts.standards,
						ud: o.parts.drift,
						fouling: o.fouling,
						f: o.from,
						t: o.to,
						provisional: o.provisional,
						partial: o.partial,
					})),
				),
			],
		);
		progress(Math.min(i + 5000, outcomes.length));
	}
}
