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

const CONNECTION_CODES = new Set([
	'ECONNREFUSED',
	'ECONNRESET',
	'ENOTFOUND',
	'EPIPE',
	'ETIMEDOUT',
	'57P01',
	'57P02',
	'57P03',
	'08000',
	'08003',
	'08006',
	'53300',
]);

/** Whether an error means that the database cannot be reached, rather than that it refused something. */
export function isDatabaseDown(error: unknown): boolean {
	if (!(error instanceof Error)) return false;
	const code = (error as NodeJS.ErrnoException).code;
	if (code !== undefined && CONNECTION_CODES.has(code)) return true;
	if (error instanceof AggregateError) return error.errors.some(isDatabaseDown);
	return /Connection terminated|Query read timeout|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
		error.message,
	);
}
