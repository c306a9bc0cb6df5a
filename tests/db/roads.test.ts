import { isDeepStrictEqual } from 'node:util';
import { describe, expect, it } from 'vitest';
import { unitNamed } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { EventKind } from '@/core/reading/model';
import { permits } from '@/core/trust/trust';
import { INSTRUMENTS, SITE, STATIONS, SYSTEMS } from '@/demo/saltmarsh';
import { season } from '@/demo/season';
import type { CalibrationGroup } from '@/files/calibrations-row';
import { checkStream } from '@/files/check-stream';
import { csvRecords } from '@/files/csv-stream';
import { csvLine } from '@/files/table';
import { enterCalibration } from '@/service/calibrate';
import { enterSamples, type TypedSample } from '@/service/enter';
import { enterEvent } from '@/service/events';
import { importFile } from '@/service/import';
import { judgeFrom, judgeWhatIsDue } from '@/service/judging';
import { intervalChoice } from '@/service/probes';
import { requireSite } from '@/service/site';
import { insertCalibration } from '@/store/calibrations';
import { insertEvents } from '@/store/events';
import { markDue } from '@/store/judging';
import { PLAIN_INSTRUMENT, putInstrument, putStation, putSystem } from '@/store/line';
import { type Pool, transaction } from '@/store/pool';
import { listReadings } from '@/store/readings';
import { insertSite } from '@/store/site';
import { withDatabase } from '../helpers/database';
import { temporaryFile } from '../helpers/temporary-file';

/**
 * The same reading gets the same verdict by every road: one simulated season entered sample by sample, in one request, newest
 * first, as a file, as a file out of order, and given to the headless checker.
 */
const DAYS = 24;
const END = Date.UTC(2026, 3, 20, 5, 30);
const FROM = END - DAYS * 86_400_000;
const LATER = END + 86_400_000;
const all = season(END);
type Row = Pick<
	(typeof all.readings)[number],
	'at' | 'station' | 'instrument' | 'quantity' | 'digits' | 'unit' | 'tempC' | 'waitS'
>;

/** More goes wrong than in the season itself: points forgotten, pens exchanged, a pen left in the air. */
const withSlips = (r: Row, i: number): Row => {
	if (r.quantity === 'ph' && i % 29 === 7) return { ...r, digits: r.digits.replace('.', '') };
	if (r.quantity === 'ec' && i % 31 === 5) return { ...r, digits: '0' };
	if (r.quantity === 'ph' && i % 37 === 11) return { ...r, digits: '8.9' };
	return r;
};
/** A sensor every ten minutes for a day: it hangs for some hours, and later stands at another level. */
const sensor: Row[] = Array.from({ length: 144 }, (_, i) => ({
	at: END - 6 * 86_400_000 + i * 600_000 + 1000,
	station: 'pond',
	instrument: 'node',
	quantity: 'ph',
	digits: (i > 40 && i < 90 ? 5.93 : 5.9 + 0.03 * Math.sin(i * 1.7) + (i > 120 ? 0.8 : 0)).toFixed(2),
	unit: 'pH',
	tempC: null,
	waitS: null,
}));
const readings: Row[] = [...all.readings.filter((r) => r.at >= FROM).map(withSlips), ...sensor].sort(
	(a, b) => a.at - b.at || (a.station < b.station ? -1 : a.station > b.station ? 1 : 0),
);
const NODE = {
	...PLAIN_INSTRUMENT,
	code: 'node',
	name: 'Node',
	kind: 'sensor_node' as const,
	quantities: { ph: { resolution: 0.01, accuracy: 0.1 } },
	continuous: true,
};
const PENS = [...INSTRUMENTS, NODE];
const events = all.events.filter((e) => e.at >= FROM).sort((a, b) => a.at - b.at);
// Brass is calibrated once and never again.
const calibrations = all.calibrations
	.filter((c) => c.at >= FROM)
	.filter((c, i, list) => c.instrument !== 'brass' || list.findIndex((o) => o.instrument === 'brass') === i);

const samples: TypedSample[] = [];
for (const r of readings) {
	const last = samples.at(-1);
	const reading = {
		quantity: r.quantity,
		value: r.digits,
		unit: r.unit,
		instrument: r.instrument,
		tempC: r.tempC,
		waitS: r.waitS,
	};
	if (last && last.at === r.at && last.station === r.station) last.readings.push(reading);
	else samples.push({ at: r.at, station: r.station, readings: [reading] });
}
const by = { source: 'api', who: 'grower', now: LATER };

type Line = { flag: number; cause: string; suggested: string };

/** Lines by what was written; the same written twice is counted. */
class Lines extends Map<string, Line> {
	add(written: readonly (string | null)[], line: Line): void {
		const id = written.map((w) => w ?? '').join(' ');
		let n = 1;
		while (this.has(`${id} #${n}`)) n++;
		this.set(`${id} #${n}`, line);
	}
}

async function withYard<T>(work: (pool: Pool) => Promise<T>): Promise<T> {
	return withDatabase('empty', async (pool) => {
		await transaction(pool, async (client) => {
			const site = await insertSite(client, SITE);
			for (const s of SYSTEMS) await putSystem(client, site.id, s);
			for (const s of STATIONS) await putStation(client, site.id, s);
			for (const i of PENS) await putInstrument(client, site.id, i);
		});
		return work(pool);
	});
}

/** What stands in the store when everything that waits has been judged; and nothing changes when it is judged once more. */
async function verdicts(pool: Pool): Promise<Lines> {
	const site = await requireSite(pool);
	await judgeWhatIsDue(pool, site.site.id, LATER);
	const lines = new Lines();
	for (const r of await listReadings(pool, site.site.id, { limit: 10_000, order: 'oldest' })) {
		// What a later calibration has put right is a line of the checker, and a restated value in the store.
		const drift = r.restatedStatus === 'restated' && permits({ flag: r.flag, cause: r.cause }, 'restate');
		lines.add(
			[formatTime(r.at), r.station, r.instrument, r.quantity, r.digits],
			drift
				? { flag: 3, cause: 'drift', suggested: r.restated!.toPrecision(6) }
				: { flag: r.flag!, cause: r.cause, suggested: r.suggested === null ? '' : r.suggested.toPrecision(6) },
		);
	}
	const again = await transaction(pool, (client) => judgeFrom(client, site, Number.NEGATIVE_INFINITY, LATER, 100_000));
	expect(again.changed).toBe(0);
	expect(again.verdicts.size).toBe(readings.length);
	return lines;
}

async function logEvents(pool: Pool, list: readonly (typeof events)[number][]): Promise<void> {
	const site = await requireSite(pool);
	const ids = new Map(site.stations.map((s) => [s.code, s.id]));
	await insertEvents(
		pool,
		site.site.id,
		list.map((e) => ({
			at: e.at,
			stationId: ids.get(e.station)!,
			kind: e.kind as EventKind,
			amount: e.amount,
			amountText: e.amount === null ? '' : String(e.amount),
			unitText: e.unit,
			product: e.product,
			note: '',
			extra: null,
			source: 'typed',
			enteredBy: 'grower',
		})),
	);
}

async function logCalibrations(pool: Pool): Promise<void> {
	const site = await requireSite(pool);
	const ids = new Map(site.instruments.map((i) => [i.code, i.id]));
	for (const c of calibrations)
		await insertCalibration(pool, site.site.id, {
			...c,
			instrumentId: ids.get(c.instrument)!,
			settleS: null,
			note: '',
			doubts: [],
			source: 'typed',
			enteredBy: 'grower',
			points: c.points.map((p) => ({ ...p, lot: '', mv: null })),
		});
}

/** Sample by sample, event by event, calibration by calibration, as it happened. */
const asItHappened = (): Promise<Lines> =>
	withYard(async (pool) => {
		// Each request finds the site as the one before left it.
		const site = () => requireSite(pool);
		const steps = [
			...samples
				.filter((s) => s.readings[0]!.instrument !== 'node')
				.map((s) => ({ at: s.at, order: 2, run: async () => enterSamples(pool, await site(), [s], by) })),
			// A sensor sends what it has gathered in some hours.
			...Array.from({ length: 6 }, (_, i) =>
				samples.filter((s) => s.readings[0]!.instrument === 'node').slice(24 * i, 24 * i + 24),
			).map((list) => ({ at: list.at(-1)!.at, order: 2, run: async () => enterSamples(pool, await site(), list, by) })),
			...events.map((e) => ({
				at: e.at,
				order: 1,
				run: async () =>
					enterEvent(
						pool,
						await site(),
						{
							at: e.at,
							station: e.station,
							kind: e.kind as EventKind,
							amount: e.amount,
							unitText: e.unit,
							product: e.product,
							note: '',
						},
						by,
					),
			})),
			...calibrations.map((c) => ({
				at: c.at,
				order: 0,
				run: async () =>
					enterCalibration(
						pool,
						await site(),
						{
							...c,
							settleS: null,
							note: '',
							acceptDoubts: true,
							points: c.points.map((p) => ({ ...p, lot: '', mv: null })),
						},
						by,
					),
			})),
		].sort((a, b) => a.at - b.at || a.order - b.order);
		for (const s of steps) await s.run();
		return verdicts(pool);
	});

const csv = (rows: readonly Row[]): string =>
	csvLine(['time', 'station', 'instrument', 'quantity', 'value', 'unit', 'temp_c', 'wait_s']) +
	rows
		.map((r) =>
			csvLine([
				formatTime(r.at),
				r.station,
				r.instrument,
				r.quantity,
				r.digits,
				r.unit,
				r.tempC === null ? '' : String(r.tempC),
				r.waitS === null ? '' : String(r.waitS),
			]),
		)
		.join('');

const imported = (order: (rows: readonly Row[]) => readonly Row[]): Promise<Lines> =>
	withYard(async (pool) => {
		await logEvents(pool, events);
		await logCalibrations(pool);
		const site = await requireSite(pool);
		await temporaryFile(csv(order(readings)), (path) =>
			importFile(pool, site, path, { dryRun: false, keepGood: false, who: 'grower', now: LATER }),
		);
		return verdicts(pool);
	});

async function checked(): Promise<Lines> {
	const site = {
		stations: new Map(
			STATIONS.map((s) => [
				s.code,
				{
					code: s.code,
					kind: s.kind,
					system: s.system,
					volumeL: s.volumeL ?? SYSTEMS.find((y) => y.code === s.system)?.volumeL ?? null,
					ranges: Object.fromEntries(Object.entries(s.ranges).map(([q, [low, high]]) => [q, { low, high }])),
				},
			]),
		),
		instruments: new Map(
			PENS.map((i) => [
				i.code,
				{
					code: i.code,
					quantities: i.quantities,
					ppmScale: i.ppmScale,
					compensates: i.compensates,
					alphaPctPerC: i.alphaPct,
					continuous: i.continuous,
				},
			]),
		),
	};
	const choice = new Map(PENS.map((i) => [i.code, intervalChoice(i)]));
	const stream = checkStream({
		readings: (async function* () {
			yield csv(readings);
		})(),
		events: events.map((e) => ({
			at: e.at,
			station: e.station,
			kind: e.kind as EventKind,
			amount: e.amount,
			unit: unitNamed(e.unit) ?? null,
		})),
		calibrations: calibrations.map(
			(c): CalibrationGroup => ({
				...c,
				settleS: null,
				note: '',
				points: c.points.map((p) => ({ ...p, lot: '', mv: null })),
			}),
		),
		calibrateDays: (code) => (choice.get(code)?.by === 'monthly' ? 30 : undefined),
		site,
		zone: 'UTC',
		altitudeM: 0,
		now: () => LATER,
	});
	const lines = new Lines();
	const header: string[] = [];
	const records: string[][] = [];
	for await (const batch of csvRecords(stream)) records.push(...batch.map((r) => r.cells));
	for (const cells of records) {
		if (header.length === 0) {
			header.push(...cells);
			continue;
		}
		const at = (name: string) => cells[header.indexOf(name)] ?? '';
		const suggested = at('suggested');
		lines.add([at('time'), at('station'), at('instrument'), at('quantity'), at('value')], {
			flag: Number(at('flag')),
			cause: at('cause'),
			suggested: suggested === '' ? '' : Number(suggested).toPrecision(6),
		});
	}
	return lines;
}

const differing = (a: Map<string, Line>, b: Map<string, Line>): string[] =>
	[...a].flatMap(([id, line]) => {
		const other = b.get(id);
		return JSON.stringify(other) === JSON.stringify(line)
			? []
			: [`${id}: ${JSON.stringify(line)} ${JSON.stringify(other)}`];
	});

describe('one season by every road', () => {
	let first: Lines;
	it('sample by sample, as it happened', async () => {
		first = await asItHappened();
		expect(first.size).toBe(readings.length);
		const causes = [...first.values()].map((l) => l.cause);
		// A season in which nothing is found would prove nothing.
		expect(causes).toEqual(
			expect.arrayContaining(['', 'decimal-slip', 'out-of-range', 'calibration-overdue', 'disagreement', 'drift']),
		);
	});
	it('the headless checker says the same of every line', async () => {
		// A file is judged line by line: what probes tell of one another is for the application, which can go back.
		const aside = (lines: Lines) =>
			new Map([...lines].map(([id, l]) => [id, l.cause === 'drift' ? 'drift' : l] as const));
		const [here, there] = [aside(first), aside(await checked())];
		expect([...here].filter(([id, l]) => !isDeepStrictEqual(l, there.get(id)))).toEqual([]);
	});
	it('a file in order of time', async () => {
		expect(differing(first, await imported((r) => r))).toEqual([]);
	});
	it('a file newest first', async () => {
		expect(differing(first, await imported((r) => [...r].sort((a, b) => b.at - a.at)))).toEqual([]);
	});
	it('all samples in one request, events and calibrations logged afterwards', async () => {
		const lines = await withYard(async (pool) => {
			const site = await requireSite(pool);
			await enterSamples(pool, site, samples, by);
			await logEvents(pool, events);
			await logCalibrations(pool);
			await markDue(pool, site.site.id, FROM);
			return verdicts(pool);
		});
		expect(differing(first, lines).filter((d) => !d.includes('drift'))).toEqual([]);
	});
	it('newest samples first, each late', async () => {
		const lines = await withYard(async (pool) => {
			await logEvents(pool, events);
			await logCalibrations(pool);
			for (const s of [...samples].reverse().slice(0, 60)) await enterSamples(pool, await requireSite(pool), [s], by);
			await enterSamples(pool, await requireSite(pool), samples.slice(0, -60), by);
			return verdicts(pool);
		});
		expect(differing(first, lines)).toEqual([]);
	});
});
