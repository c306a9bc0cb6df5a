import type { z } from 'zod';
import type { Contract } from '@/contract';
import { beginStage, type PlanStage, planNow, planSpans } from '@/core/crop/plan';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { putSystem } from '@/store/line';
import { deletePlan, listPlans, type PlanRow, putPlan } from '@/store/plans';
import type { Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { Refusal } from './refusal';
import { requireSystem } from './rootzone';
import { saveStation } from './setup';
import { requireSite, type SiteContext } from './site';

type Plan = z.output<Contract['POST /plans']['answer']>;
type By = { who: string; now: number };

export async function plansOf(db: Db, context: SiteContext, now: number): Promise<Plan[]> {
	const today = sheetDay(now, context.site.timezone);
	return (await listPlans(db, context.site.id)).map((p) => shown(p, today));
}

const shown = ({ system, name, version, stages }: PlanRow, today: string): Plan => ({
	system,
	name,
	version,
	stages: stages.map((s) => ({ ...s, ecUsCm: [...s.ecUsCm], ph: [...s.ph] })) as Plan['stages'],
	spans: planSpans(stages, today),
	...planNow(stages, today),
});

/** Makes or changes the plan of a system as a whole. */
export const savePlan = (
	db: Db,
	asked: {
		system: string;
		version: number;
		stages: readonly (Omit<PlanStage, 'begun'> & { begun?: string | null | undefined })[];
	},
	by: By,
): Promise<Plan> =>
	changing(db, asked.system, asked.version, by, 'plan.saved', () =>
		asked.stages.map((s) => ({ ...s, begun: s.begun ?? null })),
	);

/** Begins a stage today or on an earlier day, or goes back to one. */
export const beginStageOf = (
	db: Db,
	asked: { system: string; version: number; index: number; on?: string | undefined },
	by: By,
): Promise<Plan> =>
	changing(db, asked.system, asked.version, by, 'plan.stage', (before, today) => {
		if (!before) throw noPlan(asked.system);
		const stages = beginStage(before.stages, asked.index, asked.on ?? today);
		if (!stages)
			throw new Refusal('no-such-stage', [{ path: 'index', message: `This plan has no stage ${asked.index}.` }]);
		return stages;
	});

/** Puts a plan away; what its targets made of the stations stays. */
export async function endPlan(db: Db, system: string, version: number, who: string): Promise<void> {
	await writing(db, async (client) => {
		const context = await requireSite(client);
		const row = requireSystem(context, system);
		const before = (await listPlans(client, context.site.id)).find((p) => p.systemId === row.id);
		if (!before) throw noPlan(system);
		sameVersion(before, version);
		await deletePlan(client, context.site.id, row.id);
		await insertAudit(client, context.site.id, who, 'plan.ended', system, before);
	});
}

/** Brings a plan to another state, and the targets of the stations that feed the system to those of the stage that is on. */
function changing(
	db: Db,
	code: string,
	version: number,
	by: By,
	act: string,
	change: (before: PlanRow | undefined, today: string) => PlanStage[],
): Promise<Plan> {
	return writing(db, async (client) => {
		// As it stands once it is our turn.
		const context = await requireSite(client);
		const system = requireSystem(context, code);
		const today = sheetDay(by.now, context.site.timezone);
		const before = (await listPlans(client, context.site.id)).find((p) => p.systemId === system.id);
		sameVersion(before, version);
		const stages = change(before, today);
		const ahead = stages.findIndex((s) => s.begun !== null && s.begun > today);
		if (ahead >= 0)
			throw new Refusal('bad-time', [
				{
					path: `stages.${ahead}.begun`,
					message: 'A stage begins today or began before; what comes is planned by days.',
				},
			]);
		await putPlan(client, context.site.id, { systemId: system.id, stages, who: by.who });
		await insertAudit(client, context.site.id, by.who, act, code, { before: before ?? null, stages });
		const { current } = planNow(stages, today);
		if (current !== null) await setTargets(client, context, code, stages[current]!, by.who);
		return shown((await listPlans(client, context.site.id)).find((p) => p.systemId === system.id)!, today);
	});
}

/** The next batch, the strip and the charts go by the ranges of the stations: there the targets live. */
async function setTargets(db: Db, context: SiteContext, code: string, stage: PlanStage, who: string): Promise<void> {
	const system = requireSystem(context, code);
	if (system.stage !== stage.name) await putSystem(db, context.site.id, { ...system, stage: stage.name });
	for (const s of context.inUse.stations)
		if (s.system === code && (s.kind === 'reservoir' || s.kind === 'mix'))
			await saveStation(
				db,
				context,
				{ code: s.code, kind: s.kind, ranges: { ...s.ranges, ph: [...stage.ph], ec: [...stage.ecUsCm] } },
				who,
			);
}

const noPlan = (system: string) =>
	new Refusal('no-such-plan', [{ path: 'system', message: `“${system}” has no plan.` }]);

function sameVersion(before: PlanRow | undefined, version: number): void {
	if ((before?.version ?? 0) !== version)
		throw new Refusal('changed-meanwhile', [
			{ path: 'version', message: 'Somebody changed this plan meanwhile: look at it as it is now, then change it.' },
		]);
}
