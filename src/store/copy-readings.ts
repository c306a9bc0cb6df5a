import type { Quantity, Unit } from '@/core/quantity';
import type { Verdict } from '@/core/reading/model';
import { ENGINE_VERSION } from '@/core/reading/model';
import type { Client, Db } from './pool';
import { idRow, read } from './read';
import { asRecords, copyRows, FEW, putRows } from './rows';

/** A reading about to be stored. */
export interface NewReading {
	sampleId: number;
	/** A correction that begins a sample of its own: it is of another water or time than those it was entered with. */
	ownSample?: boolean | undefined;
	at: number;
	stationId: number;
	instrumentId: number | null;
	quantity: Quantity;
	digits: string;
	unitText: string;
	unit: Unit;
	typed: string | null;
	value: number;
	halfWidth: number;
	tempC: number | null;
	waitS: number | null;
	note: string;
	extra: Record<string, string> | null;
	supersedes: number | null;
	source: string;
	enteredBy: string;
}

export async function reserveIds(db: Db, count: number): Promise<number[]> {
	const rows = await read(db, idRow, `SELECT nextval('row_id') AS id FROM generate_series(1, $1)`, [count]);
	return rows.map((r) => r.id);
}

const READING_COLUMNS =
	'site_id, id, sample_id, at, station_id, instrument_id, quantity, digits, unit_text, unit, typed, value, half_width, temp_c, wait_s, note, extra, supersedes, source, entered_by';
const VERDICT_COLUMNS = 'site_id, reading_id, engine, flag, check_code, cause, suggested, u, said, evidence, expected';

const readingCells = (siteId: number, id: number, r: NewReading): unknown[] => [
	siteId,
	id,
	r.sampleId,
	new Date(r.at).toISOString(),
	r.stationId,
	r.instrumentId,
	r.quantity,
	r.digits,
	r.unitText,
	r.unit,
	r.typed,
	r.value,
	r.halfWidth,
	r.tempC,
	r.waitS,
	r.note,
	r.extra,
	r.supersedes,
	r.source,
	r.enteredBy,
];

const verdictCells = (siteId: number, id: number, v: Verdict): unknown[] => [
	siteId,
	id,
	ENGINE_VERSION,
	v.flag,
	v.deciding?.check ?? '',
	v.deciding?.cause ?? '',
	v.deciding?.suggested ?? null,
	v.u,
	v.deciding?.said ?? null,
	v.deciding?.evidence ?? null,
	v.expected?.value ?? null,
];

/** Samples that these readings are the first of; a correction belongs to one that is there, unless it was moved away from it. */
const newSamples = (readings: readonly NewReading[]): Set<number> =>
	new Set(readings.flatMap((r) => (r.supersedes === null || r.ownSample ? [r.sampleId] : [])));

/** Stores readings and their samples; ids come from reserveIds. Their verdicts are stored by storeVerdicts or by judging them. */
export async function storeReadings(
	client: Client,
	siteId: number,
	ids: readonly number[],
	readings: readonly NewReading[],
): Promise<void> {
	const samples = newSamples(readings);
	const rows = readings.map((r, i) => readingCells(siteId, ids[i]!, r));
	if (readings.length <= FEW) {
		await client.query(
			`WITH s AS (INSERT INTO sample (site_id, id) SELECT $1, x FROM unnest($2::bigint[]) x)
			INSERT INTO reading (${READING_COLUMNS}) SELECT ${READING_COLUMNS} FROM jsonb_populate_recordset(NULL::reading, $3)`,
			[siteId, [...samples], asRecords(READING_COLUMNS, rows)],
		);
		return;
	}
	await copyRows(
		client,
		'sample',
		'site_id, id',
		Array.from(samples, (id) => [siteId, id]),
	);
	await copyRows(client, 'reading', READING_COLUMNS, rows);
}

export const storeVerdicts = (
	client: Client,
	siteId: number,
	ids: readonly number[],
	verdicts: readonly Verdict[],
): Promise<void> =>
	putRows(
		client,
		'verdict',
		VERDICT_COLUMNS,
		verdicts.map((v, i) => verdictCells(siteId, ids[i]!, v)),
	);
