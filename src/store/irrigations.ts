import { z } from 'zod';
import type { MeasuredRun } from '@/core/rootzone/watering';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';

const irrigationRow = z.strictObject({
	id: z.number(),
	system: z.string(),
	at: time,
	minutes: z.number().nullable(),
	firstDrainMin: z.number().nullable(),
	appliedL: z.number().nullable(),
	appliedCups: json<number[]>(),
	drainedL: z.number().nullable(),
	drainedCups: json<number[]>(),
	note: z.string(),
	enteredBy: z.string(),
});
export type IrrigationRow = z.output<typeof irrigationRow>;
export interface NewIrrigation extends MeasuredRun {
	systemId: number;
	at: number;
	firstDrainMin: number | null;
	note: string;
	who: string;
}

export async function insertIrrigation(db: Db, siteId: number, r: NewIrrigation): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO irrigation (site_id, system_id, at, minutes, first_drain_min, applied_l, applied_cups, drained_l, drained_cups, note, entered_by)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11) RETURNING id`,
		[
			siteId,
			r.systemId,
			new Date(r.at),
			r.minutes,
			r.firstDrainMin,
			r.appliedL,
			JSON.stringify(r.appliedCups),
			r.drainedL,
			JSON.stringify(r.drainedCups),
			r.note,
			r.who,
		],
	);
	return rows[0]!.id;
}

/** Those that stand, oldest first. */
export function listIrrigations(
	db: Db,
	siteId: number,
	f: { system?: string | undefined; from?: number | undefined; to?: number | undefined },
): Promise<IrrigationRow[]> {
	return read(
		db,
		irrigationRow,
		`SELECT r.id, y.code AS system, r.at, r.minutes, r.first_drain_min AS "firstDrainMin", r.applied_l AS "appliedL",
			r.applied_cups AS "appliedCups", r.drained_l AS "drainedL", r.drained_cups AS "drainedCups", r.note, r.entered_by AS "enteredBy"
		FROM irrigation r JOIN system y ON y.site_id = r.site_id AND y.id = r.system_id
		WHERE r.site_id = $1 AND r.withdrawn_at IS NULL AND ($2::text IS NULL OR y.code = $2)
			AND ($3::timestamptz IS NULL OR r.at >= $3) AND ($4::timestamptz IS NULL OR r.at < $4)
		ORDER BY r.at, r.id`,
		[
			siteId,
			f.system ?? null,
			f.from === undefined ? null : new Date(f.from),
			f.to === undefined ? null : new Date(f.to),
		],
	);
}

/** @returns false where there is no such irrigation */
export async function withdrawIrrigation(db: Db, siteId: number, id: number, withdrawn: boolean): Promise<boolean> {
	const { rowCount } = await db.query(
		`UPDATE irrigation SET withdrawn_at = CASE WHEN $3 THEN coalesce(withdrawn_at, now()) END WHERE site_id = $1 AND id = $2`,
		[siteId, id, withdrawn],
	);
	return rowCount === 1;
}
