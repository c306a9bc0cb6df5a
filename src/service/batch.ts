import type { Pouring } from '@/contract/events';
import type { ReadingHere } from '@/contract/readings';
import { type BatchStepKind, batchCourse, mayFollow } from '@/core/mix/batch-course';
import { QUANTITY, type Quantity, seriesQuantity } from '@/core/quantity';
import { permits } from '@/core/trust/trust';
import { addBatchSteps, type BatchPlan, type BatchStep, findBatch, finishBatch, insertBatch } from '@/store/batches';
import type { Client, Db } from '@/store/pool';
import { writing } from '@/store/writing';
import { findingWords } from '@/words/en/finding';
import { decide, requireReading } from './decide';
import { type Entered, enterSamples } from './enter';
import { storeEvent } from './events';
import { requireFeeds } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';
import { requireTime } from './time-ahead';

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
	await requireFeeds(db, context, b.plan.pours, 'plan.pours');
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

/** A step as it is asked for: what was done, and for EC and pH what was read. */
interface AskedStep {
	step: BatchStepKind;
	/** How many steps had been kept when it was made. */
	follows: number;
	expected: number | null;
	words: string;
	amount: number | null;
	/** As it was typed, or the number of one that is kept already. */
	reading: ReadingHere | null;
	readingId: number | null;
	/** When it was done; undefined: now. */
	at?: number | undefined;
}

export interface SteppedBatch {
	station: string;
	/** Null where its reading is doubted: it waits to be read again, or stood by. */
	step: BatchStep | null;
	/** What was typed and is stored now. */
	entered: Entered | null;
}

/** What these steps show is read in the tank. */
const READ: Partial<Record<BatchStepKind, 'ec' | 'ph'>> = { ec: 'ec', ph: 'ph' };

/**
 * A step of a batch: what was poured or read in it is stored in the same transaction. A page that is closed in between must not
 * ask for the same part twice, and a step that was made already is not made again. A doubtful reading is kept and makes no step,
 * until it was read again or a person stands by it.
 */
export async function stepBatch(
	db: Db,
	context: SiteContext,
	id: number,
	asked: AskedStep,
	events: readonly Pouring[],
	by: { who: string; now: number },
): Promise<SteppedBatch> {
	const at = asked.at ?? by.now;
	requireTime(at, by.now, 'time');
	return writing(db, async (client) => {
		const batch = await findBatch(client, context.site.id, id);
		if (!batch || batch.finishedAt !== null)
			throw new Refusal('no-open-batch', [
				{ path: 'id', message: 'There is no such batch, or it is finished; begin a new one.' },
			]);
		const last = batch.log.at(-1);
		if (batch.log.length !== asked.follows)
			throw new Refusal('step-done', [
				{
					path: 'follows',
					message: `A step was made meanwhile${last ? ` (“${last.words}”)` : ''}: look where the batch stands before going on.`,
				},
			]);
		const { phase } = batchCourse(batch.plan, batch.log);
		if (!mayFollow(phase, asked.step))
			throw new Refusal('out-of-order', [
				{
					path: 'step',
					message: `The batch is not there: it stands at “${phase}”, where “${asked.step}” does not follow.`,
				},
			]);
		const { station } = batch;
		const shown = await shownBy(client, context, station, asked, by);
		if (shown.waits) return { station, step: null, entered: shown.entered };
		const { step: kind, expected, words, amount } = asked;
		const step = { at, step: kind, expected, words, amount, ...shown.what };
		await addBatchSteps(client, context.site.id, id, asked.follows, [step]);
		if (kind === 'done') await finishBatch(client, context.site.id, id, at);
		for (const event of events) await storeEvent(client, context, { ...event, at: event.at ?? at, station }, by);
		return { station, step, entered: shown.entered };
	});
}

interface Shown {
	what: Pick<BatchStep, 'measured' | 'flag' | 'doubt' | 'readingId'>;
	entered: Entered | null;
	waits: boolean;
}
const NOTHING: Shown['what'] = { measured: null, flag: null, doubt: null, readingId: null };

/** What a step showed: typed with it and stored now, or kept already and stood by. */
async function shownBy(
	client: Client,
	context: SiteContext,
	station: string,
	{ step, reading, readingId }: AskedStep,
	by: { who: string; now: number },
): Promise<Shown> {
	const quantity = READ[step];
	if (quantity === undefined) {
		if (reading === null && readingId === null) return { what: NOTHING, entered: null, waits: false };
		throw new Refusal('bad-reading', [{ path: 'reading', message: `Nothing is read in the step “${step}”.` }]);
	}
	if ((reading === null) === (readingId === null))
		throw new Refusal('nothing-entered', [
			{ path: 'reading', message: 'Give what the step showed: a reading, or the number of one that is kept already.' },
		]);
	const of = (read: Quantity, path: string) => {
		if (seriesQuantity(read) !== quantity)
			throw new Refusal('bad-reading', [{ path, message: `The step “${step}” shows ${QUANTITY[quantity].name}.` }]);
	};
	if (readingId !== null) {
		const kept = await requireReading(client, context.site.id, readingId);
		if (kept.station !== station)
			throw new Refusal('no-such-reading', [{ path: 'reading_id', message: 'That reading is not of this tank.' }]);
		of(kept.quantity, 'reading_id');
		const doubted = !permits(kept, 'dose');
		if (doubted || kept.superseded)
			await decide(client, context, [{ id: readingId }], { kind: 'keep', reason: '' }, by);
		const doubt = doubted ? findingWords(kept.said).message : null;
		return { what: { measured: kept.value, flag: kept.flag, doubt, readingId }, entered: null, waits: false };
	}
	const { at = by.now, ...typed } = reading!;
	of(typed.quantity, 'reading.quantity');
	const [entered] = await enterSamples(client, context, [{ at, station, readings: [typed] }], {
		source: 'bench',
		...by,
	});
	const { id, reading: read, verdict } = entered!.readings[0]!;
	return {
		what: { measured: read.value, flag: verdict.flag, doubt: null, readingId: id },
		entered: entered!,
		waits: !permits({ flag: verdict.flag, cause: verdict.deciding?.cause }, 'dose'),
	};
}
