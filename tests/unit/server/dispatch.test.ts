import { atTheMachine } from '@tests/helpers/at-the-machine';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { byId, flag, instant } from '@/contract/fields';
import { resource } from '@/contract/operation';
import { problem } from '@/contract/problems';
import { wire } from '@/contract/wire';
import { dispatch, handle } from '@/server/dispatch';
import { findJob } from '@/server/jobs';
import { log } from '@/server/log';
import { AT_THE_MACHINE } from '@/service/people/sign-ins';
import { Refusal } from '@/service/refusal';

vi.mock('@/server/keep-judged', () => ({ keepJudged: vi.fn() }));
vi.mock('@/server/database', () => ({ database: () => null, isDatabaseDown: () => false }));

/** A small API of its own: the way from request to answer, without a database. */
const cups = resource('Cups', {
	'GET /cups': {
		summary: 'All of them',
		query: z.strictObject({ full: flag.optional(), limit: z.coerce.number().int().optional() }),
		answer: z.object({ asked: z.unknown() }),
	},
	'POST /cups': {
		storesNothing: true,
		summary: 'One more',
		body: wire({ volume_ml: z.number().positive('must be more than 0'), time: instant.optional() }, { time: 'at' }),
		answer: wire({ volume_ml: z.number(), time: instant }, { time: 'at' }),
		status: 201,
		problems: ['overflow'],
	},
	'GET /cups/:id': { summary: 'One', params: byId, answer: wire({ volume_ml: z.number() }) },
	'PUT /cups/:id': {
		storesNothing: true,
		summary: 'Change one',
		params: byId,
		answer: z.object({ ok: z.literal(true) }),
	},
	'POST /cups/wash': {
		storesNothing: true,
		summary: 'All of them, which takes a while',
		query: z.strictObject({ background: flag.optional() }),
		answer: wire({ washed_ml: z.number() }),
		background: true,
	},
	'GET /cups/:name/label': { summary: 'Its label', answer: z.object({ name: z.string() }) },
});
const routes = handle(cups, {
	'GET /cups': ({ query }) => ({ asked: query }),
	'POST /cups': ({ body }) => {
		if (body.volumeMl > 1000)
			throw new Refusal('overflow', [{ path: 'volume_ml', message: 'A cup holds a litre.' }], { holds: 1000 });
		return { volumeMl: body.volumeMl === 999 ? Number.POSITIVE_INFINITY : body.volumeMl, at: body.at ?? 0 };
	},
	'GET /cups/:id': ({ params }) => ({ volumeMl: params.id, secret: 'of the store' }),
	'PUT /cups/:id': () => ({ ok: 'yes' }) as never,
	'POST /cups/wash': ({ query, begin }) => {
		const wash = async () => ({ washedMl: 300 });
		return query.background ? begin('washing', wash, { storesNothing: true }) : wash();
	},
	'GET /cups/:name/label': ({ params }) => ({ name: params.name }),
});
// A job is handed the database, and this one asks it nothing.
beforeAll(() => void vi.stubEnv('DATABASE_URL', 'postgres://127.0.0.1:1/none'));
afterAll(() => void vi.unstubAllEnvs());
// Before there is a site nothing is asked of a database.
const nobody = { ...atTheMachine(), asker: AT_THE_MACHINE };
const ask = async (method: string, path: string, body?: string) => {
	const url = `http://127.0.0.1/api/v1${path}`;
	const request = new Request(url, { method, ...(body === undefined ? {} : { body }) });
	const response = await dispatch(routes, new URL(url).pathname.slice('/api/v1'.length), request, nobody);
	const told = await response.json();
	if (response.status >= 400) problem.parse(told);
	return { status: response.status, told, headers: response.headers };
};

describe('from request to answer', () => {
	it('decodes what is sent and encodes what comes, names and times both ways', async () => {
		const sent = JSON.stringify({ volume_ml: 200, time: '2026-07-14T11:00:00+02:00' });
		const { status, told, headers } = await ask('POST', '/cups', sent);
		expect([status, told]).toEqual([201, { volume_ml: 200, time: '2026-07-14T09:00:00Z' }]);
		expect(headers.get('cache-control')).toBe('no-store');
	});
	it('decodes switches and numbers of the address', async () => {
		expect((await ask('GET', '/cups?full=1&limit=3')).told).toEqual({ asked: { full: true, limit: 3 } });
		expect((await ask('GET', '/cups?full=0')).told).toEqual({ asked: { full: false } });
	});
	it('HEAD is answered as GET is', async () => {
		const url = 'http://127.0.0.1/api/v1/cups';
		expect((await dispatch(routes, '/cups', new Request(url, { method: 'HEAD' }), nobody)).status).toBe(200);
	});
	it('tells nothing that the contract does not declare', async () => {
		expect((await ask('GET', '/cups/7')).told).toEqual({ volume_ml: 7 });
	});
	it('a name in an address may hold anything, escaped', async () => {
		expect((await ask('GET', `/cups/${encodeURIComponent('a/b c')}/label`)).told).toEqual({ name: 'a/b c' });
	});
	it('long work begun in the background is a job with the same answer', async () => {
		expect((await ask('POST', '/cups/wash')).told).toEqual({ washed_ml: 300 });
		const { status, told } = await ask('POST', '/cups/wash?background=1');
		expect(status).toBe(202);
		await vi.waitFor(() =>
			expect(findJob(null, told.job)).toMatchObject({ state: 'done', result: { washed_ml: 300 } }),
		);
	});
});

describe('what is refused', () => {
	it.each([
		['an address that is none', 'GET', '/mugs', undefined, 404, 'no-such-address'],
		['a name that is broken', 'GET', '/cups/%E0%A4%A/label', undefined, 404, 'no-such-address'],
		['another method', 'DELETE', '/cups', undefined, 405, 'method'],
		['a number that is none', 'GET', '/cups/seven', undefined, 404, 'no-such-id'],
		['a number too long to be one', 'GET', '/cups/99999999999999999999', undefined, 404, 'no-such-id'],
		['a body that is no JSON', 'POST', '/cups', '{', 400, 'broken-json'],
		['a field nobody knows', 'POST', '/cups', '{"volume_ml":1,"colour":"red"}', 422, 'invalid'],
		['a field of the core’s name', 'POST', '/cups', '{"volumeMl":1}', 422, 'invalid'],
		['a time without its offset', 'POST', '/cups', '{"volume_ml":1,"time":"2026-07-14T09:00"}', 422, 'invalid'],
		['a query nobody knows', 'GET', '/cups?empty=1', undefined, 422, 'invalid'],
		['a result no JSON can carry', 'POST', '/cups', '{"volume_ml":999}', 422, 'not-finite'],
		['what the service refuses', 'POST', '/cups', '{"volume_ml":2000}', 422, 'overflow'],
	] as const)('%s', async (_, method, path, body, status, code) => {
		const answer = await ask(method, path, body);
		expect([answer.status, answer.told.type]).toEqual([status, `about:blank#${code}`]);
		expect(answer.told.errors[0].message).toMatch(/\w/);
	});
	it('names the field as the wire does, and members of its own come with it', async () => {
		expect((await ask('POST', '/cups', '{"volume_ml":-1}')).told.errors).toEqual([
			{ path: 'volume_ml', message: 'must be more than 0' },
		]);
		expect((await ask('POST', '/cups', '{"volume_ml":2000}')).told).toMatchObject({ holds: 1000 });
		expect((await ask('DELETE', '/cups')).told.errors[0].message).toBe('Use GET or POST here.');
	});
	it('more JSON than anybody types', async () => {
		const { status, told } = await ask('POST', '/cups', JSON.stringify({ volume_ml: 1, note: 'x'.repeat(4_200_000) }));
		expect([status, told.type]).toEqual([413, 'about:blank#too-large']);
	});
	it('an answer that breaks the contract is a fault of ours: logged, and nothing of it is told', async () => {
		const said = vi.spyOn(log, 'error').mockImplementation(() => undefined);
		const { status, told } = await ask('PUT', '/cups/1');
		expect([status, told.type]).toEqual([500, 'about:blank#internal']);
		expect(JSON.stringify(told)).not.toContain('yes');
		expect(said).toHaveBeenCalledOnce();
		said.mockRestore();
	});
});
