import { z } from 'zod';
import { PROBE_EVENT_KINDS, STORAGES } from '@/core/probe/care';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';

const calibrationPointRow = z.strictObject({
	standard: z.string(),
	lot: z.string(),
	nominal: z.number(),
	asFound: z.number().nullable(),
	asLeft: z.number().nullable(),
	mv: z.number().nullable(),
});
export type CalibrationPointRow = z.output<typeof calibrationPointRow>;
export interface NewCalibration {
	instrumentId: number;
	quantity: 'ph' | 'ec';
	at: number;
	kind: 'check' | 'adjust';
	tempC: number | null;
	settleS: number | null;
	note: string;
	doubts: string[];
	source: string;
	enteredBy: string;
	points: CalibrationPointRow[];
}
const calibrationRow = z.strictObject({
	id: z.number(),
	instrument: z.string(),
	quantity: z.enum(['ph', 'ec']),
	at: time,
	kind: z.enum(['check', 'adjust']),
	tempC: z.number().nullable(),
	settleS: z.number().nullable(),
	note: z.string(),
	doubts: z.array(z.string()),
	withdrawn: z.boolean(),
	points: z.array(calibrationPointRow),
});
export type CalibrationRow = z.output<typeof calibrationRow>;

export async function insertCalibration(db: Db, siteId: number, c: NewCalibration): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO calibration (site_id, instrument_id, quantity, at, kind, temp_c, settle_s, note, doubts, source, entered_by)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11) RETURNING id`,
		[
			siteId,
			c.instrumentId,
			c.quantity,
			new Date(c.at),
			c.kind,
			c.tempC,
			c.settleS,
			c.note,
			c.doubts,
			c.source,
			c.enteredBy,
		],
	);
	const id = rows[0]!.id;
	for (const [i, p] of c.points.entries())
		await db.query(
			`INSERT INTO calibration_point (site_id, calibration_id, position, standard, lot, nominal, as_found, as_left, mv) VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9)`,
			[siteId, id, i, p.standard, p.lot, p.nominal, p.asFound, p.asLeft, p.mv],
		);
	return id;
}

/** Calibrations with their points, oldest first. */
export async function listCalibrations(
	db: Db,
	siteId: number,
	f: { instrument?: string | undefined; quantity?: string | undefined; withWithdrawn?: boolean } = {},
): Promise<CalibrationRow[]> {
	const rows = await read(
		db,
		calibrationRow,
		`SELECT c.id, i.code AS instrument, c.quantity, c.at AS at, c.kind, c.temp_c AS "tempC",
			c.settle_s AS "settleS", c.note, c.doubts, coalesce(w.withdrawn, false) AS withdrawn,
			(SELECT coalesce(json_agg(json_build_object('standard', p.standard, 'lot', p.lot, 'nominal', p.nominal, 'asFound', p.as_found, 'asLeft', p.as_left, 'mv', p.mv) ORDER BY p.position), '[]')
				FROM calibration_point p WHERE p.site_id = c.site_id AND p.calibration_id = c.id) AS points
		FROM calibration c JOIN instrument i ON i.site_id = c.site_id AND i.id = c.instrument_id
		LEFT JOIN LATERAL (SELECT withdrawn FROM calibration_withdrawal w WHERE w.site_id = c.site_id AND w.calibration_id = c.id ORDER BY w.id DESC LIMIT 1) w ON true
		WHERE c.site_id = $1 AND ($2::text IS NULL OR i.code = $2) AND ($3::text IS NULL OR c.quantity = $3) AND ($4 OR NOT coalesce(w.withdrawn, false))
		ORDER BY c.at, c.id`,
		[siteId, f.instrument ?? null, f.quantity ?? null, f.withWithdrawn ?? false],
	);
	return rows;
}

export async function setWithdrawn(
	db: Db,
	siteId: number,
	calibrationId: number,
	withdrawn: boolean,
	reason: string,
	who: string,
): Promise<void> {
	await db.query(
		'INSERT INTO calibration_withdrawal (site_id, calibration_id, withdrawn, reason, who) VALUES ($1,$2,$3,$4,$5)',
		[siteId, calibrationId, withdrawn, reason, who],
	);
}

const probeEventRow = z.strictObject({
	id: z.number(),
	instrument: z.string(),
	quantity: z.enum(['ph', 'ec']),
	at: time,
	kind: z.enum(PROBE_EVENT_KINDS),
	before: z.number().nullable(),
	after: z.number().nullable(),
	note: z.string(),
});
export type ProbeEventRow = z.output<typeof probeEventRow>;
export async function insertProbeEvent(
	db: Db,
	siteId: number,
	e: Omit<ProbeEventRow, 'id' | 'instrument'> & { instrumentId: number; who: string },
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO probe_event (site_id, instrument_id, quantity, at, kind, before_value, after_value, note, entered_by) VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9) RETURNING id`,
		[siteId, e.instrumentId, e.quantity, new Date(e.at), e.kind, e.before, e.after, e.note, e.who],
	);
	return rows[0]!.id;
}
export async function listProbeEvents(db: Db, siteId: number, instrument?: string): Promise<ProbeEventRow[]> {
	const rows = await read(
		db,
		probeEventRow,
		`SELECT e.id, i.code AS instrument, e.quantity, e.at AS at, e.kind, e.before_value AS before, e.after_value AS after, e.note
		FROM probe_event e JOIN instrument i ON i.site_id = e.site_id AND i.id = e.instrument_id
		WHERE e.site_id = $1 AND ($2::text IS NULL OR i.code = $2) ORDER BY e.at, e.id`,
		[siteId, instrument ?? null],
	);
	return rows;
}

const probeRow = z.strictObject({
	instrument: z.string(),
	quantity: z.enum(['ph', 'ec']),
	serial: z.string(),
	inService: z.string().nullable(),
	storage: z.enum(STORAGES),
	storageRefilled: z.string().nullable(),
	note: z.string(),
});
export type ProbeRow = z.output<typeof probeRow>;
export async function putProbe(
	db: Db,
	siteId: number,
	p: Omit<ProbeRow, 'instrument'> & { instrumentId: number },
): Promise<void> {
	await db.query(
		`INSERT INTO probe (site_id, instrument_id, quantity, serial, in_service, storage, storage_refilled, note) VALUES ($1,$2,$3,$4,$5,$6,$7,$8)
		ON CONFLICT (site_id, instrument_id, quantity) WHERE replaced_by IS NULL DO UPDATE SET serial = EXCLUDED.serial, in_service = EXCLUDED.in_service,
			storage = EXCLUDED.storage, storage_refilled = EXCLUDED.storage_refilled, note = EXCLUDED.note`,
		[siteId, p.instrumentId, p.quantity, p.serial, p.inService, p.storage, p.storageRefilled, p.note],
	);
}
export async function listProbes(db: Db, siteId: number): Promise<ProbeRow[]> {
	const rows = await read(
		db,
		probeRow,
		`SELECT i.code AS instrument, p.quantity, p.serial, p.in_service::text AS "inService", p.storage, p.storage_refilled::text AS "storageRefilled", p.note
		FROM probe p JOIN instrument i ON i.site_id = p.site_id AND i.id = p.instrument_id WHERE p.site_id = $1 AND p.replaced_by IS NULL`,
		[siteId],
	);
	return rows;
}

const lotRow = z.strictObject({
	id: z.number(),
	name: z.string(),
	standard: z.string(),
	ownTable: z.array(json<[number, number]>()).nullable(),
	tolerance: z.number().nullable(),
	opened: z.string().nullable(),
	expires: z.string().nullable(),
	singleUse: z.boolean(),
	retired: z.boolean(),
});
export type LotRow = z.output<typeof lotRow>;
export async function putLot(db: Db, siteId: number, l: Omit<LotRow, 'id'>): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO standard_lot (site_id, name, standard, own_table, tolerance, opened, expires, single_use, retired_at)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,CASE WHEN $9 THEN now() END)
		ON CONFLICT (site_id, name) DO UPDATE SET standard = EXCLUDED.standard, own_table = EXCLUDED.own_table, tolerance = EXCLUDED.tolerance,
			opened = EXCLUDED.opened, expires = EXCLUDED.expires, single_use = EXCLUDED.single_use,
			retired_at = CASE WHEN $9 THEN coalesce(standard_lot.retired_at, now()) END
		RETURNING id`,
		[
			siteId,
			l.name,
			l.standard,
			l.ownTable === null ? null : JSON.stringify(l.ownTable),
			l.tolerance,
			l.opened,
			l.expires,
			l.singleUse,
			l.retired,
		],
	);
	return rows[0]!.id;
}
export async function listLots(db: Db, siteId: number): Promise<LotRow[]> {
	const rows = await read(
		db,
		lotRow,
		`SELECT id, name, standard, own_table AS "ownTable", tolerance, opened::text AS opened, expires::text AS expires, single_use AS "singleUse", retired_at IS NOT NULL AS retired FROM standard_lot WHERE site_id = $1 ORDER BY id`,
		[siteId],
	);
	return rows;
}
