import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RESOURCES } from '@/contract';
import { type Answer, type Application, startApplication } from '../helpers/application';

/** Who may do what, and how they are known. Rules of passphrases, tries and sessions: OWASP ASVS 4.0.3, chapters 2, 3 and 4. */
let app: Application;
const OWNER = 'copper kettle under snow';
const WORDS = 'seven herons on one leg';
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());

async function call(
	address: string,
	{ token, body, headers = {} }: { token?: string; body?: unknown; headers?: Record<string, string> } = {},
): Promise<{ status: number; body: Answer; cookies: string[] }> {
	const [method, pattern] = address.split(' ') as [string, string];
	const response = await fetch(`${app.base}/api/v1${pattern.replace(/:\w+/g, '0')}`, {
		method,
		headers: { ...(token ? { authorization: `Bearer ${token}` } : {}), ...headers },
		...(body === undefined ? {} : { body: JSON.stringify(body) }),
		redirect: 'manual',
	});
	const cookies = response.headers.getSetCookie();
	if (response.headers.get('content-type')?.startsWith('text/event-stream')) {
		await response.body?.cancel();
		return { status: response.status, body: null, cookies };
	}
	return { status: response.status, body: await response.json().catch(() => null), cookies };
}
const signIn = (name: string, passphrase: string) => call('POST /sign-in', { body: { name, passphrase, as: 'token' } });
const tokens: Record<string, string> = {};
async function joins(name: string, role: string, pin?: string): Promise<void> {
	const { body } = await call('POST /people/codes', { token: tokens.grower!, body: { role } });
	const joined = await call('POST /people/join', { body: { code: body.code, name, passphrase: WORDS, pin } });
	expect(joined.status).toBe(201);
	tokens[role] ??= (await signIn(name, WORDS)).body.token;
}

describe('before anybody is named', () => {
	it('whoever sits at the machine is the grower, and nobody is asked', async () => {
		expect((await call('GET /me')).body).toMatchObject({ open: true, role: 'grower', name: null });
		expect((await fetch(`${app.base}/`, { redirect: 'manual' })).status).toBe(200);
	});
	it('but no other machine is served: not through a proxy that nobody named, not under another name', async () => {
		expect((await call('GET /readings', { headers: { 'x-forwarded-for': '192.0.2.7' } })).status).toBe(401);
		expect(
			(await call('GET /readings', { headers: { 'x-cordwain-here': '1', 'x-forwarded-for': '192.0.2.7' } })).status,
		).toBe(401);
		const owner = { name: 'Stoat', passphrase: OWNER };
		expect(
			(await call('POST /people/owner', { headers: { 'x-forwarded-for': '192.0.2.7' }, body: owner })).status,
		).toBe(403);
	});
	it('a passphrase that is guessed first is refused, and so is a short one', async () => {
		for (const passphrase of [
			'short',
			'aaaaaaaaaaaaaa',
			'Wren Wren Wren Wren',
			'password123456',
			// From lists of leaked ones: a name with a number, a walk over the keys, a well-known one twice.
			'michaeljordan23',
			'1q2w3e4r5t6y7u',
			'trustno1trustno1',
		])
			expect([passphrase, (await call('POST /people/owner', { body: { name: 'Wren', passphrase } })).status]).toEqual([
				passphrase,
				422,
			]);
	});
	it('the first grower is named once, even by two who ask at once', async () => {
		const asks = ['Wren', 'Stoat'].map((name) => call('POST /people/owner', { body: { name, passphrase: OWNER } }));
		const answers = await Promise.all(asks);
		expect(answers.map((a) => a.status).sort()).toEqual([201, 409]);
		const named = answers.find((a) => a.status === 201)!;
		tokens.grower = (await signIn(named.body.name, OWNER)).body.token;
		expect(named.cookies.join()).toMatch(/cordwain_sign_in=cws_[\w-]+; HttpOnly; Path=\/; SameSite=Strict/);
	});
});

describe('from then on', () => {
	it('pages lead to the sign-in and back, the API says what is missing; health and a node’s ingest go on', async () => {
		const page = await fetch(`${app.base}/trends?station=pond`, { redirect: 'manual' });
		expect([page.status, page.headers.get('location')]).toEqual([303, '/sign-in?to=%2Ftrends%3Fstation%3Dpond']);
		expect((await call('GET /readings')).body.type).toBe('about:blank#sign-in-first');
		expect((await call('GET /health')).status).toBe(200);
		expect((await call('POST /ingest', { body: {} })).body.type).toBe('about:blank#unknown-token');
		const away = await fetch(`${app.base}/sign-in?to=//elsewhere.example`);
		expect(await away.text()).not.toContain('elsewhere.example');
	});
	it('others join by a code, once, whatever case it is typed in', async () => {
		await joins('Linnet', 'helper', '2468');
		await joins('Dunlin', 'visitor');
		const { body } = await call('POST /people/codes', { token: tokens.grower!, body: { role: 'grower' } });
		const typed = ` ${body.code.toLowerCase().replace('-', ' ')} `;
		// A name that is taken does not use it up.
		expect((await call('POST /people/join', { body: { code: typed, name: 'LINNET', passphrase: WORDS } })).status).toBe(
			409,
		);
		expect((await call('POST /people/join', { body: { code: typed, name: 'Teal', passphrase: WORDS } })).status).toBe(
			201,
		);
		expect((await call('POST /people/join', { body: { code: typed, name: 'Smew', passphrase: WORDS } })).status).toBe(
			422,
		);
	});

	/** By what the roles are for: a helper measures, logs and doses; a visitor looks. Everything else wants a grower. */
	const HELPER =
		/^POST \/(attachments|batches(\/:id\/steps)?|calibrations|events(\/:id\/(correction|withdrawal))?|irrigations|meters\/:code\/act|mix\/jug|probe-events|readings(\/:id\/correction|\/undo)?|rounds(\/:id\/finish)?|watch\/(seen|alerts\/:id\/snooze))$/;
	const VISITOR =
		/^(POST \/(calc\/.*|mix\/dose|readings\/judge|reports\/read|sheets\/look|sign-out|passkeys(\/begin)?|me\/join)|PUT \/me|DELETE \/(sign-ins|passkeys)\/:id)$/;
	const ANYBODY =
		/^(GET \/(health|me|openapi\.json|shared-device\/people)|POST \/(ingest|sign-in|passkeys\/sign-in(\/begin)?|people\/(join|owner)|shared-device\/(leave|person)))$/;
	const GROWER_LOOKS = /^GET \/(people|mailbox|export\.zip|backups)$/;
	const wants = (o: string): number =>
		ANYBODY.test(o)
			? 0
			: GROWER_LOOKS.test(o)
				? 3
				: o.startsWith('GET') || VISITOR.test(o)
					? 1
					: HELPER.test(o)
						? 2
						: 3;
	const OPERATIONS = RESOURCES.flatMap(({ operations }) => Object.keys(operations));
	it.each([
		['nobody', 0],
		['visitor', 1],
		['helper', 2],
		['grower', 3],
	] as const)('%s: every operation is refused or not as the table says', async (who, rank) => {
		const wrong: string[] = [];
		for (const operation of OPERATIONS) {
			// It would end the sign-in that asks, or make it another.
			if (/sign-out|^POST \/shared-device$/.test(operation) && rank > 0) continue;
			const { status, body } = await call(operation, {
				...(rank > 0 ? { token: tokens[who]! } : {}),
				body: operation.startsWith('GET') ? undefined : {},
			});
			const refused = status === 403 && body?.type === 'about:blank#role';
			const unknown = status === 401 && body?.type === 'about:blank#sign-in-first';
			const expected = rank >= wants(operation) ? 'may' : rank === 0 ? 'unknown' : 'refused';
			const found = refused ? 'refused' : unknown ? 'unknown' : 'may';
			if (found !== expected) wrong.push(`${operation}: ${found}, not ${expected} (${status})`);
			if (status >= 500) wrong.push(`${operation}: ${status}`);
		}
		expect(wrong).toEqual([]);
	});
	it('what a person enters stands under their name', async () => {
		const reading = { time: new Date().toISOString(), station: 'pond', quantity: 'ph', value: '6.1', unit: 'pH' };
		const { status } = await call('POST /readings', { token: tokens.helper!, body: { readings: [reading] } });
		expect(status).toBe(201);
		const { body } = await call('GET /readings?station=pond&quantity=ph&limit=1', { token: tokens.visitor! });
		expect(body.readings[0].entered_by).toBe('Linnet');
	});
	it('a cookie alone changes nothing: what our pages send beside it is wanted, and no page from elsewhere is heard', async () => {
		const { cookies } = await call('POST /sign-in', { body: { name: 'Linnet', passphrase: WORDS } });
		const cookie = cookies.map((c) => c.split(';')[0]).join('; ');
		const beside = /cordwain_page=([^;]+)/.exec(cookie)![1]!;
		const enter = (headers: Record<string, string>) => call('POST /rounds', { headers: { cookie, ...headers } });
		expect((await enter({})).body.type).toBe('about:blank#foreign-page');
		expect((await enter({ 'x-cordwain-page': 'guess' })).status).toBe(403);
		expect((await enter({ 'x-cordwain-page': beside, origin: 'https://elsewhere.example' })).status).toBe(403);
		expect((await enter({ 'x-cordwain-page': beside, 'sec-fetch-site': 'cross-site' })).status).toBe(403);
		expect((await enter({ 'x-cordwain-page': beside })).status).toBe(201);
	});
	it('the same is answered to a name that is none and to a wrong passphrase; then both are slowed, right ones too', async () => {
		const tries = async (name: string) => {
			const all = [];
			for (let i = 0; i < 6; i++) all.push(await signIn(name, 'not this one at all'));
			return all.map(({ status, body }) => [status, body.type, body.errors]);
		};
		const [known, none] = [await tries('Teal'), await tries('Nobody')];
		expect(known).toEqual(none);
		expect(known.map(([status]) => status)).toEqual([401, 401, 401, 401, 401, 429]);
		const right = await signIn('Teal', WORDS);
		expect([right.status, right.body.retry_after_s > 600]).toEqual([429, true]);
		// Whom nobody tried is not slowed.
		expect((await signIn('Dunlin', WORDS)).status).toBe(200);
	});
	it('one grower stays; who was ended is out at once, and comes back as before', async () => {
		const { people } = (await call('GET /people', { token: tokens.grower! })).body;
		const of = (name: string) => people.find((p: Answer) => p.name === name);
		const owner = people.find((p: Answer) => p.role === 'grower' && p.name !== 'Teal');
		const put = (id: number, body: object) =>
			fetch(`${app.base}/api/v1/people/${id}`, {
				method: 'PUT',
				headers: { authorization: `Bearer ${tokens.grower}` },
				body: JSON.stringify(body),
			});
		expect((await put(owner.id, { role: 'visitor' })).status).toBe(409);
		expect((await put(of('Dunlin').id, { ended: true })).status).toBe(200);
		expect((await call('GET /readings', { token: tokens.visitor! })).status).toBe(401);
		expect((await signIn('Dunlin', WORDS)).status).toBe(401);
		expect((await put(of('Dunlin').id, { ended: false })).status).toBe(200);
		tokens.visitor = (await signIn('Dunlin', WORDS)).body.token;
		expect(tokens.visitor).toMatch(/^cws_/);
	});
	it('sign-ins are listed and ended; another passphrase ends the others', async () => {
		const second = (await signIn('Dunlin', WORDS)).body.token;
		const { sign_ins } = (await call('GET /sign-ins', { token: tokens.visitor! })).body;
		expect(new Set(sign_ins.map((s: Answer) => s.person))).toEqual(new Set(['Dunlin']));
		expect(sign_ins.filter((s: Answer) => s.here)).toHaveLength(1);
		// Somebody else’s is not to be found.
		const all = (await call('GET /sign-ins', { token: tokens.grower! })).body.sign_ins;
		const other = all.find((s: Answer) => s.person === 'Linnet');
		const end = (id: number) =>
			fetch(`${app.base}/api/v1/sign-ins/${id}`, { method: 'DELETE', headers: { authorization: `Bearer ${second}` } });
		expect((await end(other.id)).status).toBe(404);
		const change = await call('PUT /me', {
			token: second,
			body: { so_far: WORDS, passphrase: 'a quiet reed in the wind' },
		});
		expect(change.status).toBe(200);
		expect((await call('GET /readings', { token: tokens.visitor! })).status).toBe(401);
		expect((await call('GET /readings', { token: second })).status).toBe(200);
	});
	it('on a shared device nobody measures until they say so by a PIN, and then as no more than a helper', async () => {
		const { body } = await signIn('Linnet', WORDS);
		const device = (
			await signIn(
				(
					await call('GET /people', { token: tokens.grower! })
				).body.people.find((p: Answer) => p.role === 'grower' && p.name !== 'Teal').name,
				OWNER,
			)
		).body.token;
		expect((await call('POST /shared-device', { token: body.token, body: { label: 'x' } })).status).toBe(403);
		expect((await call('POST /shared-device', { token: device, body: { label: 'phone at the tank' } })).status).toBe(
			200,
		);
		expect((await call('GET /readings', { token: device })).status).toBe(200);
		expect((await call('POST /rounds', { token: device })).body.type).toBe('about:blank#sign-in-first');
		const { people } = (await call('GET /shared-device/people', { token: device })).body;
		expect(people.map((p: Answer) => p.name)).toEqual(['Linnet']);
		const id = people[0].id;
		expect((await call('POST /shared-device/person', { token: device, body: { id, pin: '0000' } })).status).toBe(401);
		expect((await call('POST /shared-device/person', { token: device, body: { id, pin: '2468' } })).status).toBe(200);
		expect((await call('POST /rounds', { token: device })).status).toBe(201);
		expect((await call('POST /stations', { token: device, body: {} })).status).toBe(403);
		expect((await call('GET /me', { token: device })).body).toMatchObject({
			name: 'Linnet',
			role: 'helper',
			shared: true,
		});
		await call('POST /shared-device/leave', { token: device });
		expect((await call('POST /rounds', { token: device })).status).toBe(401);
		// Nobody but a shared device learns who has a PIN.
		expect((await call('GET /shared-device/people')).body.people).toEqual([]);
	});
	it('nothing of a passphrase or a token is kept that could be used', async () => {
		const { Client } = (await import('pg')).default;
		const client = new Client({ connectionString: app.databaseUrl });
		await client.connect();
		const { rows } = await client.query(
			"SELECT (SELECT string_agg(p::text, ' ') FROM person p) || (SELECT string_agg(s::text, ' ') FROM sign_in s) || (SELECT string_agg(j::text, ' ') FROM join_code j) || (SELECT string_agg(a::text, ' ') FROM audit a) || (SELECT coalesce(string_agg(w::text, ' '), '') FROM wrong_try w) AS all",
		);
		await client.end();
		for (const secret of [OWNER, WORDS, '2468', tokens.grower!, 'Nobody']) expect(rows[0].all).not.toContain(secret);
		expect(rows[0].all).toMatch(/scrypt\$131072\$8\$1\$/);
	});
});
