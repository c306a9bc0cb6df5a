import pg from 'pg';

export type Pool = pg.Pool;
export type Client = pg.PoolClient;
/** Anything that runs a query: the pool, or a client inside a transaction. */
export type Db = Pick<pg.Pool, 'query'>;

// bigint ids stay well below 2^53 here; as numbers they travel through JSON unharmed.
pg.types.setTypeParser(pg.types.builtins.INT8, (text) => Number(text));
// Times are milliseconds everywhere in the code; the beginning and the end of time are infinite.
const asDate: (text: string) => Date | number = pg.types.getTypeParser(pg.types.builtins.TIMESTAMPTZ);
// As databases in UTC write them they are read by the engine itself, in a third of the time.
const PLAIN_TIME = /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d(\.\d+)?\+00$/;
const timeFromText = (text: string): number =>
	PLAIN_TIME.test(text) ? Date.parse(`${text.slice(0, 10)}T${text.slice(11, -3)}Z`) : Number(asDate(text));
pg.types.setTypeParser(pg.types.builtins.TIMESTAMPTZ, timeFromText);

/** A database that hangs must not hang whoever asks: longer than this no statement of ours takes but where it waits for its turn. */
const ANSWER_MS = 20_000;
/** Changing all tables of a large book takes as long as it takes. */
export const PATIENT = { answerMs: 0 };

const LONG_MS = 30 * 60_000;
/** A statement that goes through much, or waits for its turn, and is waited for. */
export const patiently = (text: string, values: unknown[] = []): pg.QueryConfig =>
	({ text, values, query_timeout: LONG_MS }) as pg.QueryConfig;

interface PoolOptions {
	answerMs?: number;
	/** The one site that its connections work for. */
	siteId?: number;
	/** They work under the account to which other sites are not there (store/guard). */
	guarded?: boolean;
	/** Connections at most. */
	most?: number;
}

/** The account without tables of its own that connections of a site work under: policies of rows hold for it (migration 026). */
export const SITE_ROLE = 'cordwain_site';
/** Pools whose connections work under it, and for which site. */
const guards = new WeakMap<object, number>();

/** @param url of the database; without a site it is for what belongs to the installation: people, backups, the list of sites */
export function createPool(
	url: string,
	{ answerMs = ANSWER_MS, siteId, guarded = false, most = 12 }: PoolOptions = {},
): Pool {
	const options = [
		...(siteId === undefined ? [] : [`-c cordwain.site=${siteId}`]),
		...(guarded ? [`-c role=${SITE_ROLE}`] : []),
	];
	const pool = new pg.Pool({
		connectionString: url,
		max: most,
		...(options.length > 0 ? { options: options.join(' ') } : {}),
		// Without it a full pool or a dead server would wait for ever.
		connectionTimeoutMillis: 4000,
		idleTimeoutMillis: 30_000,
		...(answerMs > 0 ? { query_timeout: answerMs } : {}),
		application_name: 'cordwain',
	});
	// A connection that dies while idle is replaced at the next query; unheard, its error would end the process.
	pool.on('error', () => {});
	if (guarded && siteId !== undefined) guards.set(pool, siteId);
	return pool;
}

/** The site that a connection of a shared pool was told last to work for. */
const worksFor = new WeakMap<Client, number>();

/** Lends connections of one pool, each told which site it works for before it is handed out: a site costs no connection of its own. */
class SitePool extends pg.Pool {
	constructor(
		private readonly shared: Pool,
		private readonly siteId: number,
	) {
		super({ max: 1 });
	}
	private async lend(): Promise<Client> {
		const client = await this.shared.connect();
		if (worksFor.get(client) === this.siteId) return client;
		worksFor.delete(client);
		try {
			await client.query("SELECT set_config('cordwain.site', $1, false)", [String(this.siteId)]);
		} catch (error) {
			client.release(error as Error);
			throw error;
		}
		worksFor.set(client, this.siteId);
		return client;
	}
	override connect = (() => this.lend()) as pg.Pool['connect'];
	override query = (async (text: string, values?: unknown[]) => {
		const client = await this.lend();
		let broken: Error | undefined;
		const onError = (error: Error) => {
			broken = error;
		};
		client.on('error', onError);
		try {
			return await client.query(text, values);
		} finally {
			client.off('error', onError);
			client.release(broken);
		}
	}) as pg.Pool['query'];
	/** What is shared is ended by whoever made it. */
	override end = (async () => {}) as pg.Pool['end'];
}

/** A pool for one site out of one that is shared by all. @param guarded what is shared works under the account of sites */
export function poolOfSite(shared: Pool, siteId: number, guarded: boolean): Pool {
	const pool = new SitePool(shared, siteId);
	if (guarded) guards.set(pool, siteId);
	return pool;
}

export const isPool = (db: Db): db is Pool => db instanceof pg.Pool;

/** Asks for things that do not wait for one another: at once of a pool, one after the other where there is one connection. */
export async function atOnce<const T extends readonly (() => Promise<unknown>)[]>(
	db: Db,
	questions: T,
): Promise<{ -readonly [K in keyof T]: Awaited<ReturnType<T[K]>> }> {
	const answers: unknown[] = [];
	if (isPool(db)) answers.push(...(await Promise.all(questions.map((ask) => ask()))));
	else for (const ask of questions) answers.push(await ask());
	return answers as { -readonly [K in keyof T]: Awaited<ReturnType<T[K]>> };
}
/** Where a client comes from. */
const homes = new WeakMap<object, Pool>();
/** The pool behind a connection, or the pool itself: what is kept of one database is not of another. */
export const homeOf = (db: Db): object => homes.get(db) ?? db;

/** The one site whose rows a guarded connection may touch; undefined where nothing guards it. */
export const guardedSite = (db: Db): number | undefined => guards.get(homeOf(db));

/**
 * Does what only the owner of the tables may (COPY into a table with policies, ANALYZE), within a transaction. Whoever uses it answers
 * for the site of every row.
 */
export async function asOwner<T>(client: Client, work: () => Promise<T>): Promise<T> {
	if (guardedSite(client) === undefined) return work();
	await client.query('SET LOCAL ROLE NONE');
	const result = await work();
	// Where it fails the transaction does, and the role with it.
	await client.query(`SET LOCAL ROLE ${SITE_ROLE}`);
	return result;
}

/** What is to be done once a transaction has been committed, by its connection. */
const commits = new WeakMap<object, (() => void)[]>();
/** Names a transaction among all that its connection runs; outside one it is the pool. */
export const placeOf = (db: Db): object => commits.get(db) ?? homeOf(db);
/** Does something once what was stored is there for everybody, and not at all where it was taken back; outside a transaction at once. */
export function afterCommit(db: Db, then: () => void): void {
	const list = commits.get(db);
	if (list) list.push(then);
	else then();
}

/**
 * Runs `work` in one transaction: all of it or nothing. Inside a transaction it is a part of that one, which then stands or
 * falls as a whole.
 */
export async function transaction<T>(db: Db, work: (client: Client) => Promise<T>): Promise<T> {
	if (!isPool(db)) return work(db as Client);
	const client = await db.connect();
	homes.set(client, db);
	const atCommit: (() => void)[] = [];
	commits.set(client, atCommit);
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
		for (const then of atCommit) then();
		return result;
	} catch (error) {
		await client.query('ROLLBACK').catch((e: Error) => {
			broken ??= e;
		});
		throw error;
	} finally {
		client.off('error', onError);
		commits.delete(client);
		client.release(broken);
	}
}

/** What part of a transaction comes to: kept, or taken back with everything before it left as it is. */
export async function undoably<T>(client: Client, work: () => Promise<{ keep: boolean; result: T }>): Promise<T> {
	await client.query('SAVEPOINT undoable');
	const atCommit = commits.get(client);
	const before = atCommit?.length;
	const { keep, result } = await work();
	if (!keep && atCommit) atCommit.length = before!;
	await client.query(keep ? 'RELEASE SAVEPOINT undoable' : 'ROLLBACK TO SAVEPOINT undoable');
	return result;
}
