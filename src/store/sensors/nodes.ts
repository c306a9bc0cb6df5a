import { z } from 'zod';
import { QUANTITIES, type Quantity, type SeriesQuantity } from '@/core/quantity';
import type { Client, Db } from '../pool';
import { idRow, read, time } from '../read';

/** A node: where it stands, what it tells, and whether it may. */
const nodeRow = z.strictObject({
	id: z.number(),
	code: z.string(),
	name: z.string(),
	station: z.string(),
	stationId: z.number(),
	instrument: z.string(),
	instrumentId: z.number(),
	quantities: z.array(z.enum(QUANTITIES)),
	tokenMadeAt: time.nullable(),
	keepDays: z.number().nullable(),
	heardAt: time.nullable(),
	retired: z.boolean(),
});
export type NodeRow = z.output<typeof nodeRow>;

const NODE = `n.id, n.code, n.name, s.code AS station, n.station_id AS "stationId", i.code AS instrument, n.instrument_id AS "instrumentId",
	n.quantities, n.token_made_at AS "tokenMadeAt", n.keep_days AS "keepDays", n.heard_at AS "heardAt", n.retired_at IS NOT NULL AS retired
	FROM node n JOIN station s ON s.site_id = n.site_id AND s.id = n.station_id JOIN instrument i ON i.site_id = n.site_id AND i.id = n.instrument_id`;

/** Its site takes what it sends. */
const OPEN = 'EXISTS (SELECT 1 FROM site o WHERE o.id = n.site_id AND o.closed_at IS NULL)';

export const listNodes = (db: Db, siteId: number): Promise<NodeRow[]> =>
	read(db, nodeRow, `SELECT ${NODE} WHERE n.site_id = $1 ORDER BY n.code`, [siteId]);

export async function findNode(db: Db, siteId: number, code: string): Promise<NodeRow | null> {
	const rows = await read(db, nodeRow, `SELECT ${NODE} WHERE n.site_id = $1 AND n.code = $2`, [siteId, code]);
	return rows[0] ?? null;
}

/** The node that a token belongs to, with its site; null where it is of none, or was revoked. */
export async function nodeByToken(db: Db, sha256: Buffer): Promise<(NodeRow & { siteId: number }) | null> {
	const rows = await read(
		db,
		nodeRow.extend({ siteId: z.number() }),
		`SELECT n.site_id AS "siteId", ${NODE} WHERE n.token_sha256 = $1 AND n.retired_at IS NULL AND ${OPEN}`,
		[sha256],
	);
	return rows[0] ?? null;
}

/** Nodes with a code that are used, of one site or of all, with their sites. */
export const nodesNamed = (db: Db, code: string, siteId: number | null): Promise<(NodeRow & { siteId: number })[]> =>
	read(
		db,
		nodeRow.extend({ siteId: z.number() }),
		`SELECT n.site_id AS "siteId", ${NODE} WHERE n.code = $1 AND ($2::integer IS NULL OR n.site_id = $2) AND n.retired_at IS NULL AND ${OPEN} ORDER BY n.site_id LIMIT 2`,
		[code, siteId],
	);

export interface NewNode {
	code: string;
	name: string;
	stationId: number;
	instrumentId: number;
	quantities: readonly Quantity[];
	keepDays: number | null;
	retired: boolean;
}

/** Makes a node or brings the one with this code to the given state. */
export async function putNode(db: Db, siteId: number, n: NewNode): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO node (site_id, code, name, station_id, instrument_id, quantities, keep_days, retired_at)
		VALUES ($1, $2, $3, $4, $5, $6, $7, CASE WHEN $8::boolean THEN now() END)
		ON CONFLICT (site_id, code) DO UPDATE SET name = EXCLUDED.name, station_id = EXCLUDED.station_id, quantities = EXCLUDED.quantities,
			keep_days = EXCLUDED.keep_days,
			retired_at = CASE WHEN EXCLUDED.retired_at IS NOT NULL THEN coalesce(node.retired_at, EXCLUDED.retired_at) END
		RETURNING id`,
		[siteId, n.code, n.name, n.stationId, n.instrumentId, n.quantities, n.keepDays, n.retired],
	);
	return rows[0]!.id;
}

/** @param sha256 of the new token; null revokes what there was */
export async function setToken(db: Db, siteId: number, id: number, sha256: Buffer | null): Promise<void> {
	await db.query(
		'UPDATE node SET token_sha256 = $3, token_made_at = CASE WHEN $3::bytea IS NULL THEN NULL ELSE now() END WHERE site_id = $1 AND id = $2',
		[siteId, id, sha256],
	);
}

/**
 * Waits for whoever stores for this node, and keeps others waiting until the end of the transaction.
 * @param heard when it was heard; null where it is not the node itself that is stored for
 */
export async function holdNode(db: Client, siteId: number, id: number, heard: number | null): Promise<void> {
	await db.query(
		'UPDATE node SET heard_at = CASE WHEN $3::timestamptz IS NULL THEN heard_at ELSE greatest(heard_at, $3) END WHERE site_id = $1 AND id = $2',
		[siteId, id, heard === null ? null : new Date(heard)],
	);
}

/** One series of one probe. */
const seriesRow = z.strictObject({
	id: z.number(),
	nodeId: z.number(),
	node: z.string(),
	station: z.string(),
	stationId: z.number(),
	instrument: z.string(),
	instrumentId: z.number(),
	quantity: z.enum(QUANTITIES).transform((q) => q as SeriesQuantity),
	newestAt: time.nullable(),
	usualMs: z.number(),
	rawFrom: time,
});
export type SensorSeries = z.output<typeof seriesRow>;
const SERIES = `x.id, x.node_id AS "nodeId", n.code AS node, s.code AS station, x.station_id AS "stationId", i.code AS instrument, x.instrument_id AS "instrumentId",
	x.quantity, x.newest_at AS "newestAt", x.usual_ms AS "usualMs", x.raw_from AS "rawFrom"
	FROM series x JOIN node n ON n.site_id = x.site_id AND n.id = x.node_id JOIN station s ON s.site_id = x.site_id AND s.id = x.station_id
		JOIN instrument i ON i.site_id = x.site_id AND i.id = x.instrument_id`;

const bareSeries = seriesRow.omit({ node: true, station: true, instrument: true });
/** The series of one station, without the names that whoever draws them knows: a chart asks for it each time. */
export const seriesAt = (db: Db, siteId: number, stationId: number) =>
	read(
		db,
		bareSeries,
		`SELECT id, node_id AS "nodeId", station_id AS "stationId", instrument_id AS "instrumentId", quantity, newest_at AS "newestAt", usual_ms AS "usualMs",
			raw_from AS "rawFrom" FROM series WHERE site_id = $1 AND station_id = $2 ORDER BY id`,
		[siteId, stationId],
	);

/** Every series of a site, or of some of its stations or one node. */
export const listSeries = (
	db: Db,
	siteId: number,
	of: { stationIds?: readonly number[]; nodeId?: number; instrumentIds?: readonly number[] } = {},
): Promise<SensorSeries[]> =>
	read(
		db,
		seriesRow,
		`SELECT ${SERIES} WHERE x.site_id = $1 AND ($2::bigint[] IS NULL OR x.station_id = ANY($2)) AND ($3::bigint IS NULL OR x.node_id = $3)
			AND ($4::bigint[] IS NULL OR x.instrument_id = ANY($4)) ORDER BY s.position, i.code, x.quantity`,
		[siteId, of.stationIds ?? null, of.nodeId ?? null, of.instrumentIds ?? null],
	);

export async function makeSeries(
	db: Db,
	siteId: number,
	s: { nodeId: number; stationId: number; instrumentId: number; quantity: SeriesQuantity },
): Promise<void> {
	await db.query(
		`INSERT INTO series (site_id, node_id, station_id, instrument_id, quantity) VALUES ($1, $2, $3, $4, $5)
		ON CONFLICT (site_id, station_id, instrument_id, quantity) DO NOTHING`,
		[siteId, s.nodeId, s.stationId, s.instrumentId, s.quantity],
	);
}

/** What is known of series by their newest samples. */
export async function updateSeries(
	db: Db,
	siteId: number,
	all: readonly { id: number; newestAt: number; usualMs: number }[],
): Promise<void> {
	await db.query(
		`UPDATE series x SET newest_at = greatest(x.newest_at, n.at), usual_ms = n.usual
		FROM unnest($2::int[], $3::timestamptz[], $4::float8[]) AS n(id, at, usual) WHERE x.site_id = $1 AND x.id = n.id`,
		[siteId, all.map((s) => s.id), all.map((s) => new Date(s.newestAt)), all.map((s) => s.usualMs)],
	);
}
