import type { PlanStage } from '@/core/crop/plan';
import { toCanonical, unitNamed } from '@/core/quantity';
import { OPEN_DOUBTS } from '@/core/trust/trust';
import type { ReadingRow } from '@/files/readings-row';
import { Intake } from '@/service/intake';
import { savePlan } from '@/service/plans';
import { recomputeAll } from '@/service/restate';
import { rootZoneOf } from '@/service/rootzone';
import { loadSite, requireSite, type SiteContext } from '@/service/site';
import { judgeAllFrom } from '@/service/store-bulk';
import { takeStep } from '@/service/take-step';
import { addBatchSteps, insertBatch } from '@/store/batches';
import { insertCalibration, putLot, putProbe } from '@/store/calibrations';
import { insertEvents } from '@/store/events';
import { insertIrrigation } from '@/store/irrigations';
import { putInstrument, putStation, putSystem } from '@/store/line';
import { putProduct } from '@/store/mix';
import { type Client, type Db, type Pool, transaction } from '@/store/pool';
import { insertDecision, listReadings } from '@/store/readings';
import { putRecipe } from '@/store/recipes';
import { insertSite, listSites, updateSite } from '@/store/site';
import { refreshStatistics } from '@/store/statistics';
import { insertReport } from '@/store/water';
import { RECIPES } from './batches';
import { loadPosts, loadWatch } from './load-posts';
import { POST_DAYS } from './posts';
import { INSTRUMENTS, LOTS, PROBES, SITE, STATIONS, SYSTEMS } from './saltmarsh';
import { STEP_DAYS_AGO, season } from './season';
import { PRODUCTS, REPORTS } from './shelf';
import type { DemoCalibration, DemoReading } from './written';

const DAY = 86_400_000;
const NOON = 6 * 3_600_000;
const ADVICE_DAYS = 56;
/** The morning round is at about half past seven in the site's zone. */
const ROUND_UTC = 5.5 * 3_600_000;

/** The newest morning that is over: the demo ends with it, so that nothing of it lies in the future. */
export function lastMorning(now: number): number {
	const today = Math.floor(now / DAY) * DAY + ROUND_UTC;
	return now - today > 2 * 3_600_000 ? today : today - DAY;
}

export function demoRow(r: DemoReading): ReadingRow {
	const unit = unitNamed(r.unit)!;
	return {
		at: r.at,
		station: r.station,
		instrument: r.instrument,
		quantity: r.quantity,
		unit,
		unitText: r.unit,
		digits: r.digits,
		value: toCanonical(Number(r.digits), unit),
		halfWidth: 0,
		tempC: r.tempC,
		waitS: r.waitS,
		note: r.note,
		extra: null,
		local: null,
	};
}

/** Fills an empty installation with Saltmarsh Yard; leaves any other alone. */
export async function loadDemo(
	pool: Pool,
	options: { say: (text: string) => void; now?: number; postDays?: number },
): Promise<void> {
	if ((await listSites(pool)).length > 0) return;
	options.say('Loading the Saltmarsh Yard demo.');
	await fillWithDemo(pool, options.now ?? Date.now(), options.postDays);
}

/**
 * Fills an installation without stations, whether its site is there or not.
 * @param postDays for so many days there is something of the sensor posts
 */
export async function fillWithDemo(db: Db, now: number, postDays = POST_DAYS): Promise<void> {
	const written = season(lastMorning(now));
	const { readings, events, calibrations, batches, runs } = written;
	await transaction(db, async (client) => {
		const before = await loadSite(client);
		if (before) await updateSite(client, { ...SITE, id: before.site.id });
		const site = before?.site ?? (await insertSite(client, SITE));
		for (const s of SYSTEMS) await putSystem(client, site.id, s);
		for (const s of STATIONS) await putStation(client, site.id, s);
		for (const i of INSTRUMENTS) await putInstrument(client, site.id, i);
		const context = await requireSite(client);
		const stationIds = new Map(context.stations.map((s) => [s.code, s.id]));
		await insertEvents(
			client,
			site.id,
			events.map((e) => ({
				at: e.at,
				stationId: stationIds.get(e.station)!,
				kind: e.kind,
				amount: e.amount,
				amountText: e.amount === null ? '' : String(e.amount),
				unitText: e.unit,
				product: e.product,
				note: e.note,
				extra: null,
				source: 'demo',
				enteredBy: 'grower',
			})),
		);
		await storeCalibrations(client, context, calibrations);
		const rows = readings.map(demoRow);
		const intake = await Intake.begin(client, context, { source: 'demo', who: 'grower', now });
		try {
			await intake.take(rows);
			await intake.finish();
		} finally {
			await intake.settled();
		}
		await decideOldDoubts(client, context, lastMorning(now));
		await judgeAllFrom(client, context, rows[0]!.at, now);
		const end = lastMorning(now);
		const day = (ago: number) => new Date(end - ago * DAY).toISOString().slice(0, 10);
		const productIds = new Map<string, number>();
		for (const { countedDaysAgo, openedDaysAgo, ...p } of PRODUCTS) {
			const { id } = await putProduct(client, site.id, {
				...p,
				stockAt: countedDaysAgo === null ? null : end - countedDaysAgo * DAY,
				opened: openedDaysAgo === null ? null : day(openedDaysAgo),
			});
			productIds.set(p.name, id);
		}
		for (const r of RECIPES)
			await putRecipe(client, site.id, {
				...r,
				parts: r.parts.map((x) => ({ ...x, productId: productIds.get(x.product)! })),
				waterId: r.water === null ? null : stationIds.get(r.water)!,
				at: end - 60 * DAY,
			});
		const systemIds = new Map((await requireSite(client)).systems.map((y) => [y.code, y.id]));
		for (const r of runs)
			await insertIrrigation(client, site.id, {
				...r,
				systemId: systemIds.get('gutters')!,
				appliedL: null,
				drainedL: null,
				note: '',
				who: 'grower',
			});
		for (const b of batches) {
			const { plan, startedAt, finishedAt } = b;
			const id = await insertBatch(client, site.id, {
				stationId: stationIds.get('mix')!,
				at: startedAt,
				finishedAt,
				name: '',
				plan,
				who: 'grower',
			});
			await addBatchSteps(client, site.id, id, 0, b.log);
		}
		for (const r of REPORTS)
			await insertReport(client, site.id, {
				...r,
				stationId: stationIds.get(r.station)!,
				at: lastMorning(now) - r.daysAgo * DAY,
				lab: 'the laboratory of the co-operative',
				note: '',
				who: 'grower',
			});
		await recomputeAll(client, context);
		await followAdvice(client, end);
		await planSeason(client, end);
		await loadPosts(client, written, end, postDays);
		await loadWatch(client);
		await refreshStatistics(client);
	});
}

/** What was advised for the gutters on those days was done, as far as anything was. */
/** The strawberries have flowered for two weeks; fruiting is planned within the week. */
async function planSeason(client: Client, end: number): Promise<void> {
	const begun = (daysAgo: number) => new Date(end - daysAgo * DAY).toISOString().slice(0, 10);
	const stage = (name: string, days: number, ecUsCm: readonly [number, number], daysAgo: number | null): PlanStage => ({
		name,
		days,
		ecUsCm,
		ph: [5.4, 6.2],
		begun: daysAgo === null ? null : begun(daysAgo),
	});
	await savePlan(
		client,
		{
			system: 'gutters',
			version: 0,
			stages: [
				stage('growing', 35, [900, 1400], 50),
				stage('flowering', 21, [1000, 1600], 16),
				stage('fruiting', 90, [1200, 1700], null),
			],
		},
		{ who: 'grower', now: end },
	);
}

async function followAdvice(client: Client, end: number): Promise<void> {
	for (const ago of STEP_DAYS_AGO) {
		const now = end - ago * DAY + NOON;
		const { advice } = await rootZoneOf(client, await requireSite(client), 'gutters', now, ADVICE_DAYS);
		if ('expect' in advice) await takeStep(client, { system: 'gutters', kind: advice.kind }, { who: 'grower', now });
	}
}

/** What was in doubt more than three weeks ago has been looked at since: discarded, for a slip the grower remembered. */
async function decideOldDoubts(client: Client, context: SiteContext, end: number): Promise<void> {
	const doubts = await listReadings(client, context.site.id, {
		...OPEN_DOUBTS,
		to: end - 21 * DAY,
		limit: 1000,
	});
	for (const r of doubts) {
		const slip = r.cause !== 'source-shift' && r.cause !== 'calibration-failed';
		await insertDecision(
			client,
			context.site.id,
			r.id,
			slip ? 'discard' : 'keep',
			slip
				? 'written down wrongly'
				: r.cause === 'source-shift'
					? 'confirmed by a second sample'
					: 'put right by the next calibration',
			'grower',
		);
	}
}

async function storeCalibrations(
	client: Client,
	context: SiteContext,
	calibrations: readonly DemoCalibration[],
): Promise<void> {
	for (const lot of LOTS) await putLot(client, context.site.id, lot);
	const instrumentIds = new Map(context.instruments.map((i) => [i.code, i.id]));
	for (const p of PROBES)
		await putProbe(client, context.site.id, { ...p, instrumentId: instrumentIds.get(p.instrument)! });
	for (const c of calibrations)
		await insertCalibration(client, context.site.id, {
			instrumentId: instrumentIds.get(c.instrument)!,
			quantity: c.quantity,
			at: c.at,
			kind: c.kind,
			tempC: c.tempC,
			settleS: null,
			note: '',
			doubts: [],
			source: 'demo',
			enteredBy: 'grower',
			points: c.points.map((p) => ({ ...p, lot: LOTS.find((l) => l.standard === p.standard)?.name ?? '', mv: null })),
		});
}
