import { z } from 'zod';
import { ENGINE_VERSION } from '@/core/reading/model';
import { EC_UNITS, VOLUME_UNITS } from '@/core/reading/site-view';
import { tablesOfSites } from './archive/catalog';
import { type Client, type Db, patiently } from './pool';
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
	latitude: z.number().nullish(),
	longitude: z.number().nullish(),
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
	/** Taken out of here: nobody comes to it any more. */
	closed: z.boolean(),
});
export type StoredSite = z.output<typeof storedSite>;
const SITE =
	'id, name, timezone, units, settings, sample, line_version AS "lineVersion", probe_version AS "probeVersion", (SELECT memory_version FROM judging j WHERE j.site_id = site.id) AS "memoryVersion", EXISTS (SELECT 1 FROM stream_due d WHERE d.site_id = site.id) AS "streamsDue", closed_at IS NOT NULL AS closed';

/** The site that a connection works for; null where it was not made yet, or it works for none. */
export async function findSite(db: Db): Promise<StoredSite | null> {
	const rows = await read(db, storedSite, `SELECT ${SITE} FROM site WHERE id = site_here()`);
	return rows[0] ?? null;
}

/** Has a transaction work for a site from here on. */
export async function workFor(client: Client, siteId: number): Promise<void> {
	await client.query("SELECT set_config('cordwain.site', $1, true)", [String(siteId)]);
}

/**
 * Has a transaction work for the first site, where it works for none: whoever makes one while another is made finds that.
 * @returns null where there is none at all
 */
export async function workForFirst(client: Client): Promise<StoredSite | null> {
	await client.query("SELECT set_config('cordwain.site', (SELECT min(id)::text FROM site), true)");
	return findSite(client);
}

/** The sites of an installation, by their numbers. */
export const listSites = (db: Db) =>
	read(
		db,
		z.strictObject({ id: z.number(), name: z.string(), timezone: z.string(), closed: z.boolean() }),
		'SELECT id, name, timezone, closed_at IS NOT NULL AS closed FROM site ORDER BY id',
	);

export async function insertSite(client: Client, site: Omit<SiteRow, 'id'>): Promise<StoredSite> {
	const rows = await read(
		client,
		idRow,
		'INSERT INTO site (name, timezone, units, settings) VALUES ($1, $2, $3, $4) RETURNING id',
		[site.name, site.timezone, site.units, site.settings],
	);
	// From here the transaction works for it.
	await workFor(client, rows[0]!.id);
	await client.query('INSERT INTO judging (site_id, engine) VALUES ($1, $2)', [rows[0]!.id, ENGINE_VERSION]);
	return (await findSite(client))!;
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

/** What is done for a site without being asked, and where something of it waits: of many sites most have nothing. */
const WAITS = {
	watch: 'SELECT site_id FROM watch_condition',
	retention: 'SELECT site_id FROM node WHERE keep_days IS NOT NULL',
	judging: `SELECT site_id FROM judging WHERE due_from IS NOT NULL OR engine <> ${ENGINE_VERSION} UNION SELECT site_id FROM stream_due`,
} as const;
export const sitesThatWait = async (db: Db, of: keyof typeof WAITS): Promise<number[]> =>
	(await read(db, idRow, `SELECT id FROM site WHERE closed_at IS NULL AND id IN (${WAITS[of]}) ORDER BY id`)).map(
		(r) => r.id,
	);

/** Closes a site, or opens it again. Whoever writes has to be waited for first (lockSite; the nodes of the site). */
export async function setClosed(client: Client, siteId: number, closed: boolean): Promise<void> {
	await client.query('SELECT 1 FROM node WHERE site_id = $1 ORDER BY id FOR UPDATE', [siteId]);
	await client.query('UPDATE site SET closed_at = CASE WHEN $2::boolean THEN now() END WHERE id = $1', [
		siteId,
		closed,
	]);
}

/** Marks the site as invented: it may be thrown away. */
export async function markSample(db: Db, siteId: number): Promise<void> {
	await db.query('UPDATE site SET sample = true WHERE id = $1', [siteId]);
}

/** Throws away everything of a sample, and leaves an empty site under the same number; who may come to it stays. */
export async function emptySite(client: Client, site: SiteRow): Promise<void> {
	await client.query(
		"SELECT set_config('cordwain.throws_away', 'on', true), set_config('cordwain.retention', 'on', true)",
	);
	// Those last that others name rows of.
	for (const name of (await tablesOfSites(client)).reverse())
		await client.query(patiently(`DELETE FROM "${name}" WHERE site_id = $1`, [site.id]));
	await client.query("SELECT set_config('cordwain.throws_away', '', true), set_config('cordwain.retention', '', true)");
	await updateSite(client, site);
	await client.query('UPDATE site SET sample = false WHERE id = $1', [site.id]);
	await client.query('INSERT INTO judging (site_id, engine) VALUES ($1, $2)', [site.id, ENGINE_VERSION]);
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
