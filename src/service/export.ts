import { QUANTITY } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import { csvLine } from '@/files/table';
import { listCalibrations } from '@/store/calibrations';
import { type EventRecord, listEvents } from '@/store/events';
import type { IrrigationRow } from '@/store/irrigations';
import type { Db } from '@/store/pool';
import { listReadings, type ReadingFilter } from '@/store/readings';
import { extraNames, listWritten, type WrittenReading } from '@/store/written';
import type { SiteContext } from './site';

const PAGE = 5000;

async function* pages<T extends { at: number; id: number }>(
	fetch: (after: { at: number; id: number } | undefined) => Promise<T[]>,
): AsyncGenerator<T[]> {
	let after: { at: number; id: number } | undefined;
	for (;;) {
		const rows = await fetch(after);
		if (rows.length > 0) yield rows;
		if (rows.length < PAGE) return;
		const last = rows[rows.length - 1]!;
		after = { at: last.at, id: last.id };
	}
}

/** Names of the unknown columns that some row carries, in one order whatever the order of import. */
async function extraColumns<T extends { extra: Record<string, string> | null }>(
	all: AsyncGenerator<T[]>,
): Promise<string[]> {
	const names = new Set<string>();
	for await (const rows of all)
		for (const r of rows) if (r.extra) for (const name of Object.keys(r.extra)) names.add(name);
	return [...names].sort();
}

const text = (v: number | null): string => (v === null ? '' : String(v));

/**
 * Readings as the open CSV: what stands now, corrections in place of what they corrected, oldest first. Importing the
 * result into an empty installation and exporting again gives the same bytes.
 */
export async function* readingsCsv(
	db: Db,
	context: SiteContext,
	filter: Omit<ReadingFilter, 'limit' | 'order' | 'before'>,
): AsyncGenerator<string> {
	const fetch = (before: { at: number; id: number } | undefined): Promise<WrittenReading[]> =>
		listWritten(db, context.site.id, { ...filter, order: 'oldest', before, limit: PAGE });
	const extra = await extraNames(db, context.site.id, filter);
	yield csvLine(['time', 'station', 'instrument', 'quantity', 'value', 'unit', 'temp_c', 'wait_s', 'note', ...extra]);
	for await (const rows of pages(fetch)) {
		let batch = '';
		for (const r of rows)
			batch += csvLine([
				formatTime(r.at),
				r.station,
				r.instrument,
				r.quantity,
				r.digits,
				r.unitText,
				text(r.tempC),
				text(r.waitS),
				r.note,
				...extra.map((name) => r.extra?.[name] ?? ''),
			]);
		yield batch;
	}
}

export async function* eventsCsv(
	db: Db,
	context: SiteContext,
	filter: { from?: number | undefined; to?: number | undefined; station?: string | undefined },
): AsyncGenerator<string> {
	const fetch = (after: { at: number; id: number } | undefined): Promise<EventRecord[]> =>
		listEvents(db, context.site.id, { ...filter, after, limit: PAGE });
	const extra = await extraColumns(pages(fetch));
	yield csvLine(['time', 'station', 'kind', 'amount', 'unit', 'product', 'note', ...extra]);
	for await (const rows of pages(fetch)) {
		let batch = '';
		for (const e of rows)
			batch += csvLine([
				formatTime(e.at),
				e.station,
				e.kind,
				e.amountText,
				e.unitText,
				e.product,
				e.note,
				...extra.map((name) => e.extra?.[name] ?? ''),
			]);
		yield batch;
	}
}

/** Calibrations as the open CSV, one line a standard; withdrawn ones are left out. */
export async function* calibrationsCsv(
	db: Db,
	context: SiteContext,
	filter: { instrument?: string | undefined; quantity?: 'ph' | 'ec' | undefined },
): AsyncGenerator<string> {
	yield csvLine([
		'time',
		'instrument',
		'quantity',
		'kind',
		'standard',
		'nominal',
		'as_found',
		'as_left',
		'temp_c',
		'note',
		'lot',
		'mv',
		'settle_s',
	]);
	for (const c of await listCalibrations(db, context.site.id, filter)) {
		let batch = '';
		for (const p of c.points)
			batch += csvLine([
				formatTime(c.at),
				c.instrument,
				c.quantity,
				c.kind,
				p.standard,
				text(p.nominal),
				text(p.asFound),
				text(p.asLeft),
				text(c.tempC),
				c.note,
				p.lot,
				text(p.mv),
				text(c.settleS),
			]);
		yield batch;
	}
}

/** What calibrations made of readings: the original beside the restated value, with the calibrations behind it named by their time. */
export async function* restatementsCsv(
	db: Db,
	context: SiteContext,
	filter: { instrument?: string | undefined; quantity?: 'ph' | 'ec' | undefined },
): AsyncGenerator<string> {
	const times = new Map(
		(await listCalibrations(db, context.site.id, { withWithdrawn: true })).map((c) => [c.id, formatTime(c.at)]),
	);
	yield csvLine([
		'time',
		'station',
		'instrument',
		'quantity',
		'value',
		'unit',
		'canonical_value',
		'restated',
		'plus_minus_95',
		'canonical_unit',
		'status',
		'calibration_before',
		'calibration_after',
		'provisional',
		'partial',
	]);
	const fetch = (before: { at: number; id: number } | undefined) =>
		listReadings(db, context.site.id, { ...filter, order: 'oldest', before, limit: PAGE });
	for await (const rows of pages(fetch)) {
		let batch = '';
		for (const r of rows) {
			if (r.restatedStatus === null) continue;
			batch += csvLine([
				formatTime(r.at),
				r.station,
				r.instrument ?? '',
				r.quantity,
				r.digits,
				r.unitText,
				text(r.value),
				text(r.restated),
				text(r.u === null ? null : 1.96 * r.u),
				QUANTITY[r.quantity].canonical,
				r.restatedStatus,
				times.get(r.fromCalibration ?? -1) ?? '',
				times.get(r.toCalibration ?? -1) ?? '',
				r.restatedProvisional ? 'yes' : '',
				r.restatedPartial ? 'yes' : '',
			]);
		}
		yield batch;
	}
}

const CUPS_APART = ' ';
/** Irrigations as they were typed; cups of one kind in one cell, with blanks between. */
export async function* irrigationsCsv(rows: readonly IrrigationRow[]): AsyncGenerator<string> {
	yield csvLine([
		'time',
		'system',
		'minutes',
		'first_drain_min',
		'applied_l',
		'applied_cups_ml',
		'drained_l',
		'drained_cups_ml',
		'note',
	]);
	for (const r of rows)
		yield csvLine([
			formatTime(r.at),
			r.system,
			...[r.minutes, r.firstDrainMin, r.appliedL].map((x) => (x === null ? '' : String(x))),
			r.appliedCups.join(CUPS_APART),
			r.drainedL === null ? '' : String(r.drainedL),
			r.drainedCups.join(CUPS_APART),
			r.note,
		]);
}
