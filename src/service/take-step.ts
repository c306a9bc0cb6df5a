import type { StepKind } from '@/core/rootzone/advice';
import { runsADay, type Watering } from '@/core/rootzone/watering';
import { insertStep, listSteps, stepToWithdraw, withdrawStep } from '@/store/irrigation-steps';
import { putSystem } from '@/store/line';
import type { Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { timesWith } from './irrigation-steps';
import { Refusal } from './refusal';
import { rootZoneOf } from './rootzone';
import { requireSite, type SiteContext } from './site';

const USUAL_DAYS = 56;

/**
 * Takes the step that is advised now and sets the watering by it; who comes second finds that it was taken. @returns its number
 */
export const takeStep = (
	db: Db,
	asked: { system: string; kind: StepKind },
	by: { who: string; now: number },
): Promise<number> =>
	writing(db, async (client) => {
		// As it stands once it is our turn.
		const context = await requireSite(client);
		const { advice, system, watering } = await rootZoneOf(client, context, asked.system, by.now, USUAL_DAYS);
		if (!('expect' in advice) || advice.kind !== asked.kind)
			throw new Refusal('not-advised', [
				{
					path: 'kind',
					message: 'This is no longer what is advised: somebody took the step, or a newer drain says something else.',
				},
			]);
		const before: Watering | null = system.watering;
		const times = timesWith(watering, advice.runsADay);
		const after: Watering = {
			...watering,
			...(advice.runsADay !== runsADay(watering) && (times ? { runTimes: times } : { runsADay: advice.runsADay })),
			...(advice.minutes !== null && { minutes: advice.minutes }),
		};
		await putSystem(client, context.site.id, { ...system, watering: after });
		const id = await insertStep(client, context.site.id, {
			...advice,
			systemId: system.id,
			at: by.now,
			before,
			after,
			who: by.who,
		});
		await insertAudit(client, context.site.id, by.who, 'irrigation.step', asked.system, { id, kind: advice.kind });
		return id;
	});

/** Takes a step back; the watering becomes what it was, unless somebody has changed it since. */
export async function takeBackStep(db: Db, context: SiteContext, id: number, who: string): Promise<void> {
	await writing(db, async (client) => {
		const site = context.site.id;
		const step = await stepToWithdraw(client, site, id);
		if (!step) throw new Refusal('no-such-step', [{ path: 'id', message: `There is no step ${id} that stands.` }]);
		const fresh = await requireSite(client);
		const system = fresh.systems.find((y) => y.id === step.systemId)!;
		const last = (await listSteps(client, site, step.systemId)).at(-1);
		await withdrawStep(client, site, id);
		if (last?.id === id && JSON.stringify(sorted(system.watering)) === JSON.stringify(sorted(last.wateringAfter)))
			await putSystem(client, site, { ...system, watering: last.wateringBefore });
		await insertAudit(client, site, who, 'irrigation.step-withdrawn', system.code, { id });
	});
}

/** The database keeps members in an order of its own. */
const sorted = (w: Watering | null) => w && Object.entries(w).sort(([a], [b]) => (a < b ? -1 : 1));
