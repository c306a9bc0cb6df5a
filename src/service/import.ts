import type { ImportDone } from '@/contract/files';
import type { Verdict } from '@/core/reading/model';
import { type CalibrationLine, groupCalibrations, troubleOf } from '@/files/calibrations-row';
import { CALIBRATIONS, EVENTS, READINGS } from '@/files/table';
import { insertCalibration } from '@/store/calibrations';
import { insertEvents, type NewEvent } from '@/store/events';
import { isLate } from '@/store/judging';
import { PLAIN_INSTRUMENT, PLAIN_STATION, putInstrument, putStation } from '@/store/line';
import type { Client, Db } from '@/store/pool';
import { refreshStatistics } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import {
	alreadyThere,
	chunksOf,
	eventKey,
	type ImportOptions,
	lineKey,
	type Order,
	readingKey,
	survey,
} from './import-survey';
import { Judging } from './judgement';
import { judgeAgain } from './judging';
import { recomputeAll } from './restate';
import { requireSite, type SiteContext } from './site';
import { judgeAllFrom, storeInOrder, storeUnjudged } from './store-bulk';

/**
 * Takes a CSV in: once through to judge every line, and only then, if asked, once more to store it in one
 * transaction. Nothing of a file is kept when any part of storing it fails.
 */

/** Stations and instruments a file names and the site does not have, made with plain defaults to be completed later. */
async function createMissing(client: Client, site: SiteContext, creates: ImportDone['creates']): Promise<void> {
	let position = Math.max(0, ...site.stations.map((s) => s.position));
	for (const code of creates.stations)
		await putStation(client, site.site.id, {
			code,
			name: code,
			kind: 'reservoir',
			...PLAIN_STATION,
			position: ++position,
		});
	for (const code of creates.instruments)
		await putInstrument(client, site.site.id, {
			code,
			name: code,
			kind: 'combined',
			quantities: {},
			...PLAIN_INSTRUMENT,
		});
}

/**
 * Rows in order of time and newer than everything stored are judged on their way in; others are stored first, and everything
 * from the oldest of them on is judged again.
 */
async function storeReadings(
	client: Client,
	site: SiteContext,
	path: string,
	options: ImportOptions,
	report: ImportDone,
	order: Order,
): Promise<void> {
	const by = { source: 'import', who: options.who };
	const straight = order.inOrder && !(await isLate(client, site.site.id, order.firstAt));
	const judging = straight ? await Judging.present(client, site, options.now) : null;
	const waiting = new Set<number>();
	let done = 0;
	for await (const { lines } of chunksOf(path, site)) {
		const there = await alreadyThere(client, site.site.id, READINGS, lines);
		const rows = lines.flatMap((l) => (l.reading && !there.has(readingKey(l.reading)) ? [l.reading] : []));
		report.duplicates += lines.filter((l) => l.reading).length - rows.length;
		report.stored += rows.length;
		if (judging) count(report, await storeInOrder(client, site, judging, rows, by));
		else for (const id of await storeUnjudged(client, site, rows, by)) waiting.add(id);
		done += lines.length;
		options.progress?.(done, 'storing');
	}
	if (waiting.size === 0) return;
	await refreshStatistics(client);
	let judged = 0;
	await judgeAllFrom(client, site, order.firstAt, options.now, (verdicts) => {
		count(
			report,
			[...verdicts].flatMap(([id, v]) => (waiting.has(id) ? [v] : [])),
		);
		judged += verdicts.size;
		options.progress?.(judged, 'judging');
	});
}

function count(report: ImportDone, verdicts: readonly Verdict[]): void {
	for (const v of verdicts) report.flagged[v.flag] = (report.flagged[v.flag] ?? 0) + 1;
}

async function storeEvents(
	client: Client,
	site: SiteContext,
	path: string,
	options: ImportOptions,
	report: ImportDone,
): Promise<void> {
	const stationIds = new Map(site.stations.map((s) => [s.code, s.id]));
	let done = 0;
	for await (const { lines } of chunksOf(path, site)) {
		const there = await alreadyThere(client, site.site.id, EVENTS, lines);
		const rows = lines.flatMap((l) => (l.event && !there.has(eventKey(l.event)) ? [l.event] : []));
		report.duplicates += lines.filter((l) => l.event).length - rows.length;
		await insertEvents(
			client,
			site.site.id,
			rows.map(
				(e): NewEvent => ({
					at: e.at,
					stationId: stationIds.get(e.station)!,
					kind: e.kind,
					amount: e.amount,
					amountText: e.amountText,
					unitText: e.unitText,
					product: e.product,
					note: e.note,
					extra: e.extra,
					source: 'import',
					enteredBy: options.who,
				}),
			),
		);
		report.stored += rows.length;
		done += lines.length;
		options.progress?.(done, 'storing');
	}
}

async function storeCalibrations(
	client: Client,
	site: SiteContext,
	path: string,
	options: ImportOptions,
	report: ImportDone,
): Promise<void> {
	const instrumentIds = new Map(site.instruments.map((i) => [i.code, i.id]));
	const fresh: CalibrationLine[] = [];
	for await (const { lines } of chunksOf(path, site)) {
		const there = await alreadyThere(client, site.site.id, CALIBRATIONS, lines);
		for (const l of lines)
			if (l.calibration && there.has(lineKey(l))) report.duplicates++;
			else if (l.calibration) fresh.push(l.calibration);
	}
	for (const group of groupCalibrations(fresh)) {
		if (troubleOf(group) !== null) continue;
		report.stored += group.points.length;
		await insertCalibration(client, site.site.id, {
			...group,
			instrumentId: instrumentIds.get(group.instrument)!,
			doubts: [],
			source: 'import',
			enteredBy: options.who,
		});
	}
}

/** Judges a file and, unless it is a dry run, stores it. A file with bad lines is stored only with `keepGood`. */
export async function importFile(db: Db, site: SiteContext, path: string, options: ImportOptions): Promise<ImportDone> {
	const { report, order } = await survey(db, site, path, options);
	if (options.dryRun || report.good === 0) return report;
	if (report.bad > 0 && !options.keepGood) return report;
	report.duplicates = 0;
	await writing(db, async (client) => {
		await createMissing(client, site, report.creates);
		const complete = await requireSite(client);
		if (report.format === 'readings') {
			await storeReadings(client, complete, path, options, report, order);
			await recomputeAll(client, complete);
			// What was derived is part of it: without its size the next entry would go through all of it.
			if (report.stored > 1000) await refreshStatistics(client);
		} else {
			if (report.format === 'events') await storeEvents(client, complete, path, options, report);
			else {
				await storeCalibrations(client, complete, path, options, report);
				await recomputeAll(client, complete);
			}
			if (report.stored > 0) await judgeAgain(client, complete, order.firstAt, options.now);
		}
		await insertAudit(client, site.site.id, options.who, 'import', report.format, {
			lines: report.lines,
			stored: report.stored,
			bad: report.bad,
		});
	});
	return report;
}
