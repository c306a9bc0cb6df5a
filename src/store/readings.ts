import { z } from 'zod';
import type { FindingSaid } from '@/core/judge/said';
import { QUANTITIES, type Quantity, quantitiesOf, seriesQuantity, type Unit } from '@/core/quantity';
import { STATION_KINDS } from '@/core/reading/model';
import { DOUBTED_FLAGS, OPEN_AGAIN } from '@/core/trust/trust';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';

/** A stored reading with its verdict and the newest decision. */
export const judgedReading = z.strictObject({
	id: z.number(),
	sampleId: z.number(),
	at: time,
	station: z.string(),
	stationName: z.string(),
	stationKind: z.enum(STATION_KINDS),
	instrument: z.string().nullable(),
	instrumentName: z.string().nullable(),
	quantity: z.enum(QUANTITIES),
	digits: z.string(),
	unitText: z.string(),
	unit: json<Unit>(),
	value: z.number(),
	halfWidth: z.number(),
	tempC: z.number().nullable(),
	waitS: z.number().nullable(),
	note: z.string(),
	extra: z.record(z.string(), z.string()).nullable(),
	supersedes: z.number().nullable(),
	source: z.string(),
	enteredBy: z.string(),
	enteredAt: time,
	flag: z.number().nullable(),
	check: z.string(),
	cause: z.string(),
	suggested: z.number().nullable(),
	u: z.number().nullable(),
	said: json<FindingSaid>().nullable(),
	evidence: z.record(z.string(), z.union([z.number(), z.string()])).nullable(),
	expected: z.number().nullable(),
	decision: z.string().nullable(),
	reason: z.string().nullable(),
	superseded: z.boolean(),
	/** What calibrations made of it; null where they changed nothing. */
	restated: z.number().nullable(),
	restatedStatus: z.string().nullable(),
	restatedError: z.number().nullable(),
	restatedProvisional: z.boolean().nullable(),
	restatedPartial: z.boolean().nullable(),
	fromCalibration: z.number().nullable(),
	toCalibration: z.number().nullable(),
	uInstrument: z.number().nullable(),
	uStandards: z.number().nullable(),
	uDrift: z.number().nullable(),
});
export type JudgedReading = z.output<typeof judgedReading>;

export const JUDGED = `id, sample_id AS "sampleId", at AS at, station, station_name AS "stationName", station_kind AS "stationKind",
	instrument, instrument_name AS "instrumentName", quantity, digits, unit_text AS "unitText", unit, value, half_width AS "halfWidth",
	temp_c AS "tempC", wait_s AS "waitS", note, extra, supersedes, source, entered_by AS "enteredBy", entered_at AS "enteredAt",
	flag, coalesce(check_code, '') AS check, coalesce(cause, '') AS cause, suggested, u, said,
	evidence, expected, decision, reason, superseded,
	restated, restated_status AS "restatedStatus", restated_error AS "restatedError", restated_provisional AS "restatedProvisional",
	restated_partial AS "restatedPartial", from_calibration AS "fromCalibration", to_calibration AS "toCalibration",
	u_instrument AS "uInstrument", u_standards AS "uStandards", u_drift AS "uDrift"`;

/** Neither corrected nor undone. */
export const CURRENT = `NOT superseded AND decision IS DISTINCT FROM 'undo'`;

export interface ReadingFilter {
	from?: number | undefined;
	to?: number | undefined;
	station?: string | undefined;
	instrument?: string | undefined;
	quantity?: Quantity | undefined;
	/** sound 1, doubtful 3, bad 4; undefined: any. */
	flags?: readonly number[] | undefined;
	undecided?: boolean | undefined;
	/** Leaves out these causes. */
	withoutCauses?: readonly string[] | undefined;
	/** Also what was corrected or undone. */
	all?: boolean | undefined;
	before?: { at: number; id: number } | undefined;
	order?: 'newest' | 'oldest' | undefined;
	limit: number;
}

/** What a filter asks of reading_standing or of reading_judged. */
export function where(siteId: number, f: ReadingFilter): { sql: string; values: unknown[] } {
	const values: unknown[] = [siteId];
	const terms = ['site_id = $1'];
	const add = (term: (n: string) => string, value: unknown) => {
		values.push(value);
		terms.push(term(`$${values.length}`));
	};
	if (!f.all) terms.push(CURRENT);
	if (f.from !== undefined) add((n) => `at >= ${n}`, new Date(f.from));
	if (f.to !== undefined) add((n) => `at < ${n}`, new Date(f.to));
	if (f.station !== undefined)
		add((n) => `station_id = (SELECT id FROM station WHERE site_id = $1 AND code = ${n})`, f.station);
	if (f.instrument !== undefined)
		add((n) => `instrument_id = (SELECT id FROM instrument WHERE site_id = $1 AND code = ${n})`, f.instrument);
	if (f.quantity !== undefined) add((n) => `quantity = ANY(${n})`, quantitiesOf(f.quantity));
	if (f.flags !== undefined) add((n) => `flag = ANY(${n})`, f.flags);
	if (f.undecided) add((n) => `(decision IS NULL OR decision = ANY(${n}))`, OPEN_AGAIN);
	if (f.withoutCauses !== undefined) add((n) => `cause <> ALL(${n})`, f.withoutCauses);
	if (f.before !== undefined) {
		values.push(new Date(f.before.at), f.before.id);
		const compare = f.order === 'oldest' ? '>' : '<';
		terms.push(`(at, id) ${compare} ($${values.length - 1}, $${values.length})`);
	}
	return { sql: terms.join(' AND '), values };
}

export async function listReadings(db: Db, siteId: number, filter: ReadingFilter): Promise<JudgedReading[]> {
	const { sql, values } = where(siteId, filter);
	const direction = filter.order === 'oldest' ? 'ASC' : 'DESC';
	// Which rows are meant is asked first: only those that are shown are joined with all that is told of them.
	const rows = await read(
		db,
		judgedReading,
		`WITH picked AS MATERIALIZED (SELECT id FROM reading_standing WHERE ${sql} ORDER BY at ${direction}, id ${direction} LIMIT ${Math.trunc(filter.limit)})
		SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND id = ANY(ARRAY(SELECT id FROM picked)) ORDER BY at ${direction}, id ${direction}`,
		values,
	);
	return rows;
}

export async function countReadings(db: Db, siteId: number, filter: Omit<ReadingFilter, 'limit'>): Promise<number> {
	const { sql, values } = where(siteId, { ...filter, limit: 0 });
	const rows = await read(
		db,
		z.strictObject({ n: z.number() }),
		`SELECT count(*) AS n FROM reading_standing WHERE ${sql}`,
		values,
	);
	return rows[0]!.n;
}

export async function findReading(db: Db, siteId: number, id: number): Promise<JudgedReading | null> {
	const rows = await read(db, judgedReading, `SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND id = $2`, [
		siteId,
		id,
	]);
	return rows[0] ?? null;
}

/**
 * The newest reading of one series that nobody corrected, took back or gave up. Asked of the tables themselves, a series at a
 * time: through the view every reading of all stations was joined and sorted.
 */
const NEWEST_OF_SERIES = `SELECT r.id, r.at FROM reading r JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
	WHERE r.site_id = s.site_id AND r.station_id = s.id AND r.quantity = q.quantity AND NOT v.superseded
		AND coalesce(v.decision, '') NOT IN ('undo', 'discard')
	ORDER BY r.at DESC, r.id DESC LIMIT 1`;

/** The newest current reading of each quantity at each station. */
export async function latestReadings(db: Db, siteId: number): Promise<JudgedReading[]> {
	const rows = await read(
		db,
		judgedReading,
		`WITH picked AS MATERIALIZED (
			SELECT x.id FROM station s CROSS JOIN unnest(ARRAY['ph','ec','tds','temp']) q(quantity)
			CROSS JOIN LATERAL (${NEWEST_OF_SERIES}) x WHERE s.site_id = $1)
		SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND id = ANY(ARRAY(SELECT id FROM picked))`,
		[siteId],
	);
	return rows;
}

/** When each quantity of each station was last read, tds counting as EC; keyed station\u0000quantity. */
export async function newestTimes(db: Db, siteId: number): Promise<Map<string, number>> {
	const rows = await read(
		db,
		z.strictObject({ station: z.string(), quantity: z.enum(QUANTITIES), at: time }),
		`SELECT s.code AS station, q.quantity, x.at FROM station s
		CROSS JOIN unnest($2::text[]) q(quantity)
		CROSS JOIN LATERAL (${NEWEST_OF_SERIES}) x WHERE s.site_id = $1`,
		[siteId, QUANTITIES],
	);
	const newest = new Map<string, number>();
	for (const r of rows) {
		const key = `${r.station}\u0000${seriesQuantity(r.quantity)}`;
		newest.set(key, Math.max(newest.get(key) ?? r.at, r.at));
	}
	return newest;
}

export async function insertDecision(
	db: Db,
	siteId: number,
	readingId: number,
	kind: string,
	reason: string,
	who: string,
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		'INSERT INTO decision (site_id, reading_id, kind, reason, decided_by) VALUES ($1, $2, $3, $4, $5) RETURNING id',
		[siteId, readingId, kind, reason, who],
	);
	return rows[0]!.id;
}

const decisionRow = z.strictObject({
	id: z.number(),
	readingId: z.number(),
	kind: z.string(),
	reason: z.string(),
	who: z.string(),
	at: time,
});
export type DecisionRow = z.output<typeof decisionRow>;
export async function listDecisions(db: Db, siteId: number, readingIds: readonly number[]): Promise<DecisionRow[]> {
	const rows = await read(
		db,
		decisionRow,
		`SELECT id, reading_id AS "readingId", kind, reason, decided_by AS who, decided_at AS at FROM decision
		WHERE site_id = $1 AND reading_id = ANY($2) ORDER BY id`,
		[siteId, readingIds],
	);
	return rows;
}

/** The newest sample that was entered on the device of this transaction and has not been undone, by the order of entry. */
export async function lastEnteredSample(db: Db, siteId: number): Promise<JudgedReading[]> {
	const rows = await read(
		db,
		judgedReading,
		`SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND sample_id = (
			SELECT p.id FROM sample p JOIN reading r ON r.site_id = p.site_id AND r.sample_id = p.id
			JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
			WHERE p.site_id = $1 AND p.device IS NOT DISTINCT FROM nullif(current_setting('cordwain.device', true), '')::uuid AND r.source IN ('bench', 'quick') AND NOT v.superseded AND v.decision IS DISTINCT FROM 'undo'
			ORDER BY p.id DESC LIMIT 1) AND ${CURRENT} ORDER BY id`,
		[siteId],
	);
	return rows;
}

/** A number that no row has; rows stored later have later ones. */
export async function nextNumber(db: Db): Promise<number> {
	const rows = await read(db, idRow, `SELECT nextval('row_id') AS id`);
	return rows[0]!.id;
}

/** How many readings from a number on have which flag. */
export async function flagsFrom(db: Db, siteId: number, firstId: number): Promise<Record<string, number>> {
	const rows = await read(
		db,
		z.strictObject({ flag: z.number(), count: z.number() }),
		'SELECT flag, count(*)::int AS count FROM verdict WHERE site_id = $1 AND reading_id >= $2 GROUP BY flag',
		[siteId, firstId],
	);
	return Object.fromEntries(rows.map((r) => [r.flag, r.count]));
}

/** How often a person agreed with a doubt, by its cause: corrected or discarded means it was right, kept that it was not. */
export async function decisionScores(
	db: Db,
	siteId: number,
): Promise<{ cause: string; decided: number; right: number }[]> {
	const rows = await read(
		db,
		z.strictObject({ cause: z.string(), decided: z.number(), right: z.number() }),
		`SELECT v.cause, count(*)::int AS decided, count(*) FILTER (WHERE v.decision = 'discard' OR v.superseded)::int AS right
		FROM verdict v
		WHERE v.site_id = $1 AND v.flag = ANY($2) AND v.cause <> '' AND (v.decision IN ('keep', 'discard') OR v.superseded)
		GROUP BY v.cause ORDER BY count(*) DESC`,
		[siteId, DOUBTED_FLAGS],
	);
	return rows;
}
