import { canGuard } from '@/store/guard';
import { createPool, type Pool, poolOfSite } from '@/store/pool';
import { secondsBehind } from '@/store/replica';
import { settings } from '../../ops/settings.mjs';
import { databaseOf } from './database';
import { log } from './log';

/**
 * A copy of the database that follows it (DATABASE_READS) answers what looks at much and may be a moment behind. While it is away, or
 * further behind than this, the database itself answers.
 */
const MOST_BEHIND_S = 10;
const LOOKED_AGAIN_MS = 5000;
const PATIENCE_MS = 2000;
const CONNECTIONS = 8;
const MOST_SITES = 50;

/** Made once it answers. */
let copy: { pool: Pool; guarded: boolean } | null = null;
let isGood: boolean | null = null;
let lookedAt = 0;
const ofSites = new Map<number, Pool>();

async function look(url: string): Promise<void> {
	lookedAt = Date.now();
	const before = isGood;
	const asks = createPool(url, { most: 1, answerMs: PATIENCE_MS });
	try {
		const behind = await secondsBehind(asks);
		if (!copy) {
			const guarded = await canGuard(asks);
			copy = { pool: createPool(url, { guarded, most: CONNECTIONS }), guarded };
		}
		isGood = behind <= MOST_BEHIND_S;
		if (!isGood && before !== false) log.warn({ behind }, 'the copy that charts are drawn from is behind');
	} catch (error) {
		isGood = false;
		if (before !== false) log.warn({ error }, 'the copy that charts are drawn from does not answer');
	} finally {
		await asks.end();
	}
}

/** The pool for one site that may be a moment behind. */
export async function readsOf(siteId: number): Promise<Pool> {
	const { DATABASE_READS: url } = settings();
	if (!url) return databaseOf(siteId);
	// Only the first waits for what is found; others go by what was found last.
	if (isGood === null) await look(url);
	else if (Date.now() - lookedAt > LOOKED_AGAIN_MS) void look(url);
	if (!isGood || !copy) return databaseOf(siteId);
	const own = ofSites.get(siteId) ?? poolOfSite(copy.pool, siteId, copy.guarded);
	ofSites.delete(siteId);
	ofSites.set(siteId, own);
	if (ofSites.size > MOST_SITES) ofSites.delete(ofSites.keys().next().value!);
	return own;
}
