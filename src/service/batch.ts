import type { Pouring } from '@/contract/events';
import { batchCourse, mayFollow } from '@/core/mix/batch-course';
import { addBatchStep, type BatchPlan, type BatchStep, findBatch, insertBatch } from '@/store/mix';
import type { Db } from '@/store/pool';
import { writing } from '@/store/writing';
import { storeEvent } from './events';
import { requireProduct } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** Begins a batch: the plan is kept as it was made, and the filling logged with it. */
export async function startBatch(
	db: Db,
	context: SiteContext,
	b: { station: string; name: string; plan: BatchPlan; event: Pouring | null },
	now: number,
	who: string,
): Promise<number> {
	const station = context.stations.find((s) => s.code === b.station);
	if (!station)
		throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${b.station}”.` }]);
	const product = await requireProduct(db, context, b.plan.product);
	if (product.kind !== 'nutrient')
		throw new Refusal('not-a-feed', [
			{ path: 'plan.product', message: `“${product.name}” is no feed; a batch is made with one.` },
		]);
	const capacity = context.known.stations.get(b.station)?.volumeL ?? null;
	if (capacity !== null && b.plan.litres > capacity)
		throw new Refusal('overflow', [
			{ path: 'plan.litres', message: `${station.name} holds ${capacity} L; ${b.plan.litres} L would run over.` },
		]);
	return writing(db, async (client) => {
		if (b.event)
			await storeEvent(client, context, { ...b.event, at: b.event.at ?? now, station: b.station }, { who, now });
		return insertBatch(client, context.site.id, { ...b, stationId: station.id, at: now, who });
	});
}

/**
 * What a step of a batch showed. What was poured is logged in the same transaction: a page that is closed in between must
 * not ask for the same part twice, and a step that was made already is not made again.
 */
export async function stepBatch(
	db: Db,
	context: SiteContext,
	id: number,
	{ follows, ...step }: BatchStep & { follows: number },
	event: Pouring | null,
	by: { who: string; now: number },
): Promise<string> {
	return writing(db, async (client) => {
		const batch = await findBatch(client, context.site.id, id);
		if (!batch || batch.finishedAt !== null)
			throw new Refusal('no-open-batch', [
				{ path: 'id', message: 'There is no such batch, or it is finished; begin a new one.' },
			]);
		const last = batch.log.at(-1);
		if (batch.log.length !== follows)
			throw new Refusal('step-done', [
				{
					path: 'follows',
					message: `A step was made meanwhile${last ? ` (“${last.words}”)` : ''}: look where the batch stands before going on.`,
				},
			]);
		const { phase } = batchCourse(batch.plan, batch.log);
		if (!mayFollow(phase, step.step))
			throw new Refusal('out-of-order', [
				{
					path: 'step',
					message: `The batch is not there: it stands at “${phase}”, where “${step.step}” does not follow.`,
				},
			]);
		await addBatchStep(client, context.site.id, id, step);
		if (event) await storeEvent(client, context, { ...event, at: event.at ?? by.now, station: batch.station }, by);
		return batch.station;
	});
}
