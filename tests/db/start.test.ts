import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { freePort } from '../helpers/application';
import { freshDatabase } from '../helpers/database';

const root = join(import.meta.dirname, '../..');

/** Runs the start command where these programs only leave a mark that they were called. */
async function start(env: Record<string, string>): Promise<{ called: boolean; said: string; code: number | null }> {
	const folder = mkdtempSync(join(tmpdir(), 'cordwain-start-'));
	const mark = join(folder, 'called');
	for (const name of ['apt-get', 'npm', 'npx', 'sudo']) {
		writeFileSync(join(folder, name), `#!/bin/sh\necho ${name} >> ${mark}\nexit 1\n`);
		chmodSync(join(folder, name), 0o755);
	}
	try {
		const child = spawn(process.execPath, [join(root, 'ops/main.mjs'), 'start'], {
			cwd: root,
			env: { ...process.env, CORDWAIN_DATA: join(folder, 'data'), ...env, PATH: `${folder}:${process.env.PATH}` },
		});
		let said = '';
		const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
		for (const stream of [child.stdout, child.stderr])
			stream.on('data', (d) => {
				said += d;
				if (said.includes('Ctrl-C stops it')) child.kill('SIGTERM');
			});
		const code = await ended;
		return { called: existsSync(mark), said, code };
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
}

describe('npm start', () => {
	it('with everything in place calls neither apt-get nor npm, and says only where it is', async () => {
		const port = String(await freePort());
		const { called, said, code } = await start({ DATABASE_URL: await freshDatabase('empty'), PORT: port });
		expect(said.trim().split('\n')).toEqual([
			`Cordwain is ready: http://127.0.0.1:${port}`,
			'Ctrl-C stops it; what you entered is kept.',
		]);
		expect(called).toBe(false);
		expect(code).toBe(0);
	});
	it('a setting that cannot be used ends it with what to do', async () => {
		const { said, code } = await start({ PORT: 'soon' });
		expect(said.trim()).toBe('PORT must be a whole number from 1 to 65535; it is "soon".');
		expect(code).toBe(1);
	});
});
