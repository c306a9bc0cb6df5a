import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hashed } from '@/service/people/passphrase';
import { lanAddresses, ownNames } from '../../ops/authority.mjs';
import { freePort } from '../helpers/application';
import { freshDatabase } from '../helpers/database';

/** The local network by TLS, and a proxy in front. Certificates are looked at by OpenSSL, through Node. */
const root = join(import.meta.dirname, '../..');
const data = mkdtempSync(join(tmpdir(), 'cordwain-lan-'));
const WORDS = 'seven herons on one leg';
let databaseUrl: string;
const children: ChildProcess[] = [];
afterAll(async () => {
	await Promise.all(
		children.map((c) => {
			const gone = new Promise((done) => c.once('exit', done));
			c.kill('SIGTERM');
			return gone;
		}),
	);
	rmSync(data, { recursive: true, force: true });
});
async function serve(env: Record<string, string>): Promise<{ port: number; tlsPort: number }> {
	const [port, tlsPort] = [await freePort(), await freePort()];
	const child = spawn(process.execPath, [join(root, 'ops/serve.mjs')], {
		env: {
			...process.env,
			DATABASE_URL: databaseUrl,
			PORT: String(port),
			CORDWAIN_TLS_PORT: String(tlsPort),
			CORDWAIN_DATA: data,
			CORDWAIN_JOBS: 'off',
			NODE_ENV: 'production',
			...env,
		},
		stdio: ['ignore', 'ignore', 'inherit'],
	});
	children.push(child);
	await expect
		.poll(
			() =>
				fetch(`http://127.0.0.1:${port}/api/v1/health`).then(
					(r) => r.status,
					() => 0,
				),
			{ timeout: 10_000 },
		)
		.toBe(200);
	return { port, tlsPort };
}
interface Got {
	status: number;
	headers: Record<string, string | string[] | undefined>;
	text: string;
}
const get = (
	port: number,
	path: string,
	{
		host,
		method = 'GET',
		body,
		servername,
	}: { host?: string; method?: string; body?: unknown; servername?: string } = {},
): Promise<Got> =>
	new Promise((done, fail) => {
		const asked = request(
			{
				host: '127.0.0.1',
				port,
				path,
				method,
				ca: readFileSync(join(data, 'tls/root.crt')),
				// What is asked for by name is told apart from the name that the certificate is held against.
				...(servername || host ? { servername: servername ?? 'localhost' } : {}),
				headers: { ...(host ? { host } : {}), 'content-type': 'application/json' },
			},
			(response) => {
				let text = '';
				response.on('data', (d) => {
					text += d;
				});
				response.on('end', () => done({ status: response.statusCode!, headers: response.headers, text }));
			},
		);
		asked.on('error', fail);
		asked.end(body === undefined ? undefined : JSON.stringify(body));
	});

beforeAll(async () => {
	databaseUrl = await freshDatabase('demo');
	const client = new pg.Client({ connectionString: databaseUrl });
	await client.connect();
	await client.query("INSERT INTO person (name, passphrase, owner) VALUES ('Wren', $1, true)", [await hashed(WORDS)]);
	await client.end();
});

describe('the local network', () => {
	let ports: { port: number; tlsPort: number };
	it('is served by TLS, with a certificate that a phone believes once it knows the authority', async () => {
		ports = await serve({ CORDWAIN_LAN: '1' });
		const health = await get(ports.tlsPort, '/api/v1/health');
		expect(health.status).toBe(200);
		expect(health.headers['strict-transport-security']).toBe('max-age=15552000');
		// Its name too, where it has one that may stand in an address.
		const name = ownNames().names.find((n) => n.endsWith('.local')) ?? 'localhost';
		expect(
			(await get(ports.tlsPort, '/api/v1/health', { servername: name, host: `${name}:${ports.tlsPort}` })).status,
		).toBe(200);
		expect(statSync(join(data, 'tls/root-key.pem')).mode & 0o077).toBe(0);
		const own = new X509Certificate(readFileSync(join(data, 'tls/server.crt')));
		expect([own.ca, own.verify(new X509Certificate(readFileSync(join(data, 'tls/root.crt'))).publicKey)]).toEqual([
			false,
			true,
		]);
		for (const a of lanAddresses()) expect(own.subjectAltName).toContain(`IP Address:${a}`);
	});
	it('is known by its own names alone, and its cookies go by TLS alone', async () => {
		expect((await get(ports.tlsPort, '/api/v1/health', { host: 'elsewhere.example' })).status).toBe(403);
		const signIn = await get(ports.tlsPort, '/api/v1/sign-in', {
			method: 'POST',
			body: { name: 'Wren', passphrase: WORDS },
		});
		expect(signIn.status).toBe(200);
		for (const cookie of signIn.headers['set-cookie'] as string[]) expect(cookie).toContain('; Secure');
	});
	it('static files have the same headers as pages', async () => {
		for (const path of ['/first.js', '/worker.js', '/mark.svg', '/sign-in']) {
			const { status, headers } = await get(ports.tlsPort, path);
			expect([path, status]).toEqual([path, 200]);
			expect(headers).toMatchObject({
				'x-content-type-options': 'nosniff',
				'x-frame-options': 'DENY',
				'referrer-policy': 'same-origin',
			});
		}
		expect((await get(ports.tlsPort, '/worker.js')).headers['cache-control']).toBe('no-cache');
	});
	const address = lanAddresses()[0];
	it.skipIf(!address)('without TLS is shown the way, and nothing else', async () => {
		const plain = (path: string) => fetch(`http://${address}:${ports.port}${path}`, { redirect: 'manual' });
		const page = await plain('/bench?station=pond');
		expect([page.status, page.headers.get('location')]).toEqual([
			307,
			`https://${address}:${ports.tlsPort}/bench?station=pond`,
		]);
		expect((await plain('/api/v1/health')).status).toBe(307);
		expect((await plain('/trust')).status).toBe(200);
		expect(await (await plain('/cordwain-root.crt')).text()).toBe(readFileSync(join(data, 'tls/root.crt'), 'utf8'));
	});
	it('keeps its certificate at the next start', async () => {
		const before = readFileSync(join(data, 'tls/server.crt'), 'utf8');
		await serve({ CORDWAIN_LAN: '1' });
		expect(readFileSync(join(data, 'tls/server.crt'), 'utf8')).toBe(before);
	});
	it('is not served before somebody is its grower', async () => {
		const empty = await freshDatabase('empty');
		const done = spawnSync(process.execPath, [join(root, 'ops/main.mjs'), 'start', '--lan'], {
			cwd: root,
			encoding: 'utf8',
			env: { ...process.env, DATABASE_URL: empty, PORT: String(await freePort()), CORDWAIN_DATA: join(data, 'other') },
		});
		expect([done.status, done.stderr]).toEqual([1, expect.stringContaining('somebody has to be its grower')]);
	});
});

describe('behind a proxy', () => {
	it('what a named one says is believed: TLS, the name, and that it is not this machine', async () => {
		const { port } = await serve({ CORDWAIN_PROXIES: '127.0.0.1', CORDWAIN_HOSTS: 'cordwain.example' });
		const forwarded = {
			'x-forwarded-proto': 'https',
			'x-forwarded-host': 'cordwain.example',
			'x-forwarded-for': '192.0.2.9',
		};
		const ask = (path: string, init: RequestInit = {}) =>
			fetch(`http://127.0.0.1:${port}/api/v1${path}`, { ...init, headers: forwarded });
		const signIn = await ask('/sign-in', { method: 'POST', body: JSON.stringify({ name: 'Wren', passphrase: WORDS }) });
		expect(signIn.headers.getSetCookie().every((c) => c.includes('; Secure'))).toBe(true);
		const owner = await ask('/people/owner', {
			method: 'POST',
			body: JSON.stringify({ name: 'Stoat', passphrase: WORDS }),
		});
		expect([owner.status, (await owner.json()).type]).toEqual([403, 'about:blank#not-here']);
	});
	it('of one that nobody named nothing is', async () => {
		const { port } = await serve({ CORDWAIN_HOSTS: 'cordwain.example' });
		const signIn = await fetch(`http://127.0.0.1:${port}/api/v1/sign-in`, {
			method: 'POST',
			headers: { 'x-forwarded-proto': 'https' },
			body: JSON.stringify({ name: 'Wren', passphrase: WORDS }),
		});
		expect(signIn.headers.getSetCookie().some((c) => c.includes('; Secure'))).toBe(false);
	});
});
