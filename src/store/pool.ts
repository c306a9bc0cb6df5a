import pg from 'pg';

export type Pool = pg.Pool;
export type Client = pg.PoolClient;
/** Anything that runs a query: the pool, or a client inside a transaction. */
export type Db = Pick<pg.Pool, 'query'>;

// bigint ids stay well below 2^53 here; as numbers they travel through JSON unharmed.
pg.types.setTypeParser(pg.types.builtins.INT8, (text) => Number(text));

export function createPool(connectionString: string): Pool {
	const pool = new pg.Pool({
		connectionString,
		max: 12,
		// Without it a full pool or a dead server would wait for ever.
		connectionTimeoutMillis: 4000,
		idleTimeoutMillis: 30_000,
		application_name: 'cordwain',
	});
	// A connection that dies while idle is replaced at the next query; unheard, its error would end the process.
	pool.on('error', () => {});
	return pool;
}

/** Runs `work` in one transaction: all of it or nothing. */
export async function transaction<T>(pool: Pool, work: (client: Client) => Promise<T>): Promise<T> {
	const client = await pool.connect();
	let broken: Error | undefined;
	// A connection that dies between two queries says so here; the next query then fails and the transaction with it.
	const onError = (error: Error) => {
		broken = error;
	};
	client.on('error', onError);
	try {
		await client.query('BEGIN');
		const result = await work(client);
		await client.query('COMMIT');
		return result;
	} catch (error) {
		await client.query('ROLLBACK').catch((e: Error) => {
			broken ??= e;
		});
		throw error;
	} finally {
		client.off('error', onError);
		client.release(broken);
	}
}
