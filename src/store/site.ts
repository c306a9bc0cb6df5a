import { z } from 'zod';
import { ENGINE_VERSION } from '@/core/reading/model';
import { EC_UNITS, VOLUME_UNITS } from '@/core/reading/site-view';
import type { Db } from './pool';
import { idRow, read } from './read';

/** What values are shown in; what is absent is as usual. */
const siteUnits = z.strictObject({
	ec: z.enum(EC_UNITS).optional(),
	temp: z.enum(['C', 'F']).optional(),
	volume: z.enum(VOLUME_UNITS).optional(),
});

/** How the grower wants the bench to be; what is absent is as usual. */
const siteSettings = z.strictObject({
	waits: z.strictObject({ ph: z.number(), phLowMineral: z.number(), ec: z.number() }).optional(),
	sensitivity: z.enum(['calm', 'usual', 'keen']).optional(),
	altitudeM: z.number().optional(),
});

const siteRow = z.strictObject({
	id: z.number(),
	name: z.string(),
	timezone: z.string(),
	units: siteUnits,
	settings: siteSettings,
});
export type SiteRow = z.output<typeof siteRow>;
/** The site as it is stored, and the versions of its line and of its probes: new ones whenever something of them was changed. */
const storedSite = siteRow.extend({
	lineVersion: z.number(),
	probeVersion: z.number(),
	/** Of what the checks remember, and of the events they go by. */
	memoryVersion: z.number(),
	/** Invented, to look at and to throw away. */
	sample: z.boolean(),
	/** Something was written of the past of a station with sensors: their streams are to be judged again. */
	streamsDue: z.boolean(),
});
export type StoredSite = z.output<typeof storedSite>;
const SITE =
	'id, name, timezone, units, settings, sample, line_version AS "lineVersion", probe_version AS "probeVersion", (SELECT memory_version FROM judging j WHERE j.site_id = site.id) AS "memoryVersion", EXISTS (SELECT 1 FROM stream_due d WHERE d.site_id = site.id) AS "streamsDue"';

/** The site that this installation serves; null before setup. */
export async function findSite(db: Db): Promise<StoredSite | null> {
	const rows = await read(db, storedSite, `SELECT ${SITE} FROM site ORDER BY id LIMIT 1`);
	return rows[0] ?? null;
}

export async function insertSite(db: Db, site: Omit<SiteRow, 'id'>): Promise<StoredSite> {
	const rows = await read(
		db,
		idRow,
		'INSERT INTO site (name, timezone, units, settings) VALUES ($1, $2, $3, $4) RETURNING id',
		[site.name, site.timezone, site.units, site.settings],
	);
	await db.query('INSERT INTO judging (site_id, engine) VALUES ($1, $2)', [rows[0]!.id, ENGINE_VERSION]);
	return (await findSite(db))!;
}

export async function updateSite(db: Db, site: SiteRow): Promise<void> {
	await db.query('UPDATE site SET name = $2, timezone = $3, units = $4, settings = $5 WHERE id = $1', [
		site.id,
		site.name,
		site.timezone,
		site.units,
		site.settings,
	]);
}

/** Marks the site as invented: it may be thrown away. */
export async function markSample(db: Db, siteId: number): Promise<void> {
	await db.query('UPDATE site SET sample = true WHERE id = $1', [siteId]);
}

/** Throws away everything there is, and leaves an empty site under the same number. */
export async function emptySite(db: Db, site: SiteRow): Promise<void> {
	// What nodes have sent names its site without a key: looking one up for each sample would cost more than storing it.
	await db.query('TRUNCATE site, sensor_sample, rollup CASCADE');
	await db.query(
		'INSERT INTO site (id, name, timezone, units, settings) OVERRIDING SYSTEM VALUE VALUES ($1, $2, $3, $4, $5)',
		[site.id, site.name, site.timezone, site.units, site.settings],
	);
	await db.query('INSERT INTO judging (site_id, engine) VALUES ($1, $2)', [site.id, ENGINE_VERSION]);
}

export async function databaseAnswers(db: Db): Promise<void> {
	await db.query('SELECT 1');
}

export async function insertAudit(
	db: Db,
	siteId: number,
	who: string,
	what: string,
	subject: string,
	detail: object,
): Promise<void> {
	await db.query('INSERT INTO audit (site_id, who, what, subject, detail) VALUES ($1, $2, $3, $4, $5)', [
		siteId,
		who,
		what,
		subject,
		detail,
	]);
}
