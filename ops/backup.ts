// npm run backup: writes the archive into the folder of backups now, tries it out, and has pg_dump write beside it.
import { spawnSync } from 'node:child_process';
import { chmodSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { backUp, tryOutAndNote } from '@/service/archive/backup';
import { migrate } from '@/store/migrate';
import { createPool, PATIENT } from '@/store/pool';
import { listSites } from '@/store/site';
import { backupFolder, settings } from './settings.mjs';

const { DATABASE_URL: url } = settings();
const pool = createPool(url!, PATIENT);
try {
	await migrate(pool);
	const [first] = await listSites(pool);
	const folder = resolve(backupFolder());
	const file = await backUp(pool, folder, sheetDay(Date.now(), first?.timezone ?? 'UTC'));
	process.stdout.write(`${join(folder, file)}\n`);
	const problem = await tryOutAndNote(pool, url!, folder, file);
	process.stdout.write(
		problem ? `${problem}\n` : 'Brought back into a database of its own and taken out again: the same bytes.\n',
	);
	const dump = join(folder, file.replace('.zip', '.dump'));
	// By the environment, so that no list of processes shows the password.
	const { hostname, port, username, password, pathname } = new URL(url!);
	const done = spawnSync(process.env.PG_DUMP ?? 'pg_dump', ['--format=custom', `--file=${dump}`], {
		encoding: 'utf8',
		env: {
			...process.env,
			PGHOST: hostname,
			PGPORT: port || '5432',
			PGUSER: decodeURIComponent(username),
			PGPASSWORD: decodeURIComponent(password),
			PGDATABASE: pathname.slice(1),
		},
	});
	// It holds what an archive leaves out.
	if (done.status === 0) chmodSync(dump, 0o600);
	process.stdout.write(
		done.status === 0 ? `${dump}\n` : `pg_dump did not: ${(done.stderr || done.error?.message) ?? ''}\n`,
	);
	process.exitCode = problem || done.status !== 0 ? 1 : 0;
} finally {
	await pool.end();
}
