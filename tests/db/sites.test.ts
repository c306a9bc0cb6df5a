import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RESOURCES } from '@/contract';
import { closeSite } from '@/service/archive/close';
import { canGuard } from '@/store/guard';
import { createPool, type Pool, transaction } from '@/store/pool';
import { copyRows } from '@/store/rows';
import { type Answer, type Application, startApplication } from '../helpers/application';
import { asRequest, examples, type Given, type Ids, OWNERS, prepared } from '../helpers/examples';

/** Two sites in one installation: what is of one is not there for the other, whoever asks and however. */
let app: Application;
let owner = '';
/** A grower of the second site alone. */
let heron = '';
let second = 0;
let ids: Ids;
const WORDS = 'slow barge under willow';

async function ask(
	address: string,
	given: Given = {},
	{ token, site }: { token?: string; site?: number | string } = {},
): Promise<{ status: number; text: string; body: Answer }> {
	const { path, headers, ...request } = asRequest(address, given);
	const response = await fetch(`${app.base}/api/v1${path}`, {
		...request,
		headers: {
			...headers,
			...(token ? { authorization: `Bearer ${token}` } : {}),
			...(site === undefined ? {} : { 'x-cordwain-site': String(site) }),
		},
	});
	if (response.headers.get('content-type')?.startsWith('text/event-stream')) {
		await response.body?.cancel();
		return { status: response.status, text: '', body: null };
	}
	const text = await response.text();
	let body: Answer = null;
	try {
		body = JSON.parse(text);
	} catch {
		// A file.
	}
	return { status: response.status, text, body };
}
const signedIn = async (name: string, passphrase: string): Promise<string> =>
	(await ask('POST /sign-in', { body: { name, passphrase, as: 'token' } })).body.token;

beforeAll(async () => {
	app = await startApplication('demo');
	({ ids } = await prepared(async (address, given) => (await ask(address, given)).body));
	second = (await ask('POST /sites', { body: { name: 'Hill Yard', timezone: 'Europe/Dublin' } })).body.id;
	const made = await ask(
		'POST /stations',
		{ body: { code: 'hill-bed', name: 'Hill bed', kind: 'reservoir' } },
		{ site: second },
	);
	expect(made.status).toBe(201);
	await ask('POST /people/owner', { body: { name: 'Wren', passphrase: OWNERS } });
	owner = await signedIn('Wren', OWNERS);
	const code = (await ask('POST /people/codes', { body: { role: 'grower' } }, { token: owner, site: second })).body
		.code;
	await ask('POST /people/join', { body: { code, name: 'Heron', passphrase: WORDS } });
	heron = await signedIn('Heron', WORDS);
});
afterAll(() => app.stop());

const OPERATIONS = RESOURCES.flatMap(({ operations }) => Object.keys(operations));
/** It would end who asks, or make another of them; and a node is let in by its own token, to where it stands. */
const NOT_ASKED = /sign-out|^POST \/shared-device$|^POST \/ingest$/;

describe('asked of the API', () => {
	it('both are there for whoever was named first, and one for who joined it', async () => {
		const of = async (token: string) => (await ask('GET /sites', {}, { token })).body.sites;
		expect(await of(owner)).toEqual([
			{ id: second, name: 'Hill Yard', role: 'grower', here: false },
			{ id: 1, name: 'Saltmarsh Yard', role: 'grower', here: true },
		]);
		expect(await of(heron)).toEqual([{ id: second, name: 'Hill Yard', role: 'grower', here: true }]);
		expect((await ask('POST /sites', { body: { name: 'Own', timezone: 'UTC' } }, { token: heron })).status).toBe(403);
	});
	it('a site that one does not come to is not there, in every operation; nor is one that nobody has', async () => {
		const wrong: string[] = [];
		const given = examples(ids) as Record<string, Given>;
		for (const operation of OPERATIONS.filter((o) => !NOT_ASKED.test(o)))
			for (const site of [1, 99, 'no']) {
				const { status, body } = await ask(operation, given[operation], { token: heron, site });
				if (status !== 404 || body?.type !== 'about:blank#no-such-site') wrong.push(`${operation} ${site}: ${status}`);
			}
		expect(wrong).toEqual([]);
	});
	it('whatever of the first site is named at the second, is not found there, and stays as it was', async () => {
		const archive = async () =>
			(
				await fetch(`${app.base}/api/v1/export.zip?site=1`, { headers: { authorization: `Bearer ${owner}` } })
			).arrayBuffer();
		const { stations } = (await ask('GET /stations', {}, { token: owner, site: 1 })).body;
		const names = stations.map((s: Answer) => s.name).filter((n: string) => n.includes(' '));
		expect(names.length).toBeGreaterThan(5);
		const before = Buffer.from(await archive());
		const wrong: string[] = [];
		for (const [operation, given] of Object.entries(examples(ids) as Record<string, Given>)) {
			if (NOT_ASKED.test(operation) || operation === 'PUT /me') continue;
			const { status, text } = await ask(operation, given, { token: heron });
			const id = Number(given.params?.id ?? 0);
			if (status >= 500) wrong.push(`${operation}: ${status}`);
			if (id > 0 && status < 400) wrong.push(`${operation} ${id}: ${status}`);
			const told = names.filter((n: string) => text.includes(n) && !JSON.stringify(given).includes(n));
			if (told.length > 0) wrong.push(`${operation} tells of ${told}`);
		}
		// One of the examples named this one as the other is called.
		await ask('PUT /site', { body: { name: 'Hill Yard', timezone: 'Europe/Dublin' } }, { token: heron });
		expect(wrong).toEqual([]);
		expect(Buffer.from(await archive()).equals(before)).toBe(true);
	});
	it('work that goes on at one is not seen nor stopped from the other', async () => {
		const begun = await ask('POST /backups', { query: { background: 1 } }, { token: owner, site: 1 });
		expect(begun.status).toBe(202);
		const params = { id: begun.body.job };
		expect((await ask('GET /jobs/:id', { params }, { token: heron })).status).toBe(404);
		expect((await ask('DELETE /jobs/:id', { params }, { token: heron })).status).toBe(404);
		expect((await ask('GET /jobs/:id', { params }, { token: owner, site: 1 })).status).toBe(200);
	});
	it('what is entered at one is told to the pages of that alone', async () => {
		const last = async (token: string, site: number) =>
			(await ask('GET /changes', {}, { token, site })).body.last as number;
		const at = await last(heron, second);
		const reading = { time: new Date().toISOString(), station: 'pond', quantity: 'ph', value: '6.0', unit: 'pH' };
		expect((await ask('POST /readings', { body: [reading] }, { token: owner, site: 1 })).status).toBe(201);
		expect((await ask('GET /changes', { query: { after: at } }, { token: heron })).body.changes).toEqual([]);
		const here = await ask('GET /changes', { query: { after: at } }, { token: owner, site: 1 });
		expect(here.body.changes).toHaveLength(1);
	});
	it('everything at once is taken out by whoever was named first alone, and of one site by its growers', async () => {
		expect((await ask('GET /export.zip', { query: { all: 1 } }, { token: heron })).status).toBe(403);
		const own = await ask('GET /export.zip', {}, { token: heron });
		expect(own.status).toBe(200);
		expect(own.text.includes('site-1/')).toBe(false);
		const all = await ask('GET /export.zip', { query: { all: 1 } }, { token: owner });
		expect([all.text.includes('site-1/readings.csv'), all.text.includes(`site-${second}/readings.csv`)]).toEqual([
			true,
			true,
		]);
	});
	it('who comes to both ends at one and stays at the other; a code takes nothing away', async () => {
		const code = async (role: string, site: number) =>
			(await ask('POST /people/codes', { body: { role } }, { token: owner, site })).body.code;
		const joined = await ask('POST /me/join', { body: { code: await code('helper', 1) } }, { token: heron });
		expect([joined.status, joined.body]).toEqual([201, { site_id: 1 }]);
		await ask('POST /me/join', { body: { code: await code('visitor', 1) } }, { token: heron });
		const { sites } = (await ask('GET /sites', {}, { token: heron })).body;
		expect(sites.map((s: Answer) => [s.name, s.role])).toEqual([
			['Hill Yard', 'grower'],
			['Saltmarsh Yard', 'helper'],
		]);
		const { people } = (await ask('GET /people', {}, { token: owner, site: 1 })).body;
		const { id } = people.find((p: Answer) => p.name === 'Heron');
		await ask('PUT /people/:id', { params: { id }, body: { ended: true } }, { token: owner, site: 1 });
		expect((await ask('GET /sites', {}, { token: heron })).body.sites.map((s: Answer) => s.name)).toEqual([
			'Hill Yard',
		]);
		expect((await ask('GET /stations', {}, { token: heron, site: 1 })).status).toBe(404);
	});
	it('a device that is shared shows the site it stands at alone, though whoever put it up may come to both', async () => {
		const device = await signedIn('Wren', OWNERS);
		await ask('POST /shared-device', { body: { label: 'phone at the bed' } }, { token: device, site: second });
		expect((await ask('GET /stations', {}, { token: device })).body.stations[0].code).toBe('hill-bed');
		expect((await ask('GET /stations', {}, { token: device, site: 1 })).status).toBe(404);
		expect((await ask('GET /sites', {}, { token: device })).body.sites.map((s: Answer) => s.id)).toEqual([second]);
	});
	it('an address with two slashes leads to no other server', async () => {
		const turned = await fetch(`${app.base}//elsewhere.example/?site=1`, {
			redirect: 'manual',
			headers: { authorization: `Bearer ${owner}`, accept: 'text/html' },
		});
		expect(turned.headers.get('location') ?? '/').not.toMatch(/^\/\//);
	});
	it('a browser comes to the site it showed last; a page of the other still asks for its own', async () => {
		const signIn = await fetch(`${app.base}/api/v1/sign-in`, {
			method: 'POST',
			body: JSON.stringify({ name: 'Wren', passphrase: OWNERS }),
		});
		const kept = signIn.headers.getSetCookie().map((c) => c.split(';')[0]!);
		const accept = 'text/html';
		const turned = await fetch(`${app.base}/bench?site=${second}&station=hill-bed`, {
			redirect: 'manual',
			headers: { cookie: kept.join('; '), accept },
		});
		expect([turned.status, turned.headers.get('location')]).toEqual([303, '/bench?station=hill-bed']);
		const cookie = [...kept, ...turned.headers.getSetCookie().map((c) => c.split(';')[0]!)].join('; ');
		const page = await (await fetch(`${app.base}/`, { headers: { cookie, accept } })).text();
		expect(page).toContain(`<meta name="cordwain-site" content="${second}"`);
		expect(page).toContain('Hill Yard');
		expect(page).not.toContain('Saltmarsh');
		const other = await fetch(`${app.base}/api/v1/site`, { headers: { cookie, 'x-cordwain-site': '1' } });
		expect((await other.json()).site.name).toBe('Saltmarsh Yard');
	});
});

describe('a site that is closed', () => {
	it('is not there for anybody, hears no node, and is there again as it was', async () => {
		await ask('POST /nodes', { body: { code: 'hill-post', station: 'hill-bed' } }, { token: owner, site: second });
		const made = await ask(
			'POST /nodes/:code/token',
			{ params: { code: 'hill-post' } },
			{ token: owner, site: second },
		);
		const sends = async () => (await ask('POST /ingest', { token: made.body.token })).status;
		expect(await sends()).toBe(202);
		const home = createPool(app.databaseUrl);
		await closeSite(home, second, true, 'Wren');
		expect((await ask('GET /stations', {}, { token: owner, site: second })).status).toBe(404);
		const shut = await ask('GET /stations', {}, { token: heron });
		expect([shut.status, shut.body.errors[0].message]).toEqual([401, expect.stringMatching(/^No site is open to you/)]);
		expect(await sends()).toBe(401);
		expect((await ask('GET /sites', {}, { token: owner })).body.sites).toHaveLength(1);
		await closeSite(home, second, false, 'Wren');
		await home.end();
		expect((await ask('GET /stations', {}, { token: heron })).status).toBe(200);
		expect(await sends()).toBe(202);
	});
});

describe('asked of the database', () => {
	let home: Pool;
	let one: Pool;
	beforeAll(async () => {
		home = createPool(app.databaseUrl);
		one = createPool(app.databaseUrl, { siteId: second, guarded: true });
	});
	afterAll(async () => {
		await home.end();
		await one.end();
	});
	const tables = async (): Promise<string[]> =>
		(
			await home.query(
				`SELECT DISTINCT c.relname AS name FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid JOIN pg_namespace n ON n.oid = c.relnamespace
				WHERE n.nspname = 'public' AND c.relkind IN ('r', 'p') AND NOT c.relispartition AND a.attname = 'site_id' AND NOT a.attisdropped
					AND c.relname NOT IN ('membership', 'join_code') ORDER BY 1`,
			)
		).rows.map((r) => r.name);
	it('every table of a book shows a connection the rows of its site, and no others', async () => {
		expect(await canGuard(home)).toBe(true);
		const all = await tables();
		expect(all.length).toBeGreaterThan(40);
		const wrong: string[] = [];
		let others = 0;
		for (const t of all) {
			const { rows } = await one.query(`SELECT count(*) FILTER (WHERE site_id <> ${second})::int AS n FROM ${t}`);
			if (rows[0].n > 0) wrong.push(t);
			others += (await home.query(`SELECT count(*)::int AS n FROM ${t} WHERE site_id = 1`)).rows[0].n;
		}
		expect(wrong).toEqual([]);
		// There was something to see.
		expect(others).toBeGreaterThan(10_000);
		expect((await one.query('SELECT id FROM site')).rows).toEqual([{ id: second }]);
		for (const view of ['reading_judged', 'reading_standing', 'event_current'])
			expect((await one.query(`SELECT count(*)::int AS n FROM ${view} WHERE site_id = 1`)).rows).toEqual([{ n: 0 }]);
	});
	it('and changes, takes away and puts in none of another', async () => {
		expect((await one.query("UPDATE station SET name = 'taken' WHERE site_id = 1")).rowCount).toBe(0);
		expect((await one.query('DELETE FROM judging WHERE site_id = 1')).rowCount).toBe(0);
		await expect(
			one.query("INSERT INTO station (site_id, code, name, kind) VALUES (1, 'in', 'In', 'reservoir')"),
		).rejects.toThrow(/row-level security/);
		await expect(one.query('ALTER TABLE station DISABLE ROW LEVEL SECURITY')).rejects.toThrow(/owner/);
		// Nor by the parts of a table, for which no policy holds, nor anything of people.
		const parts = await home.query('SELECT relname AS name FROM pg_class WHERE relispartition AND relkind = $1', ['r']);
		expect(parts.rows.map((r) => r.name)).toContain('reading_everywhere');
		const people = ['person', 'membership', 'sign_in', 'passkey', 'join_code', 'wrong_try', 'backup', 'stand_in_mail'];
		for (const name of [...parts.rows.map((r) => r.name), ...people])
			await expect(one.query(`SELECT * FROM ${name}`)).rejects.toThrow(/permission denied/);
		// Policies do not look at what comes in bulk; the code that sends it does.
		const bulk = transaction(one, (client) =>
			copyRows(client, 'sample', 'site_id, id', [
				[second, 900_000_001],
				[1, 900_000_002],
			]),
		);
		await expect(bulk).rejects.toThrow();
		expect((await home.query('SELECT 1 FROM sample WHERE id > 900000000')).rowCount).toBe(0);
	});
	it('a connection that works for none sees nothing', async () => {
		const none = createPool(app.databaseUrl, { guarded: true });
		expect((await none.query('SELECT count(*)::int AS n FROM reading')).rows).toEqual([{ n: 0 }]);
		await none.end();
	});
});
