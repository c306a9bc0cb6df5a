import { join } from 'node:path';
import Postgrator from 'postgrator';
import { builtServer } from './built-server';
import { isLent, lendToSites } from './guard';
import { type Pool, transaction } from './pool';

/** Any number, the same for every Cordwain: two that start at once take turns. */
const LOCK = 7_141_001;

const MIGRATIONS = join(builtServer(import.meta.dirname) ?? import.meta.dirname, 'migrations');

/**
 * Brings the database to the newest migration, all steps in one transaction.
 * A migration that was applied and has since been edited is refused: write a new one instead.
 */
export async function migrate(pool: Pool, directory = MIGRATIONS): Promise<number> {
	return transaction(pool, async (client) => {
		await client.query('SELECT pg_advisory_xact_lock($1)', [LOCK]);
		const postgrator = new Postgrator({
			migrationPattern: join(directory, '*.sql'),
			driver: 'pg',
			schemaTable: 'schema_version',
			validateChecksums: true,
			execQuery: (query) => client.query(query),
		});
		const [newest, here] = [await postgrator.getMaxVersion(), await postgrator.getDatabaseVersion()];
		if (here > newest)
			throw new Error(
				`This database was last used by a newer Cordwain (its tables are at ${here}, this one knows ${newest}). Start the newer one, or restore what was saved before.`,
			);
		try {
			const done = (await postgrator.migrate()).length;
			if (done > 0 || !(await isLent(client))) await lendToSites(client);
			return done;
		} catch (error) {
			const message = error instanceof Error ? error.message : String(error);
			if (/checksum|md5/i.test(message))
				throw new Error(
					`A migration that this database already has was changed since (${message}). Restore the file and write a new migration instead.`,
				);
			throw error;
		}
	});
}
