// npm run restore -- FILE.zip: brings an archive back into an empty installation.
import { statSync } from 'node:fs';
import { restoreArchive } from '@/service/archive/restore';
import { Refusal } from '@/service/refusal';
import { migrate } from '@/store/migrate';
import { createPool, PATIENT } from '@/store/pool';
import { settings } from './settings.mjs';

const path = process.argv[2];
const fail = (text: string): never => {
	process.stderr.write(`${text}\n`);
	process.exit(2);
};
if (!path || process.argv.length > 3) fail('Usage: npm run restore -- FILE.zip');
if (!statSync(path!, { throwIfNoEntry: false })?.isFile()) fail(`There is no file ${path}.`);
const pool = createPool(settings().DATABASE_URL!, PATIENT);
try {
	await migrate(pool);
	const { sites, tables, rows } = await restoreArchive(pool, path!);
	process.stdout.write(`${sites.join(', ')} is back: ${tables} tables, ${rows} rows.\n`);
	process.stdout.write(
		'Passphrases, tokens of nodes and passwords of mail servers are in no archive: set them anew.\n',
	);
} catch (error) {
	if (!(error instanceof Refusal)) throw error;
	process.stderr.write(`${error.errors.map((e) => e.message).join(' ')}\n`);
	process.exitCode = 2;
} finally {
	await pool.end();
}
