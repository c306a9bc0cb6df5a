import { z } from 'zod';
import type { Db } from './pool';
import { json, read, time } from './read';

const row = z.strictObject({
	id: z.number(),
	at: time,
	who: z.string(),
	device: z.string().nullable(),
	what: z.string(),
	subject: z.string(),
	detail: json<Record<string, unknown>>(),
	/** What was kept of the same thing before; null where this is the first. */
	before: json<Record<string, unknown> | null>(),
});
export type AuditRow = z.output<typeof row>;

/** Changes of a site, the newest first; with what was kept of the same thing before. */
export const listAudit = (
	db: Db,
	siteId: number,
	f: {
		who?: string | undefined;
		text?: string | undefined;
		from?: number | undefined;
		to?: number | undefined;
		before?: number | undefined;
		limit: number;
	},
): Promise<AuditRow[]> =>
	read(
		db,
		row,
		`SELECT a.id, a.at, a.who, a.device, a.what, a.subject, a.detail,
			(SELECT b.detail FROM audit b WHERE b.site_id = a.site_id AND b.what = a.what AND b.subject = a.subject AND b.id < a.id ORDER BY b.id DESC LIMIT 1) AS before
		FROM audit a
		WHERE a.site_id = $1 AND ($2::text IS NULL OR lower(a.who) = lower($2))
			AND ($3::text IS NULL OR strpos(lower(a.what || ' ' || a.subject || ' ' || a.detail::text), lower($3)) > 0)
			AND ($4::timestamptz IS NULL OR a.at >= $4) AND ($5::timestamptz IS NULL OR a.at < $5) AND ($6::bigint IS NULL OR a.id < $6)
		ORDER BY a.id DESC LIMIT $7`,
		[
			siteId,
			f.who ?? null,
			f.text ?? null,
			f.from === undefined ? null : new Date(f.from),
			f.to === undefined ? null : new Date(f.to),
			f.before ?? null,
			f.limit,
		],
	);
