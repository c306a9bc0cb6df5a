import type { ImportDone } from '@/contract/files';
import { type CalibrationLine, groupCalibrations } from '@/files/calibrations-row';
import { CALIBRATIONS } from '@/files/table';
import { insertCalibration } from '@/store/calibrations';
import { insertEvents, type NewEvent } from '@/store/events';
import { insertIrrigation } from '@/store/irrigations';
import { PLAIN_INSTRUMENT, PLAIN_STATION, putInstrument, putStation } from '@/store/line';
import { type Client, type Db, undoably } from '@/store/pool';
import { flagsFrom, nextNumber } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { alreadyThere, type ImportFile, type Line, lineKey, openImport, rowOf, troubledLines } from './import-lines';
import { ImportReport } from './import-report';
import { Intake } from './intake';
import { judgeAgain } from './judging';
import { recomputeAll } from './restate';
import { requireSite, type SiteContext } from './site';

/**
 * Takes a CSV in: read, judged and stored as it comes, once through, in one transaction. Nothing of a file is kept when any part of
 * it cannot be, unless its good lines alone were asked for; what is wrong with it is told line by line all the same.
 */
export interface ImportOptions {
	/** Say what the file holds and store nothing. */
	dryRun: boolean;
	/** Store the good lines of a file that also has bad ones. */
	keepGood: boolean;
	who: string;
	now: number;
	/** Told how far it has come; what it throws gives the file up, with nothing stored. */
	progress?: ((linesDone: number, phase: 'reading' | 'storing' | 'judging') => void) | undefined;
}

/**
 * Stations and instruments that lines name and the site does not have, made with plain defaults to be completed later.
 * @returns the site with them
 */
async function withMissing(client: Client, site: SiteContext, lines: readonly Line[]): Promise<SiteContext> {
	const stations = new Set<string>();
	const instruments = new Set<string>();
	for (const l of lines) {
		const row = rowOf(l)!;
		if ('station' in row && !site.known.stations.has(row.station)) stations.add(row.station);
		if ('instrument' in row && row.instrument !== '' && !site.known.instruments.has(row.instrument))
			instruments.add(row.instrument);
	}
	if (stations.size + instruments.size === 0) return site;
	let position = Math.max(0, ...site.stations.map((s) => s.position));
	for (const code of [...stations].sort())
		await putStation(client, site.site.id, {
			code,
			name: code,
			kind: 'reservoir',
			...PLAIN_STATION,
			position: ++position,
		});
	for (const code of [...instruments].sort())
		await putInstrument(client, site.site.id, {
			code,
			name: code,
			kind: 'combined',
			quantities: {},
			...PLAIN_INSTRUMENT,
		});
	return requireSite(client);
}

/** Where lines go that are new. */
interface Store {
	/** Rows that it stores have this number or a later one. */
	firstId: number;
	/** Whether lines from a time on may be stored already. */
	mayKnow: (at: number) => boolean;
	changed: (site: SiteContext) => Promise<void>;
	take: (lines: readonly Line[]) => Promise<void>;
	/** @returns how many have which flag */
	finish: () => Promise<ImportDone['flagged']>;
	/** When the database is no longer busy with any of it, whatever became of it. */
	settled: () => Promise<void>;
}

async function readingsStore(client: Client, site: SiteContext, o: ImportOptions): Promise<Store> {
	const intake = await Intake.begin(client, site, { source: 'import', who: o.who, now: o.now });
	let judged = 0;
	return {
		firstId: intake.firstId,
		mayKnow: (at) => intake.mayKnow(at),
		changed: (changed) => intake.changed(changed),
		take: (lines) => intake.take(lines.map((l) => l.reading!)),
		finish: async () => {
			await intake.finish((more) => {
				judged += more;
				o.progress?.(judged, 'judging');
			});
			return flagsFrom(client, site.site.id, intake.firstId);
		},
		settled: () => intake.settled(),
	};
}

/** Events and calibrations: few beside readings, looked for among all that is stored. */
async function recordStore(
	client: Client,
	site: SiteContext,
	own: (here: () => SiteContext) => Pick<Store, 'take' | 'finish'>,
): Promise<Store> {
	let here = site;
	return {
		firstId: await nextNumber(client),
		mayKnow: () => true,
		changed: async (changed) => {
			here = changed;
		},
		settled: async () => {},
		...own(() => here),
	};
}

const eventsStore = (client: Client, site: SiteContext, o: ImportOptions): Promise<Store> =>
	recordStore(client, site, (here) => {
		let from = Number.POSITIVE_INFINITY;
		return {
			take: async (lines) => {
				const stationIds = new Map(here().stations.map((s) => [s.code, s.id]));
				await insertEvents(
					client,
					here().site.id,
					lines.map((l): NewEvent => {
						const { local: _, station, unit: __, ...e } = l.event!;
						from = Math.min(from, e.at);
						return { ...e, stationId: stationIds.get(station)!, source: 'import', enteredBy: o.who };
					}),
				);
			},
			finish: async () => {
				if (Number.isFinite(from)) await judgeAgain(client, here(), from, o.now);
				return {};
			},
		};
	});

const calibrationsStore = (client: Client, site: SiteContext, o: ImportOptions): Promise<Store> =>
	recordStore(client, site, (here) => {
		const fresh: CalibrationLine[] = [];
		return {
			take: async (lines) => {
				for (const l of lines) fresh.push(l.calibration!);
			},
			finish: async () => {
				if (fresh.length === 0) return {};
				const instrumentIds = new Map(here().instruments.map((i) => [i.code, i.id]));
				for (const group of groupCalibrations(fresh))
					await insertCalibration(client, here().site.id, {
						...group,
						instrumentId: instrumentIds.get(group.instrument)!,
						doubts: [],
						source: 'import',
						enteredBy: o.who,
					});
				await recomputeAll(client, here());
				const from = fresh.reduce((least, c) => Math.min(least, c.at), Number.POSITIVE_INFINITY);
				await judgeAgain(client, here(), from, o.now);
				return {};
			},
		};
	});

const irrigationsStore = (client: Client, site: SiteContext, o: ImportOptions): Promise<Store> =>
	recordStore(client, site, (here) => ({
		take: async (lines) => {
			const systemIds = new Map(here().systems.map((y) => [y.code, y.id]));
			for (const l of lines) {
				const { local: _, system, ...run } = l.irrigation!;
				await insertIrrigation(client, here().site.id, { ...run, systemId: systemIds.get(system)!, who: o.who });
			}
		},
		finish: async () => ({}),
	}));

const STORES = {
	readings: readingsStore,
	events: eventsStore,
	calibrations: calibrationsStore,
	irrigations: irrigationsStore,
} as const;

/**
 * The lines of a file that are good, some thousands at a time, each with those that are new. A calibration is looked at as a whole:
 * its lines come all at once.
 */
async function* goodLines(
	db: Db,
	siteId: number,
	file: ImportFile,
	report: ImportReport,
	o: ImportOptions,
	store: () => Store | null,
): AsyncGenerator<Line[]> {
	async function fresh(lines: readonly Line[]): Promise<Line[]> {
		const good = report.take(lines);
		const to = store();
		const unknown =
			to !== null && !good.some((l) => to.mayKnow(rowOf(l)!.at))
				? new Set<string>()
				: await alreadyThere(db, siteId, file.format, good, to?.firstId ?? null);
		const there = good.filter((l) => unknown.has(lineKey(l)));
		report.duplicates(there.length);
		return there.length === 0 ? good : good.filter((l) => !unknown.has(lineKey(l)));
	}
	const whole: Line[] = [];
	for await (const lines of file.chunks) {
		if (file.format === CALIBRATIONS) whole.push(...lines);
		else yield await fresh(lines);
		o.progress?.(report.lines, store() === null ? 'reading' : 'storing');
	}
	if (file.format !== CALIBRATIONS) return;
	const good = await fresh(whole);
	const troubled = new Map(troubledLines(good));
	for (const [line, message] of troubled) report.revoke(line, 'as_found', message);
	yield good.filter((l) => !troubled.has(l.line));
}

/** Judges a file and, unless it is a dry run, stores it. A file with bad lines is stored only with `keepGood`. */
export async function importFile(db: Db, site: SiteContext, path: string, o: ImportOptions): Promise<ImportDone> {
	const file = await openImport(path, site);
	const report = new ImportReport(file.format, site, o.dryRun, o.now);
	if (o.dryRun) {
		for await (const _ of goodLines(db, site.site.id, file, report, o, () => null));
		return report.finish();
	}
	return writing(db, async (client) => {
		let here = await requireSite(client);
		let store: Store | null = null;
		const lines = goodLines(client, here.site.id, file, report, o, () => store);
		const flagged = await undoably(client, async () => {
			const to = await STORES[file.format.name](client, here, o);
			store = to;
			try {
				for (let next = await lines.next(); !next.done; next = await lines.next()) {
					if (report.bad > 0 && !o.keepGood) return { keep: false, result: null };
					const known = await withMissing(client, here, next.value);
					if (known !== here) await to.changed(known);
					here = known;
					await to.take(next.value);
					report.stored(next.value.length);
				}
				return { keep: true, result: await to.finish() };
			} finally {
				await to.settled();
			}
		});
		store = null;
		if (flagged === null) {
			// Nothing of it stays, but what else is wrong with it is told.
			report.takenBack();
			for await (const _ of lines);
			return report.finish();
		}
		const done = report.finish(flagged);
		await insertAudit(client, here.site.id, o.who, 'import', file.format.name, {
			lines: done.lines,
			stored: done.stored,
			bad: done.bad,
		});
		return done;
	});
}
