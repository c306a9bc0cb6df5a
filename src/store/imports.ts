import { z } from 'zod';
import type { SheetMapping } from '@/core/reading/sheet';
import type { Db } from './pool';
import { json, read, time } from './read';

const mappingRow = z.strictObject({ name: z.string(), mapping: json<SheetMapping>() });

/** What is known of a grower's own sheets, the newest first. */
export const listMappings = (db: Db, siteId: number) =>
	read(db, mappingRow, 'SELECT name, mapping FROM sheet_mapping WHERE site_id = $1 ORDER BY changed_at DESC, name', [
		siteId,
	]);

export async function putMapping(db: Db, siteId: number, name: string, mapping: SheetMapping): Promise<void> {
	await db.query(
		'INSERT INTO sheet_mapping (site_id, name, mapping) VALUES ($1, $2, $3) ON CONFLICT (site_id, name) DO UPDATE SET mapping = EXCLUDED.mapping, changed_at = now()',
		[siteId, name, mapping],
	);
}

const importRow = z.strictObject({
	key: z.string(),
	at: time,
	who: z.string(),
	readings: z.number(),
	from: time,
	to: time,
	/** How many of them still stand. */
	standing: z.number(),
});
/** Files of readings that were brought in, the newest first, by the name of the request that brought each. */
export const listImports = (db: Db, siteId: number, limit: number) =>
	read(
		db,
		importRow,
		`SELECT s.key, min(r.entered_at) AS at, min(r.entered_by) AS who, count(*)::int AS readings, min(r.at) AS "from", max(r.at) AS "to",
			count(*) FILTER (WHERE r.decision IS DISTINCT FROM 'undo')::int AS standing
		FROM reading_standing r JOIN sample s ON s.site_id = r.site_id AND s.id = r.sample_id
		WHERE r.site_id = $1 AND r.source = 'import' AND s.key IS NOT NULL
		GROUP BY s.key ORDER BY min(r.entered_at) DESC LIMIT $2`,
		[siteId, limit],
	);

/** Takes back every reading of a file that still stands. @returns how many, and the first time of them */
export async function undoImported(
	db: Db,
	siteId: number,
	key: string,
	who: string,
): Promise<{ readings: number; from: number | null }> {
	const rows = await read(
		db,
		z.strictObject({ readings: z.number(), from: time.nullable() }),
		`WITH own AS (
			SELECT r.id, r.at FROM reading_standing r JOIN sample s ON s.site_id = r.site_id AND s.id = r.sample_id
			WHERE r.site_id = $1 AND s.key = $2 AND r.source = 'import' AND r.decision IS DISTINCT FROM 'undo'
		), taken AS (
			INSERT INTO decision (site_id, reading_id, kind, reason, decided_by) SELECT $1, id, 'undo', '', $3 FROM own RETURNING reading_id
		)
		SELECT (SELECT count(*)::int FROM taken) AS readings, (SELECT min(at) FROM own) AS "from"`,
		[siteId, key, who],
	);
	return rows[0]!;
}
