import { z } from 'zod';
import type { PlanStage } from '@/core/crop/plan';
import type { Db } from './pool';
import { json, read } from './read';

const planRow = z.strictObject({
	systemId: z.number(),
	system: z.string(),
	name: z.string(),
	version: z.number(),
	stages: json<PlanStage[]>(),
});
export type PlanRow = z.output<typeof planRow>;

const PLAN = `p.system_id AS "systemId", y.code AS system, y.name, p.version, p.stages
	FROM plan p JOIN system y ON y.site_id = p.site_id AND y.id = p.system_id`;

export const listPlans = (db: Db, siteId: number): Promise<PlanRow[]> =>
	read(db, planRow, `SELECT ${PLAN} WHERE p.site_id = $1 ORDER BY y.code`, [siteId]);

/** Makes the plan of a system or brings it to a state, as its next version. */
export async function putPlan(
	db: Db,
	siteId: number,
	p: { systemId: number; stages: readonly PlanStage[]; who: string },
): Promise<void> {
	await db.query(
		`INSERT INTO plan (site_id, system_id, version, stages, entered_by) VALUES ($1,$2,1,$3,$4)
		ON CONFLICT (site_id, system_id) DO UPDATE SET version = plan.version + 1, stages = EXCLUDED.stages,
			entered_by = EXCLUDED.entered_by, entered_at = now()`,
		[siteId, p.systemId, JSON.stringify(p.stages), p.who],
	);
}

export async function deletePlan(db: Db, siteId: number, systemId: number): Promise<void> {
	await db.query('DELETE FROM plan WHERE site_id = $1 AND system_id = $2', [siteId, systemId]);
}
