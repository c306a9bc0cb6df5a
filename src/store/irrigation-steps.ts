import { z } from 'zod';
import { type NextStep, STEP_KINDS } from '@/core/rootzone/advice';
import type { Ahead } from '@/core/rootzone/drain-ahead';
import type { Watering } from '@/core/rootzone/watering';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';

const stepRow = z.strictObject({
	id: z.number(),
	at: time,
	kind: z.enum(STEP_KINDS),
	runsADay: z.number(),
	minutes: z.number().nullable(),
	feedUsCm: z.number(),
	flushL: z.number().nullable(),
	lookAt: time,
	expect: json<Ahead>(),
	wateringBefore: json<Watering>().nullable(),
	wateringAfter: json<Watering>().nullable(),
	enteredBy: z.string(),
});
export type StepRow = z.output<typeof stepRow>;

export async function insertStep(
	db: Db,
	siteId: number,
	s: NextStep & { systemId: number; at: number; before: Watering | null; after: Watering | null; who: string },
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO irrigation_step (site_id, system_id, at, kind, runs_a_day, minutes, feed_us_cm, flush_l, look_at, expect,
			watering_before, watering_after, entered_by)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13) RETURNING id`,
		[
			siteId,
			s.systemId,
			new Date(s.at),
			s.kind,
			s.runsADay,
			s.minutes,
			s.feedUsCm,
			s.flushL,
			new Date(s.lookAt),
			JSON.stringify(s.expect),
			s.before && JSON.stringify(s.before),
			s.after && JSON.stringify(s.after),
			s.who,
		],
	);
	return rows[0]!.id;
}

/** Steps of a system that stand, oldest first. */
export function listSteps(db: Db, siteId: number, systemId: number): Promise<StepRow[]> {
	return read(
		db,
		stepRow,
		`SELECT id, at, kind, runs_a_day AS "runsADay", minutes, feed_us_cm AS "feedUsCm", flush_l AS "flushL", look_at AS "lookAt", expect,
			watering_before AS "wateringBefore", watering_after AS "wateringAfter", entered_by AS "enteredBy"
		FROM irrigation_step WHERE site_id = $1 AND system_id = $2 AND withdrawn_at IS NULL ORDER BY at, id`,
		[siteId, systemId],
	);
}

/** The system of a step that stands, locked; null where there is none. */
export async function stepToWithdraw(db: Db, siteId: number, id: number): Promise<{ systemId: number } | null> {
	const rows = await read(
		db,
		z.strictObject({ systemId: z.number() }),
		`SELECT system_id AS "systemId" FROM irrigation_step WHERE site_id = $1 AND id = $2 AND withdrawn_at IS NULL FOR UPDATE`,
		[siteId, id],
	);
	return rows[0] ?? null;
}

export async function withdrawStep(db: Db, siteId: number, id: number): Promise<void> {
	await db.query('UPDATE irrigation_step SET withdrawn_at = now() WHERE site_id = $1 AND id = $2', [siteId, id]);
}
