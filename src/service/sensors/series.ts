import type { z } from 'zod';
import type { series as contract } from '@/contract/series';
import { vapourDeficit } from '@/core/chem/vapour';
import { instrumentThen } from '@/core/judge/context';
import { readingUncertainty } from '@/core/judge/uncertainty';
import { restateReadings, THRESHOLDS } from '@/core/probe/timeline';
import { QUANTITY, type SeriesQuantity, seriesQuantity } from '@/core/quantity';
import { litresAtLevel, tankShape } from '@/core/quantity/tank-shape';
import { FLAG_OF, TELLS } from '@/core/series/findings';
import { type Resolution, type Rollup, resolutionFor, rollUp, rollUpFurther, STEP_MINUTES } from '@/core/series/rollup';
import { type Db, isPool } from '@/store/pool';
import { type SensorSeries, seriesAt } from '@/store/sensors/nodes';
import { rollupsBetween } from '@/store/sensors/rollups';
import { samplesBetween } from '@/store/sensors/samples';
import { stationSeries } from '@/store/series';
import { errorsOf } from '../errors';
import { shownPoint } from '../reading-shown';
import { Refusal } from '../refusal';
import type { SiteContext } from '../site';
import { episodesOf } from './episodes';

type Operation = (typeof contract.operations)['GET /stations/:code/series'];
export type SeriesAsked = z.output<Operation['query']> & { station: string };
export type SeriesShown = z.output<Operation['answer']>;
type Point = SeriesShown['points'][number];

/** A series as far as it is drawn. */
type Shown = Omit<SensorSeries, 'node' | 'station'>;

const MOST_POINTS = 2000;

/** One station and quantity over time: what its sensor tells, or what hands read. */
export async function seriesOf(db: Db, context: SiteContext, asked: SeriesAsked): Promise<SeriesShown> {
	const station = context.stations.find((s) => s.code === asked.station);
	if (!station) throw new Refusal('no-such-station', [{ path: 'code', message: 'There is no such station.' }]);
	const points = asked.points ?? MOST_POINTS;
	if (asked.of !== 'hands') {
		const probes = new Map(context.instruments.map((i) => [i.id, i.code]));
		const here = (await seriesAt(db, context.site.id, station.id))
			.map((s) => ({ ...s, instrument: probes.get(s.instrumentId)! }))
			.filter((s) => asked.probe === undefined || s.instrument === asked.probe);
		const found = await sensorSeries(db, context, here, asked, station.shape, points);
		if (found) return found;
	}
	if (asked.of === 'sensor' || asked.quantity === 'vpd')
		return { rollup: 'raw', probe: null, usualS: 0, points: [], doubts: [] };
	const rows = await stationSeries(db, context.site.id, asked.station, asked.quantity, asked.from, asked.to, points);
	return { rollup: 'raw', probe: null, usualS: 0, points: rows.map(shownPoint), doubts: [] };
}

const newest = (all: readonly Shown[], quantity: SeriesQuantity): Shown | undefined =>
	all
		.filter((s) => s.quantity === quantity)
		.sort((a, b) => (b.newestAt ?? Number.NEGATIVE_INFINITY) - (a.newestAt ?? Number.NEGATIVE_INFINITY))[0];

async function sensorSeries(
	db: Db,
	context: SiteContext,
	here: readonly Shown[],
	asked: SeriesAsked,
	shape: string,
	points: number,
): Promise<SeriesShown | null> {
	if (asked.quantity === 'vpd') return deficit(db, context, here, asked, points);
	const quantity = seriesQuantity(asked.quantity);
	const own = newest(here, quantity);
	if (own) return drawn(db, context, own, asked, points);
	// A height tells a volume where the shape of the tank is known.
	const level = quantity === 'volume' && shape.trim() !== '' ? newest(here, 'level') : undefined;
	const tank = level ? tankShape(shape) : null;
	if (!level || !tank?.ok) return null;
	const heights = await drawn(db, context, level, asked, points);
	const litres = (mm: number) => litresAtLevel(tank.value, mm);
	return {
		...heights,
		points: heights.points.flatMap((p) => {
			const [value, least, greatest] = [litres(p.value), litres(p.least), litres(p.greatest)];
			return value === null || least === null || greatest === null ? [] : [{ ...p, value, least, greatest }];
		}),
	};
}

/** Vapour-pressure deficit where one probe tells of the air and its moisture, kPa; of the means of each stretch. */
async function deficit(
	db: Db,
	context: SiteContext,
	here: readonly Shown[],
	asked: SeriesAsked,
	points: number,
): Promise<SeriesShown | null> {
	const air = newest(here, 'air_temp');
	const moist = air && here.find((s) => s.quantity === 'humidity' && s.instrument === air.instrument);
	if (!air || !moist) return null;
	const [temps, humidities] = [
		await drawn(db, context, air, asked, points),
		await drawn(db, context, moist, asked, points),
	];
	const byTime = new Map(humidities.points.map((p) => [p.at, p]));
	return {
		...temps,
		doubts: [...temps.doubts, ...humidities.doubts],
		points: temps.points.flatMap((p) => {
			const h = byTime.get(p.at);
			if (!h) return [];
			return [
				{
					...p,
					value: vapourDeficit(p.value, h.value),
					least: vapourDeficit(p.least, h.greatest),
					greatest: vapourDeficit(p.greatest, h.least),
					flag: Math.max(p.flag, h.flag),
					believed: Math.min(p.believed, h.believed),
				},
			];
		}),
	};
}

/** A series as a chart draws it: samples or the right rollup, never more than so many points. */
async function drawn(
	db: Db,
	context: SiteContext,
	series: Shown,
	asked: Pick<SeriesAsked, 'from' | 'to'>,
	points: number,
): Promise<SeriesShown> {
	const { from, to } = asked;
	const siteId = context.site.id;
	// Beside the rest where each question has a connection of its own.
	const marks = isPool(db) ? episodesOf(db, context, [series], from, to) : null;
	marks?.catch(() => {});
	let rollup: Resolution = resolutionFor({ from, to, points, usualMs: series.usualMs, rawFrom: series.rawFrom });
	let rows: Rollup[] | null = null;
	let result: Point[] = [];
	if (rollup === 'raw') {
		const samples = await samplesBetween(db, siteId, [series.id], from, to);
		if (samples.length <= points)
			result = samples.map((s) => {
				const tells = TELLS[s.decision]![s.cause]!;
				return plainPoint(series, s.at, s.value, s.value, s.value, 1, FLAG_OF[s.cause]!, tells ? 1 : 0);
			});
		else {
			// It was sampled more often than it is now.
			rollup = '5min';
			const all = {
				at: samples.map((s) => s.at),
				value: samples.map((s) => s.value),
				cause: samples.map((s) => s.cause),
				decision: samples.map((s) => s.decision),
				count: samples.length,
			};
			rows = rollUp(all, (at) => at - ((at - from) % Math.ceil((to - from) / points)));
		}
	} else rows = await rollupsBetween(db, siteId, [series.id], rollup, from, to);
	if (rows) {
		if (rows.length > points && rollup !== 'raw') {
			// By the clock, so that two series meet at the same times; by the time asked for, since there may be holes.
			const stepMs = STEP_MINUTES[rollup] * 60_000;
			const width = Math.ceil((to - from) / stepMs / (points - 1)) * stepMs;
			rows = rollUpFurther(rows, (at) => Math.floor(at / width) * width);
		}
		result = rows.map((r) => {
			const good = r.goodCount > 0;
			return plainPoint(
				series,
				r.at,
				good ? r.goodTotal / r.goodCount : r.total / r.count,
				good ? r.goodLeast : r.least,
				good ? r.goodGreatest : r.greatest,
				r.count,
				r.worst,
				r.goodCount / r.count,
			);
		});
	}
	await putRight(db, context, series, result);
	const doubts = await (marks ?? episodesOf(db, context, [series], from, to));
	return { rollup, probe: series.instrument, usualS: Math.round(series.usualMs / 1000), points: result, doubts };
}

export const plainPoint = (
	series: Shown,
	at: number,
	value: number,
	least: number,
	greatest: number,
	count: number,
	flag: number,
	believed: number,
): Point => ({
	at,
	value,
	least,
	greatest,
	count,
	flag,
	believed,
	restated: null,
	u: 0,
	decision: null,
	id: null,
	instrument: series.instrument,
	message: '',
});

/** What the error curve of a probe makes of its points, and how sure each is; what is stored stays as it was read. */
export async function putRight(db: Db, context: SiteContext, series: Shown, points: Point[]): Promise<void> {
	const { quantity } = series;
	const { canonical: unit, decimals } = QUANTITY[quantity];
	// Of a mean nobody typed digits: they are those that the quantity is usually shown with.
	const digits = (0).toFixed(decimals);
	for (const p of points) {
		const instrument = instrumentThen(context.known, series.instrument, p.at);
		p.u = readingUncertainty({ quantity, digits, unit, value: p.value, halfWidth: 0 }, instrument).u;
	}
	if (points.length === 0 || (quantity !== 'ph' && quantity !== 'ec')) return;
	const errors = (await errorsOf(db, context, quantity)).of(series.instrument);
	if (!errors) return;
	const of = (key: 'value' | 'least' | 'greatest') =>
		restateReadings(
			quantity,
			points.map((p, id) => ({ id, at: p.at, value: p[key], u: p.u })),
			errors,
			THRESHOLDS[quantity],
		).outcomes;
	const [value, least, greatest] = [of('value'), of('least'), of('greatest')];
	for (const [i, p] of points.entries()) {
		p.u = value[i]!.u;
		if (value[i]!.status !== 'restated') continue;
		p.restated = value[i]!.value;
		p.least = least[i]!.value;
		p.greatest = greatest[i]!.value;
	}
}
