// Brings the database up to date and, for the demo, fills an empty one. Run by ops/main.mjs before the server.
import { loadDemo } from '@/demo/load';
import { migrate } from '@/store/migrate';
import { anybodyNamed } from '@/store/people/people';
import { createPool, PATIENT } from '@/store/pool';
import { settings } from './settings.mjs';

const url = settings().DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set.');
const pool = createPool(url, PATIENT);
try {
	await migrate(pool);
	if (process.argv.includes('--lan') && !(await anybodyNamed(pool)))
		throw new Error(
			'Before the local network is served somebody has to be its grower: start without --lan, open Cordwain on this machine, and name yourself under People.',
		);
	if (process.argv.includes('--demo')) await loadDemo(pool, { say: (text) => process.stdout.write(`${text}\n`) });
} catch (error) {
	process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
	process.exitCode = 1;
} finally {
	await pool.end();
}
