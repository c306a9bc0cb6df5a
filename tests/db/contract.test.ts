import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { RESOURCES } from '@/contract';
import type { Operation } from '@/contract/operation';
import type { PROBLEMS } from '@/contract/problems';
import { newReading, storedReading } from '@/contract/readings';
import { onWire, wire } from '@/contract/wire';
import { type Application, startApplication } from '../helpers/application';
import { againstContract } from '../helpers/contract-check';
import { asRequest, examples, type Given, prepared } from '../helpers/examples';

let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());

/** What a browser would send back of the cookies it was told to keep. */
let kept: Record<string, string> = {};
function keep(response: Response): Response {
	const cookies = response.headers.getSetCookie().map((c) => c.split(';')[0]!);
	if (cookies.length > 0)
		kept = {
			cookie: cookies.join('; '),
			'x-cordwain-page': cookies.find((c) => c.startsWith('cordwain_page='))?.split('=')[1] ?? '',
		};
	return response;
}
/** fetch itself parses each answer in tests; here everything that came back is looked at. */
let token = '';
async function ask(address: string, given: Given): Promise<Response> {
	const { path, headers, ...request } = asRequest(address, address === 'POST /ingest' ? { ...given, token } : given);
	return keep(
		await fetch(`${app.base}/api/v1${path}`, { ...request, headers: address === 'POST /ingest' ? headers : kept }),
	);
}

/** So many rows of examples, one after the other: a test each. */
const PARTS = 4;

describe('the contract', () => {
	let asked: [string, Given][] = [];
	const answered: Record<string, number> = {};
	beforeAll(async () => {
		const all = await prepared(async (address, given) => {
			token = given.token ?? token;
			return (await ask(address, given)).json();
		});
		token = all.token;
		asked = Object.entries(examples(all.ids)) as [string, Given][];
	});
	it.each(Array.from({ length: PARTS }, (_, i) => i))('is kept by every operation, part %i', async (part) => {
		const size = Math.ceil(asked.length / PARTS);
		for (const [address, given] of asked.slice(part * size, (part + 1) * size)) {
			const response = await ask(address, given);
			answered[address] = response.status;
			// A stream of a meter never ends by itself.
			if (response.headers.get('content-type')?.startsWith('text/event-stream')) await response.body?.cancel();
			else await response.arrayBuffer();
		}
	});
	it('has an example of each, and each is answered as it says', () => {
		const all = RESOURCES.flatMap(({ operations }) => Object.entries<Operation>(operations));
		expect(Object.keys(answered).sort()).toEqual(all.map(([address]) => address).sort());
		const wrong = all.filter(([address, o]) => answered[address] !== (o.status ?? 200)).map(([a]) => [a, answered[a]]);
		expect(wrong).toEqual([
			// Nothing has come of the condition yet.
			['POST /watch/alerts/:id/snooze', 404],
			// The demo is a book that was begun, and no sample (tests/e2e/sample.test.ts has one).
			['POST /sample', 409],
			['DELETE /sample', 409],
			['GET /jobs/:id', 404],
			['DELETE /jobs/:id', 404],
			['POST /imports/:key/undo', 404],
			// What comes back comes into an empty installation (tests/db/archive.test.ts).
			['POST /restore', 409],
			['DELETE /sign-ins/:id', 404],
			['PUT /people/:id', 404],
			['POST /people/join', 422],
			['POST /me/join', 422],
			['POST /shared-device/person', 401],
			// An address in numbers is no name that a passkey could belong to (tests/e2e/people.test.ts makes one).
			['POST /passkeys/begin', 403],
			['POST /passkeys', 403],
			['DELETE /passkeys/:id', 404],
			['POST /passkeys/sign-in/begin', 403],
			['POST /passkeys/sign-in', 403],
		]);
	});
	it('says in OpenAPI what each operation refuses, by its status', async () => {
		const doc = await (await ask('GET /openapi.json', {})).json();
		const { responses } = doc.paths['/readings/{id}/decision'].post;
		expect(Object.keys(responses).sort()).toEqual(['200', '404', '409', '422', 'default']);
		expect(responses[409].description).toContain('already-corrected');
		const { properties } = responses[200].content['application/json'].schema;
		expect(properties).toEqual({ ok: { type: 'boolean', const: true } });
		const stored =
			doc.paths['/readings'].get.responses[200].content['application/json'].schema.properties.readings.items;
		expect(stored.properties.time).toMatchObject({ type: 'string' });
		expect(stored.additionalProperties).toBe(false);
		expect(doc.paths['/calibrations'].post.responses).toHaveProperty('202');
	});
});

describe('names on the wire', () => {
	it('are those of the core with underscores, both ways, and what is not declared is not told', () => {
		const shape = wire({ ec_us_cm: z.number(), temp_c: z.number().nullable(), time: z.string() }, { time: 'at' });
		expect(shape.parse({ ec_us_cm: 1200, temp_c: null, time: 'now' })).toEqual({
			ecUsCm: 1200,
			tempC: null,
			at: 'now',
		});
		const row = { ecUsCm: 1200, tempC: 18, at: 'now', id: 7 };
		expect(onWire(shape, row)).toEqual({ ec_us_cm: 1200, temp_c: 18, time: 'now' });
		expect(shape.safeParse({ ec_us_cm: 1, temp_c: 1, time: '', secret: 1 }).success).toBe(false);
	});
	it('a reading comes in as it was typed', () => {
		const typed = { time: '2026-07-14T11:10:00+02:00', station: 'pond', quantity: 'ph', value: '6,21', unit: 'pH' };
		expect(newReading.parse(typed)).toMatchObject({
			at: Date.parse('2026-07-14T09:10:00Z'),
			value: '6,21',
			tempC: null,
		});
		expect(newReading.parse({ ...typed, value: 6.21 }).value).toBe('6.21');
		expect(newReading.safeParse({ ...typed, time: '2026-07-14T11:10' }).success).toBe(false);
	});
});

describe('an answer that breaks the contract is told', () => {
	const path = '/probes';
	const json = 'application/json';
	it.each([
		['GET', path, 200, json, { probes: [{}] }, /is not what the contract says/],
		['GET', path, 200, json, { probes: [], apart: [], dip: null, more: 1 }, /does not come back the same/],
		['GET', '/rounds/today', 200, json, { round: null, stations: [], extra: 1 }, /does not come back the same/],
		['GET', '/health', 201, json, { status: 'ok', version: '1', engine: 1 }, /answers 201/],
		['GET', '/nothing', 200, json, {}, /not in the contract/],
		['GET', path, 200, 'text/csv', '', /text\/csv, which the contract does not name/],
		['GET', path, 409, 'application/problem+json', refusal('already-corrected', 409), /does not name/],
		[
			'POST',
			'/readings/1/decision',
			404,
			'application/problem+json',
			refusal('already-corrected', 404),
			/answers 404 for/,
		],
		['POST', '/readings/1/decision', 409, 'application/problem+json', { title: 'No' }, /no problem details/],
	])('%s %s %i', (method, where, status, type, body, words) => {
		expect(againstContract(method, where, status, type, body)).toMatch(words);
	});
	it('and one that keeps it is not', () => {
		expect(againstContract('GET', '/health', 200, json, { status: 'ok', version: '1', engine: 1 })).toBeNull();
		expect(
			againstContract(
				'POST',
				'/readings/1/decision',
				409,
				'application/problem+json',
				refusal('already-corrected', 409),
			),
		).toBeNull();
	});
	it('a stored reading without its verdict is none', () => {
		expect(storedReading.safeParse({ id: 1 }).success).toBe(false);
	});
});

function refusal(code: keyof typeof PROBLEMS, status: number) {
	return { type: `about:blank#${code}`, title: 'No', status, detail: 'No.', errors: [] };
}
