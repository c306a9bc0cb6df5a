import { canGuard } from '@/store/guard';
import { createPool, type Pool, poolOfSite } from '@/store/pool';
import { checkRows } from '@/store/read';
import { settings } from '../../ops/settings.mjs';
import { log } from './log';

/** What is known of so many sites is kept; who was not asked for longest is forgotten, and read again when it comes back. */
const MOST_SITES = 50;
/** Connections at most: of people and the like, and of all sites together. */
const AT_HOME = 4;
const OF_SITES = 16;

let home: { pool: Pool; url: string } | undefined;
/** Whose connections all sites share. */
let shared: { pool: Pool; guarded: boolean } | undefined;
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
	shared ??= { pool: createPool(theHome().url, { guarded: guard, most: OF_SITES }), guarded: guard };
	const pool = ofSites.get(siteId) ?? poolOfSite(shared.pool, siteId, shared.guarded);
	ofSites.delete(siteId);
	ofSites.set(siteId, pool);
	// Whoever still works with one goes on.
	if (ofSites.size > MOST_SITES) ofSites.delete(ofSites.keys().next().value!);
	return pool;
}

/** Lets go of all; who asks next gets new ones. */
export async function closeDatabase(): Promise<void> {
	const all = [home?.pool, shared?.pool];
	home = undefined;
	shared = undefined;
	guarded = undefined;
	ofSites.clear();
	await Promise.all(all.map((pool) => pool?.end()));
}
