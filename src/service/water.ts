import type { WaterMembrane, WaterSource } from '@/contract/pages';
import { SERIES_QUANTITIES, type SeriesQuantity } from '@/core/quantity';
import { permits } from '@/core/trust/trust';
import type { Ions } from '@/core/water/ions';
import { readReport } from '@/core/water/ions';
import { membraneState, pairRejection } from '@/core/water/membrane';
import { followSource, type SourceChart } from '@/core/water/source-chart';
import { listBatches } from '@/store/batches';
import { measuredOf, type SeriesAsked } from '@/store/measured';
import { atOnce, type Db } from '@/store/pool';
import { newestTimes } from '@/store/readings';
import { listRecipes } from '@/store/recipes';
import { insertAudit } from '@/store/site';
import { insertReport, listReports } from '@/store/water';
import { dependantsOf } from './dependants';
import { productViews } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

export interface WaterView {
	sources: WaterSource[];
	membranes: WaterMembrane[];
}

/** What makes a water what it is: a change of these is a change of the source. Temperature and level only come and go. */
const COMPOSITION: readonly SeriesQuantity[] = ['ec', 'ph', 'alkalinity', 'hardness', 'no3', 'k', 'ca'];

/** A record without limits, for what is not judged. */
const unjudged = (points: readonly { at: number; value: number }[]): SourceChart => ({
	points: points.map((p) => ({ ...p, rules: [], segment: 0 })),
	segments: [],
	shifts: [],
	wants: 'nothing',
});

const MOST_REPORTS = 6;
/** A chart draws no more; a sensor on a source would write more than that in a week. */
const MOST = 2000;

/** What was read of waters, of each its newest, oldest first. */
async function sourceRecords(
	db: Db,
	context: SiteContext,
	series: readonly SeriesAsked[],
): Promise<{ at: number; value: number }[][]> {
	const measured = await measuredOf(db, context.site.id, series, { limit: MOST });
	return measured.map((list) =>
		list
			.filter((r) => permits(r, 'water'))
			.map((r) => ({ at: r.at, value: r.restated ?? r.value }))
			.reverse(),
	);
}
export const sourceRecord = async (db: Db, context: SiteContext, station: string, quantity: SeriesQuantity) =>
	(await sourceRecords(db, context, [{ station, quantity }]))[0]!;

export async function waterView(db: Db, context: SiteContext, now: number): Promise<WaterView> {
	const stations = context.inUse.stations.filter((s) => s.kind === 'source' || s.kind === 'blend');
	const [reports, batches, recipes, times] = await atOnce(db, [
		() => listReports(db, context.site.id),
		() => listBatches(db, context.site.id, 200),
		() => listRecipes(db, context.site.id),
		() => newestTimes(db, context.site.id),
	]);
	const readAt = (station: string) => SERIES_QUANTITIES.filter((q) => times.has(`${station}\u0000${q}`));
	const asked = stations.flatMap((s) => readAt(s.code).map((quantity) => ({ station: s.code, quantity })));
	const [products, records] = await atOnce(db, [
		() => productViews(db, context, batches, now),
		() => sourceRecords(db, context, asked),
	]);
	const record = new Map(asked.map((a, i) => [`${a.station} ${a.quantity}`, records[i]!]));
	const of = (station: string, quantity: SeriesQuantity) => record.get(`${station} ${quantity}`) ?? [];
	const known = { recipes, products, batches };
	const sources: WaterSource[] = [];
	for (const s of stations) {
		const newest: WaterSource['newest'] = {};
		const charts: WaterSource['charts'] = { ec: followSource([]), ph: followSource([]) };
		for (const q of readAt(s.code)) {
			const points = of(s.code, q);
			const last = points.at(-1);
			if (!last) continue;
			newest[q] = last;
			charts[q] = COMPOSITION.includes(q) ? followSource(points) : unjudged(points);
		}
		const report = reports.find((r) => r.station === s.code) ?? null;
		const read = report && readReport(report.ions, report.ecUsCm);
		const shift = charts.ec.shifts.findLast((x) => x.confirmed);
		sources.push({
			code: s.code,
			name: s.name,
			newest,
			charts,
			report,
			reports: reports.filter((r) => r.station === s.code).slice(0, MOST_REPORTS),
			alkalinityMgLCaco3:
				newest.alkalinity?.value ?? (read && read.alkalinityMgLCaco3 > 0 ? read.alkalinityMgLCaco3 : null),
			hardnessMgLCaco3: newest.hardness?.value ?? (read && read.hardnessMgLCaco3 > 0 ? read.hardnessMgLCaco3 : null),
			depends: shift ? dependantsOf(context, s.code, shift, known) : [],
		});
	}
	const membranes: WaterMembrane[] = [];
	for (const s of stations) {
		// A source that another source feeds is treated water.
		const feed = s.fedBy.find((f) => stations.some((x) => x.code === f));
		if (!feed) continue;
		const points = pairRejection(of(feed, 'ec'), of(s.code, 'ec'));
		membranes.push({ station: s.code, feed, points, state: membraneState(points, now) });
	}
	return { sources, membranes };
}

export async function saveReport(
	db: Db,
	context: SiteContext,
	r: { station: string; at: number; lab: string; ions: Ions; ecUsCm: number | null; ph: number | null; note: string },
	who: string,
): Promise<number> {
	const station = context.stations.find((s) => s.code === r.station);
	if (!station)
		throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${r.station}”.` }]);
	if (Object.keys(r.ions).length === 0)
		throw new Refusal('nothing-entered', [{ path: 'ions', message: 'Give at least one ion in mg/L.' }]);
	const id = await insertReport(db, context.site.id, { ...r, stationId: station.id, who });
	await insertAudit(db, context.site.id, who, 'report.entered', r.station, { id });
	return id;
}
