import { canGuard } from '@/store/guard';
import { createPool, type Pool } from '@/store/pool';
import { checkRows } from '@/store/read';
import { settings } from '../../ops/settings.mjs';
import { log } from './log';

/** What is known of so many sites is kept; who was not asked for longest is forgotten, and read again when it comes back. */
const MOST_SITES = 50;
/** Connections at most: people and the like, and each site; those that rest are given back soon. */
const AT_HOME = 4;
const EACH_SITE = 10;

let home: { pool: Pool; url: string } | undefined;
/** By site, those asked for last at the end. */
const ofSites = new Map<number, Pool>();
let guarded: Promise<boolean> | undefined;

function theHome() {
	if (!home) {
		const { DATABASE_URL: url, CORDWAIN_CHECK_ROWS } = settings();
		if (!url) throw new Error('DATABASE_URL is not set; start Cordwain with npm start or npm run demo.');
		if (CORDWAIN_CHECK_ROWS) checkRows();
		home = { pool: createPool(url, { most: AT_HOME }), url };
	}
	return home;
}

/** The pool of this server for what belongs to the installation: people, sign-ins, backups, the list of sites. */
export const database = (): Pool => theHome().pool;

/** Whether the database keeps sites apart by itself: asked once. */
function isGuarded(): Promise<boolean> {
	guarded ??= canGuard(database()).then(
		(can) => {
			if (!can) log.warn('The account of the database may not make another: sites are kept apart by Cordwain alone.');
			return can;
		},
		(error) => {
			guarded = undefined;
			throw error;
		},
	);
	return guarded;
}

/** The pool whose connections work for one site and see no other. */
export async function databaseOf(siteId: number): Promise<Pool> {
	const guard = await isGuarded();
	const before = ofSites.get(siteId);
	const pool = before ?? createPool(theHome().url, { siteId, guarded: guard, most: EACH_SITE });
	ofSites.delete(siteId);
	ofSites.set(siteId, pool);
	// Whoever still works with one goes on; its connections end by themselves.
	if (ofSites.size > MOST_SITES) ofSites.delete(ofSites.keys().next().value!);
	return pool;
}

/** Lets go of all; who asks next gets new ones. */
export async function closeDatabase(): Promise<void> {
	const all = [...ofSites.values(), ...(home ? [home.pool] : [])];
	home = undefined;
	guarded = undefined;
	ofSites.clear();
	await Promise.all(all.map((pool) => pool.end()));
}
