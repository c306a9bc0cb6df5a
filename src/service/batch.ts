import { addBatchStep, type BatchPlan, type BatchStep, insertBatch } from '@/store/mix';
import type { Pool } from '@/store/pool';
import { requireProduct } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** Begins a batch: the plan is kept as it was made. */
export async function startBatch(
	pool: Pool,
	context: SiteContext,
	b: { station: string; name: string; plan: BatchPlan },
	now: number,
	who: string,
): Promise<number> {
	const station = context.stations.find((s) => s.code === b.station);
	if (!station)
		throw new Refusal(422, 'unknown-station', [{ path: 'station', message: `There is no station “${b.station}”.` }]);
	const product = await requireProduct(pool, context, b.plan.product);
	if (product.kind !== 'nutrient')
		throw new Refusal(422, 'not-a-feed', [
			{ path: 'plan.product', message: `“${product.name}” is no feed; a batch is made with one.` },
		]);
	const capacity = context.known.stations.get(b.station)?.volumeL ?? null;
	if (capacity !== null && b.plan.litres > capacity)
		throw new Refusal(422, 'overflow', [
			{ path: 'plan.litres', message: `${station.name} holds ${capacity} L; ${b.plan.litres} L would run over.` },
		]);
	return insertBatch(pool, context.site.id, { ...b, stationId: station.id, at: now, who });
}

export async function stepBatch(pool: Pool, context: SiteContext, id: number, step: BatchStep): Promise<void> {
	if ((await addBatchStep(pool, context.site.id, id, step)) === null)
		throw new Refusal(409, 'no-open-batch', [
			{ path: 'id', message: 'There is no such batch, or it is finished; begin a new one.' },
		]);
}
