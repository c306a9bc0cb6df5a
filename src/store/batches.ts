import { z } from 'zod';
import { BATCH_STEPS } from '@/core/mix/batch-course';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';
import { putRows } from './rows';

/** Batches, with their plans and what each step showed. */
export interface BatchRow {
	id: number;
	station: string;
	startedAt: number;
	finishedAt: number | null;
	name: string;
	plan: BatchPlan;
	log: BatchStep[];
}

/** A mixing as it was planned, per litre so that it can be scaled. Fields that came later are missing in older rows. */
const batchPlan = z.strictObject({
	litres: z.number(),
	water: z.string().nullable(),
	waterEcUsCm: z.number(),
	/** What is poured, one after the other: mL or g for each litre. */
	pours: z.array(
		z.strictObject({
			product: z.string(),
			bottle: z.string(),
			perL: z.number(),
			unit: z.enum(['mL', 'g']),
			waitMin: z.number(),
			scales: z.boolean(),
		}),
	),
	targetEcUsCm: z.number().nullable(),
	/** Where EC may be, where there is no target. */
	ecRangeUsCm: z.tuple([z.number(), z.number()]).nullable().optional(),
	targetPh: z.number().nullable(),
	/** EC that the feed should bring it to; null where its gain is not known. */
	expectedEcUsCm: z.number().nullable().optional(),
	recipe: z.string().nullable().optional(),
	/** Share of the label's rate, where it went by the label. */
	strength: z.number().nullable().optional(),
	phFirst: z.boolean().optional(),
});
export type BatchPlan = z.output<typeof batchPlan>;
const batchStep = z.strictObject({
	at: time,
	/** `next` goes on to the next phase as things are. */
	step: z.enum(BATCH_STEPS),
	expected: z.number().nullable(),
	measured: z.number().nullable(),
	words: z.string(),
	/** What was poured: mL or g, of each part where there are several. */
	amount: z.number().nullable(),
	/** What the checks said of the measured value: its flag, and why where it was doubted. */
	flag: z.number().nullable(),
	doubt: z.string().nullable(),
	/** The reading that showed it. */
	readingId: z.number().nullable(),
});
export type BatchStep = z.output<typeof batchStep>;

const BATCH = `b.id, s.code AS station, b.started_at AS "startedAt", b.finished_at AS "finishedAt", b.name, b.plan`;
const STEP_COLUMNS =
	'site_id, batch_id, position, at, step, expected, measured, words, amount, flag, doubt, reading_id';
const stepCells = (siteId: number, batchId: number, position: number, s: BatchStep): unknown[] => [
	siteId,
	batchId,
	position,
	new Date(s.at).toISOString(),
	s.step,
	s.expected,
	s.measured,
	s.words,
	s.amount,
	s.flag,
	s.doubt,
	s.readingId,
];

export async function insertBatch(
	db: Db,
	siteId: number,
	b: { stationId: number; at: number; finishedAt?: number; name: string; plan: BatchPlan; who: string },
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		'INSERT INTO batch (site_id, station_id, started_at, finished_at, name, plan, entered_by) VALUES ($1,$2,$3,$4,$5,$6,$7) RETURNING id',
		[siteId, b.stationId, new Date(b.at), b.finishedAt ? new Date(b.finishedAt) : null, b.name, b.plan, b.who],
	);
	return rows[0]!.id;
}

/** Adds what steps showed, the first of them at a position. */
export const addBatchSteps = (
	db: Db,
	siteId: number,
	id: number,
	position: number,
	steps: readonly BatchStep[],
): Promise<void> =>
	putRows(
		db,
		'batch_step',
		STEP_COLUMNS,
		steps.map((s, i) => stepCells(siteId, id, position + i, s)),
	);

export async function finishBatch(db: Db, siteId: number, id: number, at: number): Promise<void> {
	await db.query('UPDATE batch SET finished_at = $3 WHERE site_id = $1 AND id = $2', [siteId, id, new Date(at)]);
}

type Plain = Omit<BatchRow, 'log'>;
async function withLogs(db: Db, siteId: number, batches: readonly Plain[]): Promise<BatchRow[]> {
	if (batches.length === 0) return [];
	const rows = await read(
		db,
		batchStep.extend(z.strictObject({ batchId: z.number() }).shape),
		`SELECT batch_id AS "batchId", at, step, expected, measured, words, amount, flag, doubt, reading_id AS "readingId"
		FROM batch_step WHERE site_id = $1 AND batch_id = ANY($2) ORDER BY batch_id, position`,
		[siteId, batches.map((b) => b.id)],
	);
	const logs = new Map<number, BatchStep[]>(batches.map((b) => [b.id, []]));
	for (const { batchId, ...step } of rows) logs.get(batchId)!.push(step);
	return batches.map((b) => ({ ...b, log: logs.get(b.id)! }));
}

export async function findBatch(db: Db, siteId: number, id: number): Promise<BatchRow | null> {
	const rows = await read(
		db,
		json<Plain>(),
		`SELECT ${BATCH} FROM batch b JOIN station s ON s.site_id = b.site_id AND s.id = b.station_id WHERE b.site_id = $1 AND b.id = $2`,
		[siteId, id],
	);
	return (await withLogs(db, siteId, rows))[0] ?? null;
}

/** Newest first; of a span of time those that were begun in it. */
export async function listBatches(
	db: Db,
	siteId: number,
	limit: number,
	span: { from?: number; to?: number } = {},
): Promise<BatchRow[]> {
	const at = (t: number | undefined) => (t === undefined ? null : new Date(t));
	const rows = await read(
		db,
		json<Plain>(),
		`SELECT ${BATCH} FROM batch b JOIN station s ON s.site_id = b.site_id AND s.id = b.station_id
		WHERE b.site_id = $1 AND ($2::timestamptz IS NULL OR b.started_at >= $2) AND ($3::timestamptz IS NULL OR b.started_at < $3)
		ORDER BY b.started_at DESC, b.id DESC LIMIT ${Math.trunc(limit)}`,
		[siteId, at(span.from), at(span.to)],
	);
	return withLogs(db, siteId, rows);
}
