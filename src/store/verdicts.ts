import { z } from 'zod';
import type { FindingSaid } from '@/core/judge/said';
import { ENGINE_VERSION, type Verdict } from '@/core/reading/model';
import type { Db } from './pool';
import { json, read } from './read';

/** A verdict as it is stored, without what was made of the reading since. */
const storedVerdict = z.strictObject({
	flag: z.number(),
	check: z.string(),
	cause: z.string(),
	suggested: z.number().nullable(),
	u: z.number(),
	said: json<FindingSaid>().nullable(),
	evidence: z.record(z.string(), z.union([z.number(), z.string()])).nullable(),
	expected: z.number().nullable(),
});
export type StoredVerdict = z.output<typeof storedVerdict>;

export async function storedVerdicts(
	db: Db,
	siteId: number,
	ids: readonly number[],
): Promise<Map<number, StoredVerdict>> {
	const rows = await read(
		db,
		storedVerdict.extend(z.strictObject({ id: z.number() }).shape),
		`SELECT reading_id AS id, flag, check_code AS check, cause, suggested, u, said, evidence, expected
		FROM verdict WHERE site_id = $1 AND reading_id = ANY($2)`,
		[siteId, ids],
	);
	return new Map(rows.map(({ id, ...v }) => [id, v]));
}

/** Stores verdicts that are new or have changed. */
export async function putVerdicts(
	db: Db,
	siteId: number,
	verdicts: readonly { id: number; verdict: Verdict }[],
): Promise<void> {
	for (let i = 0; i < verdicts.length; i += 2000)
		await db.query(
			`INSERT INTO verdict (site_id, reading_id, engine, flag, check_code, cause, suggested, u, said, evidence, expected)
			SELECT $1, x.id, $2, x.flag, x.check_code, x.cause, x.suggested, x.u, nullif(x.said, 'null'::jsonb), x.evidence, x.expected
			FROM jsonb_to_recordset($3) AS x(id bigint, flag smallint, check_code text, cause text, suggested double precision, u double precision,
				said jsonb, evidence jsonb, expected double precision)
			ON CONFLICT (site_id, reading_id) DO UPDATE SET engine = EXCLUDED.engine, flag = EXCLUDED.flag, check_code = EXCLUDED.check_code,
				cause = EXCLUDED.cause, suggested = EXCLUDED.suggested, u = EXCLUDED.u, said = EXCLUDED.said,
				evidence = EXCLUDED.evidence, expected = EXCLUDED.expected`,
			[
				siteId,
				ENGINE_VERSION,
				JSON.stringify(
					verdicts.slice(i, i + 2000).map(({ id, verdict: v }) => ({
						id,
						flag: v.flag,
						check_code: v.deciding?.check ?? '',
						cause: v.deciding?.cause ?? '',
						suggested: v.deciding?.suggested ?? null,
						u: v.u,
						said: v.deciding?.said ?? null,
						evidence: v.deciding?.evidence ?? null,
						expected: v.expected?.value ?? null,
					})),
				),
			],
		);
}

/** Says of the stored readings of a series from a time on, and before another, what has become sure of them since. */
export async function amendStored(
	db: Db,
	siteId: number,
	series: { station: string; instrument: string; quantity: string; from: number; before: number },
	by: Verdict,
	openCauses: readonly string[],
): Promise<void> {
	const d = by.deciding;
	if (!d) return;
	await db.query(
		`UPDATE verdict v SET flag = $7, check_code = $8, cause = $9, suggested = $10, said = $11, evidence = $12
		FROM reading r JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
		LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
		WHERE r.site_id = $1 AND s.code = $2 AND coalesce(i.code, '') = $3 AND r.quantity = $4 AND r.at >= $5 AND r.at < $6
			AND v.site_id = r.site_id AND v.reading_id = r.id AND (v.cause = '' OR v.cause = ANY($13))`,
		[
			siteId,
			series.station,
			series.instrument,
			series.quantity,
			new Date(series.from),
			new Date(series.before),
			by.flag,
			d.check,
			d.cause,
			d.suggested,
			d.said,
			d.evidence,
			openCauses,
		],
	);
}
