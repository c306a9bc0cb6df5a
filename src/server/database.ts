import { createPool, type Pool } from '@/store/pool';
import { checkRows } from '@/store/read';
import { settings } from '../../ops/settings.mjs';

let pool: Pool | undefined;

/** The one pool of this server process. */
export function database(): Pool {
	if (!pool) {
		const { DATABASE_URL: url, CORDWAIN_CHECK_ROWS } = settings();
		if (!url) throw new Error('DATABASE_URL is not set; start Cordwain with npm start or npm run demo.');
		if (CORDWAIN_CHECK_ROWS) checkRows();
		pool = createPool(url);
	}
	return pool;
}

/** Lets go of it; who asks next gets a new one. */
export async function closeDatabase(): Promise<void> {
	const before = pool;
	pool = undefined;
	await before?.end();
}
