import { type JugStep, jugDoses, readJug } from '@/core/mix/jug';
import { AFTER_MS, BEFORE_MS, type Filling, litresAt, pairDoses } from '@/core/mix/pair-doses';
import {
	adviseDose,
	type DoseAdvice,
	learnResponse,
	type PastDose,
	responseChanged,
	responseCurve,
	type Solution,
	sameStart,
	strengthOfDoses,
} from '@/core/mix/response';
import type { EventKind } from '@/core/reading/model';
import { MG_L_CACO3_PER_MEQ } from '@/core/water/carbonate';
import { meqOf } from '@/core/water/ions';
import { followSource } from '@/core/water/source-chart';
import { readingsAround } from '@/store/around';
import { type EventRecord, listEvents } from '@/store/events';
import { type BatchRow, insertJug, listBatches, listJugs } from '@/store/mix';
import type { Pool } from '@/store/pool';
import { type JudgedReading, listReadings } from '@/store/readings';
import { listReports } from '@/store/water';
import { fillingsOf, inMl, STIRRING } from './poured';
import { requireProduct, saveProduct, strengthOf } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';
import { sourceRecord } from './water';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** What was learned from older doses is another bottle or another water. */
const LEARN_FROM_DAYS = 400;
/** A reading older than this is not dosed on. */
const STALE_MS = 12 * HOUR;
/** So long after it was filled a tank still has the alkalinity of its water; later most of it has been used up. */
const FRESH_MS = 12 * HOUR;
const MOST = 100_000;
const MOST_DOSES = 60;
const STIRS: Partial<Record<EventKind, string>> = {
	water_added: 'water',
	nutrient_added: 'feed',
	acid_added: 'acid',
	base_added: 'base',
	solution_changed: 'a new solution',
};

const believed = (r: JudgedReading): number => r.restated ?? r.value;

/** What a tank holds and what was done to it. */
interface TankState {
	station: string;
	/** Everything that stirred it, oldest first. */
	events: EventRecord[];
	newestPh: JudgedReading | null;
	/** Newest first. */
	batches: BatchRow[];
	/** What went in after the newest pH was read. */
	addedSince: EventRecord | null;
	fillings: Filling[];
	water: string | null;
	/** When that water last changed for good. */
	waterSince: number;
	ecUsCm: number | undefined;
	waterEcUsCm: number | undefined;
}

async function tankState(pool: Pool, context: SiteContext, station: string, now: number): Promise<TankState> {
	const events = await listEvents(pool, context.site.id, {
		station,
		from: now - LEARN_FROM_DAYS * DAY,
		to: now + 1,
		kinds: STIRRING,
		limit: MOST,
	});
	const newest = async (quantity: 'ph' | 'ec') =>
		(await listReadings(pool, context.site.id, { station, quantity, to: now + 1, limit: 20 })).find(
			(r) => r.decision !== 'discard',
		) ?? null;
	const [newestPh, newestEc] = [await newest('ph'), await newest('ec')];
	const batches = (await listBatches(pool, context.site.id, 200)).filter((b) => b.station === station);
	const lastStir = events.findLast((e) => e.kind !== 'drained');
	const changed = events.findLast((e) => e.kind === 'solution_changed');
	const plan = batches[0]?.plan;
	const ecIsOfBefore = newestEc && changed && changed.at > newestEc.at;
	return {
		station,
		events,
		newestPh,
		batches,
		addedSince: lastStir && newestPh && lastStir.at > newestPh.at ? lastStir : null,
		fillings: fillingsOf(events),
		water: plan?.water ?? null,
		waterSince: await waterChangedAt(pool, context, plan?.water ?? null),
		// A tank that was filled anew has the EC of its water until somebody measures.
		ecUsCm: ecIsOfBefore ? plan?.waterEcUsCm : newestEc ? believed(newestEc) : undefined,
		waterEcUsCm: plan?.waterEcUsCm,
	};
}

/** When the water of a tank last changed for good: a confirmed shift of its source. */
async function waterChangedAt(pool: Pool, context: SiteContext, water: string | null): Promise<number> {
	if (water === null) return Number.NEGATIVE_INFINITY;
	const { shifts } = followSource(await sourceRecord(pool, context, water, 'ec'));
	return shifts.findLast((s) => s.confirmed)?.since ?? Number.NEGATIVE_INFINITY;
}

/** What this tank and product have done together: every logged dose with the readings around it. */
async function pastDoses(
	pool: Pool,
	context: SiteContext,
	tank: TankState,
	product: { id: number; name: string; stationId: number },
	holdsL: number,
	now: number,
): Promise<(PastDose & { at: number })[]> {
	const stirring = tank.events.filter((e) => e.kind !== 'drained').map((e) => e.at);
	const doses = tank.events
		.flatMap((e) => {
			const ml = inMl(e.amount, e.unitText);
			return (e.kind === 'acid_added' || e.kind === 'base_added') &&
				ml !== null &&
				e.product.toLowerCase() === product.name.toLowerCase()
				? [{ at: e.at, ml, product: e.product }]
				: [];
		})
		.slice(-MOST_DOSES);
	const near = (quantity: 'ph' | 'ec') =>
		readingsAround(
			pool,
			context.site.id,
			tank.station,
			quantity,
			doses.map((d) => d.at),
			{ beforeMs: BEFORE_MS, afterMs: AFTER_MS },
		);
	const waterAt = (at: number) => tank.batches.find((b) => b.startedAt <= at)?.plan.water ?? null;
	const litres = (at: number) => litresAt(tank.fillings, at, holdsL);
	const jugs = await listJugs(pool, context.site.id, {
		stationId: product.stationId,
		productId: product.id,
		from: now - LEARN_FROM_DAYS * DAY,
	});
	const all = [
		...jugs.flatMap((j) => jugDoses(j.steps, j.litres).map((d) => ({ ...d, at: j.at }))),
		...pairDoses(doses, await near('ph'), stirring, litres, await near('ec')),
	].sort((a, b) => a.at - b.at);
	return all.map((d) => {
		const then = waterAt(d.at);
		return {
			...d,
			otherWater: d.at < tank.waterSince || (then !== null && tank.water !== null && then !== tank.water),
		};
	});
}

/** Alkalinity (meq/L) of a water, from a reading or a report; undefined where nobody measured it since the water changed. */
async function alkalinityOfWater(
	pool: Pool,
	context: SiteContext,
	water: string,
	since: number,
	now: number,
): Promise<number | undefined> {
	const [reading] = await listReadings(pool, context.site.id, {
		station: water,
		quantity: 'alkalinity',
		to: now + 1,
		limit: 1,
	});
	if (reading && reading.at >= since) return believed(reading) / MG_L_CACO3_PER_MEQ;
	const [report] = await listReports(pool, context.site.id, water);
	return report?.ions.hco3_mg_l === undefined || report.at < since
		? undefined
		: meqOf('hco3_mg_l', report.ions.hco3_mg_l);
}

export interface DoseAdviceView {
	advice: DoseAdvice;
	ph: number;
	phAt: number | null;
	volumeL: number;
	strengthMeqMl: number | null;
	past: (PastDose & { at: number })[];
	/** A dose from the same start, in the same water and volume. */
	sameStart: (PastDose & { at: number }) | null;
	/** The last dose answered so many times as strongly as those before it. */
	changed: number | null;
	/** What the product does from here, by all that is known: mL per litre against pH with its 95 % band. */
	curve: { mlPerL: number; ph: number; low: number; high: number }[];
}

export async function doseAdvice(
	pool: Pool,
	context: SiteContext,
	q: { station: string; product: string; targetPh: number; ph: number | null; volumeL: number | null },
	now: number,
): Promise<DoseAdviceView> {
	const station = context.stations.find((s) => s.code === q.station);
	if (!station)
		throw new Refusal(422, 'unknown-station', [{ path: 'station', message: `There is no station “${q.station}”.` }]);
	const product = await requireProduct(pool, context, q.product);
	if (product.kind === 'nutrient')
		throw new Refusal(422, 'not-a-ph-product', [
			{ path: 'product', message: `“${product.name}” is a feed; choose an acid or a base.` },
		]);
	const tank = await tankState(pool, context, station.code, now);
	const holdsL = context.known.stations.get(station.code)?.volumeL ?? q.volumeL;
	if (holdsL === null)
		throw new Refusal(422, 'no-volume', [
			{ path: 'volume_l', message: `How many litres does ${station.name} hold? Give them here or in Setup.` },
		]);
	const volumeL = q.volumeL ?? litresAt(tank.fillings, now, holdsL);
	const newest = tank.newestPh;
	const ph = q.ph ?? (newest ? believed(newest) : null);
	if (ph === null)
		throw new Refusal(422, 'no-reading', [
			{ path: 'ph', message: `There is no pH of ${station.name} yet. Read it first.` },
		]);
	const past = await pastDoses(pool, context, tank, { ...product, stationId: station.id }, holdsL, now);
	const batch = tank.batches[0];
	const fresh = batch?.plan.water && now - batch.startedAt <= FRESH_MS ? batch.plan.water : null;
	const solution: Solution = {
		volumeL,
		alkalinityMeqL: fresh === null ? undefined : await alkalinityOfWater(pool, context, fresh, tank.waterSince, now),
		ecUsCm: tank.ecUsCm,
		waterEcUsCm: tank.waterEcUsCm,
	};
	const strengthMeqMl = strengthOf(product) ?? strengthOfDoses(past, solution);
	const remembered = sameStart(past, ph, volumeL);
	const direction = product.kind === 'acid' ? -1 : 1;
	const end = direction < 0 ? Math.min(q.targetPh, ph) - 0.6 : Math.max(q.targetPh, ph) + 0.6;
	return {
		advice: adviseDose({
			solution,
			ph,
			targetPh: q.targetPh,
			past,
			strengthMeqMl,
			doubtful: q.ph === null && newest ? doubtAbout(newest, tank, now) : null,
			kind: product.kind,
		}),
		ph,
		phAt: q.ph === null ? (newest?.at ?? null) : null,
		volumeL,
		strengthMeqMl,
		past,
		sameStart: remembered,
		changed: strengthMeqMl === null ? null : (responseChanged(past, solution, strengthMeqMl)?.factor ?? null),
		curve:
			strengthMeqMl === null || !(volumeL > 0)
				? []
				: responseCurve(learnResponse(past, solution, strengthMeqMl), ph, direction, Math.min(Math.max(end, 3), 11)),
	};
}

/** Why the newest pH is nothing to dose on; null where it is. */
function doubtAbout(newest: JudgedReading, tank: TankState, now: number): string | null {
	const doubted = (newest.flag ?? 2) >= 3 && newest.decision !== 'keep' && newest.cause !== 'calibration-overdue';
	if (doubted) return `The reading is in doubt: ${newest.message}`;
	const added = tank.addedSince;
	if (added) {
		const amount = added.amount === null ? '' : `${added.amountText} ${added.unitText} of `;
		return `Since the last pH reading ${amount}${added.product || STIRS[added.kind]} went in.`;
	}
	return now - newest.at > STALE_MS ? 'The reading is more than half a day old, and pH moves.' : null;
}

/** A jug titration: keeps the strength it shows with the product, and its steps as doses of the tank it was taken from. */
export async function titrateJug(
	pool: Pool,
	context: SiteContext,
	q: { product: string; litres: number; steps: readonly JugStep[]; station: string | null },
	now: number,
	who: string,
): Promise<{ strengthMeqMl: number; bufferMeqLPh: number }> {
	const product = await requireProduct(pool, context, q.product);
	const result = readJug(q.steps, q.litres);
	if (!result.ok) throw new Refusal(422, 'cannot-be-computed', [{ path: 'steps', message: result.message }]);
	const station = q.station === null ? null : context.stations.find((s) => s.code === q.station);
	if (station === undefined)
		throw new Refusal(422, 'unknown-station', [{ path: 'station', message: `There is no station “${q.station}”.` }]);
	await saveProduct(pool, context, { ...product, jugMeqMl: result.strengthMeqMl }, now, who);
	await insertJug(pool, context.site.id, {
		stationId: station?.id ?? null,
		productId: product.id,
		at: now,
		litres: q.litres,
		steps: [...q.steps],
		who,
	});
	return { strengthMeqMl: result.strengthMeqMl, bufferMeqLPh: result.bufferMeqLPh };
}
