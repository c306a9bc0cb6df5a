import { ACID_KINDS, type AcidKind, BASES, type BaseKind } from '@/core/chem/acids';
import { MG_L_CACO3_PER_MEQ } from '@/core/chem/constants';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { mixMinutes, setMinutes } from '@/core/mix/dose/mixing-wait';
import type { DoseProduct, PhRead, TankEvent, TankRecord, TankSetup, WaterThen } from '@/core/mix/dose/record';
import { POURING_KINDS } from '@/core/reading/model';
import { permits, trustLists } from '@/core/trust/trust';
import { meqOf } from '@/core/water/ions';
import { followSource } from '@/core/water/source-chart';
import { readingsAround } from '@/store/around';
import { type BatchRow, listBatches } from '@/store/batches';
import { type EventRecord, listEvents } from '@/store/events';
import type { StationRow } from '@/store/line';
import { listJugs, listProducts, type ProductRow } from '@/store/mix';
import type { Db } from '@/store/pool';
import { type JudgedReading, listReadings } from '@/store/readings';
import { listReports } from '@/store/water';
import { inLitres, inMl } from './poured';
import { strengthOf } from './products';
import type { SiteContext } from './site';
import { sourceRecord } from './water';

const DAY = 86_400_000;
/** What was learned from older doses is another bottle or another water. */
const LEARN_FROM_DAYS = 400;
/** Fillings that are looked back on, and doses where a tank is never filled anew. */
const MOST_FILLINGS = 9;
const MOST_DOSES = 80;
const BEFORE_MS = DAY;
const AFTER_MS = DAY;
const NEWEST = 20;
const TYPICAL_U = 0.06;

export const believed = (r: JudgedReading): number => r.restated ?? r.value;

export const doseProduct = (p: ProductRow): DoseProduct => ({
	name: p.name,
	kind: p.kind === 'base' ? 'base' : 'acid',
	chemical:
		(ACID_KINDS as readonly string[]).includes(p.chemical) || Object.hasOwn(BASES, p.chemical)
			? (p.chemical as AcidKind | BaseKind)
			: null,
	strengthMeqMl: strengthOf(p),
});

/** All that is written down of a tank, as advice on a dose goes by it. */
export interface TankAsWritten {
	record: TankRecord;
	setup: Omit<TankSetup, 'holdsL'>;
	newestPh: JudgedReading | null;
	products: DoseProduct[];
}

export async function tankAsWritten(
	db: Db,
	context: SiteContext,
	station: StationRow,
	now: number,
): Promise<TankAsWritten> {
	const all = await listEvents(db, context.site.id, {
		station: station.code,
		from: now - LEARN_FROM_DAYS * DAY,
		to: now + 1,
		kinds: POURING_KINDS,
		limit: 100_000,
	});
	const fills = all.filter((e) => e.kind === 'solution_changed');
	const doses = all.filter((e) => e.kind === 'acid_added' || e.kind === 'base_added');
	const since = Math.max(fills.at(-MOST_FILLINGS)?.at ?? 0, doses.at(-MOST_DOSES)?.at ?? 0);
	const events = all.filter((e) => e.at >= since);
	const system = context.systems.find((s) => s.code === station.system) ?? null;
	const aeration = aerationOf(station, system);
	const litres = context.known.stations.get(station.code)?.volumeL ?? 100;
	const wait = mixMinutes(aeration, litres, setMinutes(station)) * 60_000;
	const near = (quantity: 'ph' | 'ec') =>
		readingsAround(
			db,
			context.site.id,
			station.code,
			quantity,
			// Just after pouring, and once it has mixed.
			events.flatMap((e) => [e.at, e.at + wait]),
			{ beforeMs: BEFORE_MS, afterMs: AFTER_MS },
			trustLists('dose'),
		);
	const newest = await listReadings(db, context.site.id, {
		station: station.code,
		quantity: 'ph',
		to: now + 1,
		limit: NEWEST,
	});
	const kept = newest.filter((r) => r.decision !== 'discard');
	const newestPh = kept[0] ?? null;
	const ph = new Map<number, PhRead>();
	for (const r of await near('ph')) ph.set(r.at, { at: r.at, value: r.value, u: TYPICAL_U, by: r.by, id: r.id });
	for (const r of kept)
		if (r === newestPh || permits(r, 'dose'))
			ph.set(r.at, {
				at: r.at,
				value: believed(r),
				u: r.instrument === null ? TYPICAL_U : (r.u ?? TYPICAL_U),
				by: r.instrument,
				id: r.id,
			});
	const ecNewest = await listReadings(db, context.site.id, {
		station: station.code,
		quantity: 'ec',
		to: now + 1,
		limit: 3,
	});
	const ec = new Map<number, number>();
	for (const r of await near('ec')) ec.set(r.at, r.value);
	for (const r of ecNewest) if (r.decision !== 'discard') ec.set(r.at, believed(r));
	const waters = await watersOf(db, context, station, events, now);
	const alkalinity = await listReadings(db, context.site.id, {
		station: station.code,
		quantity: 'alkalinity',
		to: now + 1,
		limit: NEWEST,
	});
	const products = (await listProducts(db, context.site.id)).filter((p) => p.kind !== 'nutrient');
	const jugs = await Promise.all(
		products.map(async (p) =>
			(await listJugs(db, context.site.id, { stationId: station.id, productId: p.id, from: since })).map((j) => ({
				...j,
				product: p.name,
			})),
		),
	);
	const byTime = <T extends { at: number }>(list: T[]): T[] => list.sort((a, b) => a.at - b.at);
	return {
		record: {
			ph: byTime([...ph.values()].filter((r) => r.at <= now)),
			ec: byTime([...ec].map(([at, usCm]) => ({ at, usCm })).filter((r) => r.at <= now)),
			events: byTime([
				...events.flatMap((e) => tankEvent(e, bringsWater(e) ? waters.of(e) : null) ?? []),
				...batchFillings(waters.batches, fills, since, waters.of),
			]),
			alkalinity: byTime(
				alkalinity
					.filter((r) => r.decision !== 'discard' && r.at <= now)
					.map((r) => ({ at: r.at, meqL: believed(r) / MG_L_CACO3_PER_MEQ })),
			),
			jugs: byTime(jugs.flat().filter((j) => j.at <= now)),
		},
		setup: {
			aeration,
			mixMinutes: setMinutes(station),
			tempC: await temperatureOf(db, context, station.code, now),
			range: station.ranges.ph ?? null,
			leastPh: station.leastPh,
			mostPh: station.mostPh,
		},
		newestPh,
		products: products.map(doseProduct),
	};
}

/** A batch that was begun without a word of the filling was one all the same. */
function batchFillings(
	batches: readonly BatchRow[],
	fills: readonly EventRecord[],
	since: number,
	waterOf: (e: { at: number; product: string }) => WaterThen | null,
): TankEvent[] {
	return batches
		.filter((b) => b.startedAt >= since && !fills.some((f) => Math.abs(f.at - b.startedAt) < SAME_FILLING_MS))
		.map((b) => ({
			at: b.startedAt,
			kind: 'filled',
			litres: b.plan.litres,
			water: waterOf({ at: b.startedAt, product: '' }),
		}));
}
const SAME_FILLING_MS = 3_600_000;

function tankEvent(e: EventRecord, water: WaterThen | null): TankEvent | null {
	const { at } = e;
	switch (e.kind) {
		case 'solution_changed':
			return { at, kind: 'filled', litres: inLitres(e.amount, e.unitText), water };
		case 'water_added':
			return { at, kind: 'water', litres: inLitres(e.amount, e.unitText), water };
		case 'drained':
			return { at, kind: 'drained', litres: inLitres(e.amount, e.unitText) };
		case 'nutrient_added':
			return { at, kind: 'fed' };
		default: {
			const ml = inMl(e.amount, e.unitText);
			// A dose of no known amount is something whose effect nobody can reckon.
			return ml === null || !(ml > 0)
				? { at, kind: 'fed' }
				: { at, kind: 'dosed', ml, product: e.product, sign: e.kind === 'acid_added' ? -1 : 1 };
		}
	}
}

const bringsWater = (e: { kind: string }): boolean => e.kind === 'solution_changed' || e.kind === 'water_added';

/** What is known of the water of each filling and top-up: by its batch, by what the event says, or the only source that feeds the tank. */
async function watersOf(
	db: Db,
	context: SiteContext,
	station: StationRow,
	events: readonly EventRecord[],
	now: number,
): Promise<{ of: (e: { at: number; product: string }) => WaterThen | null; batches: BatchRow[] }> {
	const sources = context.inUse.stations.filter((s) => s.kind === 'source' || s.kind === 'blend');
	const named = (text: string) =>
		sources.find((s) => [s.code, s.name].some((n) => n.toLowerCase() === text.trim().toLowerCase())) ?? null;
	const batches = (await listBatches(db, context.site.id, 200)).filter((b) => b.station === station.code);
	const fedBy = station.fedBy.map((c) => sources.find((s) => s.code === c)).filter((s) => s !== undefined);
	const only = fedBy.length === 1 && station.fedBy.length === 1 ? fedBy[0]! : null;
	const batchOf = (at: number): BatchRow | null =>
		batches.find((b) => b.startedAt <= at + 60_000 && at - b.startedAt <= DAY) ?? null;
	const sourceOf = (e: { at: number; product: string }) => {
		const batch = batchOf(e.at);
		return (batch?.plan.water ? named(batch.plan.water) : null) ?? named(e.product) ?? only;
	};
	const used = new Set(
		[...batches.map((b) => ({ kind: 'solution_changed', at: b.startedAt, product: '' })), ...events].flatMap((e) =>
			bringsWater(e) ? (sourceOf(e) ?? []) : [],
		),
	);
	const facts = new Map<
		string,
		{ shifts: number[]; ecUsCm: number | null; alkalinity: { at: number; meqL: number }[] }
	>();
	for (const s of used) {
		const { shifts } = followSource(await sourceRecord(db, context, s.code, 'ec'));
		const readings = async (quantity: 'ec' | 'alkalinity') =>
			(await listReadings(db, context.site.id, { station: s.code, quantity, to: now + 1, limit: NEWEST })).filter(
				(r) => r.decision !== 'discard',
			);
		const reported = (await listReports(db, context.site.id, s.code)).flatMap((r) =>
			r.ions.hco3_mg_l === undefined ? [] : [{ at: r.at, meqL: meqOf('hco3_mg_l', r.ions.hco3_mg_l) }],
		);
		const ec = (await readings('ec'))[0];
		facts.set(s.code, {
			shifts: shifts.filter((x) => x.confirmed).map((x) => x.since),
			ecUsCm: ec ? believed(ec) : null,
			alkalinity: [
				...(await readings('alkalinity')).map((r) => ({ at: r.at, meqL: believed(r) / MG_L_CACO3_PER_MEQ })),
				...reported,
			].sort((a, b) => a.at - b.at),
		});
	}
	const of = (e: { at: number; product: string }): WaterThen | null => {
		const source = sourceOf(e);
		if (!source) return null;
		const f = facts.get(source.code)!;
		const shift = f.shifts.findLast((at) => at <= e.at) ?? Number.NEGATIVE_INFINITY;
		const next = f.shifts.find((at) => at > e.at) ?? Number.POSITIVE_INFINITY;
		const batch = batchOf(e.at);
		return {
			// Before and after a change for good it is another water.
			code: `${source.code}@${Number.isFinite(shift) ? shift : ''}`,
			ecUsCm: batch?.plan.water === source.code ? batch.plan.waterEcUsCm : f.ecUsCm,
			alkalinityMeqL: f.alkalinity.findLast((a) => a.at >= shift && a.at < next)?.meqL ?? null,
		};
	};
	return { of, batches };
}

const USUAL_TEMP_C = 20;

async function temperatureOf(db: Db, context: SiteContext, station: string, now: number): Promise<number> {
	const [r] = await listReadings(db, context.site.id, {
		station,
		quantity: 'temp',
		from: now - 7 * DAY,
		to: now + 1,
		limit: 1,
	});
	return r ? Math.min(Math.max(believed(r), 1), 40) : USUAL_TEMP_C;
}
