import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync } from 'node:fs';
import { get } from 'node:http';
import { type AddressInfo, connect, createServer, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { isDatabaseDown } from '@/server/database-down';
import { createPool } from '@/store/pool';
import { type Application, freePort, postJson, startApplication } from '../helpers/application';
import { cluster, withDatabase } from '../helpers/database';

const { removeCluster } = (await import('../../ops/cluster.mjs' as string)) as { removeCluster: (dir: string) => void };
const root = join(import.meta.dirname, '../..');

/** Runs a program of ours until it ends. @param onSaid hears all it has said so far */
async function run(
	script: string,
	args: string[],
	env: Record<string, string>,
	onSaid: (said: string) => void = () => {},
) {
	const child = spawn(process.execPath, [join(root, script), ...args], {
		cwd: root,
		env: { ...process.env, NODE_ENV: 'production', ...env },
		stdio: ['ignore', 'pipe', 'pipe'],
	});
	let said = '';
	for (const stream of [child.stdout, child.stderr])
		stream.on('data', (d) => {
			said += d;
			onSaid(said);
		});
	const [code] = await once(child, 'exit');
	return { code, said };
}
async function listening(onConnection: (socket: Socket) => void) {
	const server = createServer(onConnection).listen(0, '127.0.0.1');
	await once(server, 'listening');
	return { port: (server.address() as AddressInfo).port, close: () => server.close() };
}

describe('what the machine does not give', () => {
	it('a folder that cannot be written: one sentence with what to do', async () => {
		// No account can make a folder in a file.
		const folder = join(root, 'package.json/data');
		const { code, said } = await run('ops/main.mjs', ['start'], {
			CORDWAIN_DATA: folder,
			PORT: String(await freePort()),
			DATABASE_URL: '',
		});
		expect(code).toBe(1);
		expect(said.trim().split('\n')).toHaveLength(1);
		expect(said).toContain(`The folder ${folder} cannot be written to.`);
		expect(said).toContain('choose another: CORDWAIN_DATA=');
	});
	it('a port that was taken in the last moment: one sentence with what to do', async () => {
		const taken = await listening(() => {});
		const { code, said } = await run('ops/serve.mjs', [], {
			HOST: '127.0.0.1',
			PORT: String(taken.port),
			DATABASE_URL: cluster(),
		});
		taken.close();
		expect(code).toBe(1);
		expect(said.trim()).toBe(`Port ${taken.port} is already in use. Stop what uses it, or choose another: PORT=4401.`);
	});
	it('a database that was killed: it says so and ends, for whoever watches over it', async () => {
		const dir = mkdtempSync(join(tmpdir(), 'cordwain-killed-'));
		chmodSync(dir, 0o711);
		try {
			let killed = false;
			const { code, said } = await run(
				'ops/main.mjs',
				['start'],
				{ CORDWAIN_DATA: dir, PORT: String(await freePort()), DATABASE_URL: '' },
				(so_far) => {
					if (killed || !so_far.includes('Ctrl-C stops it')) return;
					killed = true;
					process.kill(Number(readFileSync(join(dir, 'pg/postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL');
				},
			);
			expect(said).toContain('The database stopped, and Cordwain ends with it.');
			expect(code).toBe(1);
		} finally {
			removeCluster(dir);
		}
	});
});

describe('a database that hangs', () => {
	it('while somebody connects: 503 in seconds, with what to do', async () => {
		const silent = await listening(() => {});
		const app = await startApplication({ databaseUrl: `postgres://nobody:x@127.0.0.1:${silent.port}/none` });
		try {
			const answer = await fetch(`${app.base}/api/v1/health`, { signal: AbortSignal.timeout(8000) });
			expect(answer.status).toBe(503);
		} finally {
			await app.stop();
			silent.close();
		}
	});
	it('in the middle of an answer: whoever asked is told, and the connection is not used again', async () => {
		const real = new URL(cluster());
		const open: Socket[] = [];
		let hangs = false;
		const between = await listening((socket) => {
			const there = connect(Number(real.port), real.hostname);
			open.push(socket, there);
			socket.on('data', (d) => there.write(d));
			there.on('data', (d) => {
				if (!hangs) socket.write(d);
			});
			for (const s of [socket, there]) s.on('error', () => {});
		});
		const pool = createPool(cluster().replace(/:\d+\//, `:${between.port}/`), { answerMs: 400 });
		try {
			expect((await pool.query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
			hangs = true;
			const error = await pool.query('SELECT 2').catch((e: unknown) => e);
			expect(error).toBeInstanceOf(Error);
			expect(isDatabaseDown(error)).toBe(true);
			hangs = false;
			expect((await pool.query('SELECT 3 AS three')).rows).toEqual([{ three: 3 }]);
		} finally {
			for (const s of open) s.destroy();
			await pool.end().catch(() => {});
			between.close();
		}
	});
});

describe('many at once', () => {
	/** What the database does for the application just now. */
	const busy = (app: Application, work: (count: () => Promise<number>) => Promise<void>) => {
		const pool = createPool(app.databaseUrl);
		return work(async () => {
			const { rows } = await pool.query<{ n: number }>(
				`SELECT count(*)::int AS n FROM pg_stat_activity
				WHERE application_name = 'cordwain' AND datname = current_database() AND state <> 'idle' AND pid <> pg_backend_pid()`,
			);
			return rows[0]!.n;
		}).finally(() => pool.end());
	};
	it('a download that is given up ends its query and leaves no transaction open', async () => {
		const app = await startApplication('demo');
		try {
			await busy(app, async (count) => {
				for (const path of ['/api/v1/readings?format=csv', '/api/v1/events?format=csv', '/api/v1/changes'])
					for (let n = 0; n < 6; n++)
						await new Promise<void>((done) => {
							get(app.base + path, { agent: false }, (response) => {
								response.once('data', () => response.destroy());
								response.once('close', () => done());
							}).on('error', () => done());
						});
				for (let tries = 0; (await count()) > 0 && tries < 100; tries++) await new Promise((r) => setTimeout(r, 30));
				expect(await count()).toBe(0);
			});
			expect((await fetch(`${app.base}/api/v1/health`)).status).toBe(200);
		} finally {
			await app.stop();
		}
	});
	it('eight people post readings at once, again and again: each is stored once, and the server lives on', async () => {
		const app = await startApplication('demo');
		try {
			const statuses = await Promise.all(
				Array.from({ length: 8 }, async (_, person) => {
					const own: number[] = [];
					for (let n = 0; n < 2; n++)
						own.push(
							(
								await postJson(
									app.base,
									'/readings',
									['ph', 'ec'].map((quantity) => ({
										// In no order: each is late for somebody.
										time: new Date(Date.UTC(2026, 6, 14, 10) + 1000 * ((person * 7 + n * 13) % 37)).toISOString(),
										station: ['pond', 'mix'][person % 2],
										instrument: 'plum',
										quantity,
										value: quantity === 'ph' ? '5.9' : '1.8',
										unit: quantity === 'ph' ? 'pH' : 'mS/cm',
										note: `person ${person} ${n}`,
									})),
								)
							).status,
						);
					return own;
				}),
			);
			expect(new Set(statuses.flat())).toEqual(new Set([201]));
			const pool = createPool(app.databaseUrl);
			const { rows } = await pool.query(
				`SELECT count(*)::int AS readings, count(v.reading_id)::int AS judged, count(DISTINCT r.note)::int AS notes
				FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id WHERE r.note LIKE 'person %'`,
			);
			await pool.end();
			expect(rows[0]).toEqual({ readings: 32, judged: 32, notes: 16 });
		} finally {
			await app.stop();
		}
	});
});

it('a database of another kind is not kept waiting for', () =>
	withDatabase('blank', async (pool) => {
		expect(isDatabaseDown(await pool.query('SELECT * FROM nothing').catch((e: unknown) => e))).toBe(false);
	}));
