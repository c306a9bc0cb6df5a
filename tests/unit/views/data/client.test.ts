import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiProblem, addressOf, api, begin, newKey } from '@/views/data/client';
import { followJob, pendingJob } from '@/views/data/job';

const store = () => {
	const kept = new Map<string, string>();
	return {
		getItem: (k: string) => kept.get(k) ?? null,
		setItem: (k: string, v: string) => void kept.set(k, v),
		removeItem: (k: string) => void kept.delete(k),
	};
};
const answers: (() => Promise<Response> | Response)[] = [];
const asked: { url: string; init: RequestInit }[] = [];
beforeEach(() => {
	vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
		asked.push({ url, init });
		return answers.shift()!();
	});
	vi.stubGlobal('sessionStorage', store());
});
afterEach(() => {
	vi.unstubAllGlobals();
	answers.length = asked.length = 0;
});
const json =
	(body: unknown, status = 200) =>
	() =>
		Response.json(body, { status });

describe('the client of the contract', () => {
	it('puts names into the address, escaped, and leaves out of the query what is not given', async () => {
		answers.push(json({ points: [] }));
		await api('GET /stations/:code/series', {
			params: { code: 'a b/c' },
			query: { quantity: 'ph', from: '2026-07-01T00:00:00Z', to: '2026-07-02T00:00:00Z', points: undefined },
		});
		expect(asked[0]!.url).toBe(
			'/api/v1/stations/a%20b%2Fc/series?quantity=ph&from=2026-07-01T00%3A00%3A00Z&to=2026-07-02T00%3A00%3A00Z',
		);
		expect(asked[0]!.init).toMatchObject({ method: 'GET', headers: {} });
	});
	it('sends JSON, and asks nothing of what asks for nothing', async () => {
		answers.push(json({ ok: true }), json({ undone: [] }));
		await api('POST /readings/:id/decision', { params: { id: 7 }, body: { kind: 'keep' } });
		await api('POST /readings/undo');
		expect(asked[0]).toMatchObject({
			url: '/api/v1/readings/7/decision',
			init: { method: 'POST', body: '{"kind":"keep"}' },
		});
		expect(asked[1]).toMatchObject({ url: '/api/v1/readings/undo', init: { method: 'POST' } });
		expect(asked[1]!.init.body).toBeUndefined();
	});
	it('an address for a link', () => {
		expect(addressOf('GET /readings', { query: { format: 'csv', station: '' } })).toBe('/api/v1/readings?format=csv');
	});
	it('a refusal comes with its words and its fields', async () => {
		answers.push(json({ title: 'No', detail: 'Say why.', errors: [{ path: 'reason', message: 'Say why.' }] }, 422));
		const problem = await api('POST /recipes/put-away', { body: { name: 'x' } }).catch((e) => e);
		expect(problem).toBeInstanceOf(ApiProblem);
		expect(problem).toMatchObject({
			status: 422,
			message: 'Say why.',
			unreachable: false,
			errors: [{ path: 'reason' }],
		});
	});
	it.each([
		['no network', () => Promise.reject(new TypeError('failed')), 0],
		['no database', json({ detail: 'It does not answer.' }, 503), 503],
	])('%s: what was typed should wait', async (_, answer, status) => {
		answers.push(answer, answer, answer);
		expect(await api('POST /rounds').catch((e) => e)).toMatchObject({ status, unreachable: true });
	});
	it('after a lost answer it asks again, under the same key; another request has another', async () => {
		const lost = () => Promise.reject(new TypeError('failed'));
		answers.push(lost, json({ undone: [] }), json({ undone: [] }));
		expect(await api('POST /readings/undo')).toEqual({ undone: [] });
		await api('POST /readings/undo');
		const keys = asked.map((a) => (a.init.headers as Record<string, string>)['idempotency-key']);
		expect(keys[0]).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
		expect([keys[1] === keys[0], keys[2] === keys[0]]).toEqual([true, false]);
	});
	it('what no answer came to at all goes under the same key when it is asked for again by hand, and under another once answered', async () => {
		const lost = () => Promise.reject(new TypeError('failed'));
		const put = (name: string) => api('POST /recipes/put-away', { body: { name } }).catch((e) => e);
		answers.push(lost, lost, lost, json({}), json({ detail: 'No.' }, 422), json({}), json({}));
		expect(await put('winter')).toMatchObject({ unreachable: true });
		await put('summer');
		await put('winter');
		await put('winter');
		await put('winter');
		const keys = asked.map((a) => (a.init.headers as Record<string, string>)['idempotency-key']);
		// Three tries, another recipe, the second press, and two more of which the first was refused.
		expect(keys.map((k) => keys.indexOf(k))).toEqual([0, 0, 0, 3, 0, 5, 6]);
	});
	it('keys are made where the browser only gives random bytes', () => {
		vi.stubGlobal('crypto', { getRandomValues: crypto.getRandomValues.bind(crypto) });
		const keys = Array.from({ length: 50 }, newKey);
		expect(new Set(keys).size).toBe(50);
		for (const k of keys) expect(k).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
	});
	it('a page of a proxy in the place of an answer is a refusal with its status', async () => {
		answers.push(() => new Response('<html>', { status: 502 }));
		expect(await api('POST /rounds').catch((e) => e)).toMatchObject({ message: 'The server answered 502.' });
	});
});

describe('long work', () => {
	it('is begun in the background, followed to its end, and can be come back to meanwhile', async () => {
		const job = {
			id: 'j1',
			kind: 'import',
			state: 'running',
			done: 1200,
			phase: 'lines read',
			result: null,
			message: '',
		};
		answers.push(json({ job: 'j1' }, 202), json(job), json({ ...job, state: 'done', result: { stored: 3 } }));
		const id = await begin('POST /import', { query: { dry_run: '1' }, file: { data: 'time\n', type: 'text/csv' } });
		expect(asked[0]).toMatchObject({
			url: '/api/v1/import?dry_run=1&background=1',
			init: { body: 'time\n', headers: { 'content-type': 'text/csv' } },
		});
		const said: string[] = [];
		const following = followJob('POST /import', 'import', id, (words) => said.push(words));
		expect(pendingJob('import')).toBe('j1');
		expect(await following).toEqual({ stored: 3 });
		expect([said, pendingJob('import')]).toEqual([['1,200 lines read …'], null]);
	});
	it('that fails says why, and is not waited for any more', async () => {
		answers.push(json({ state: 'failed', message: 'The file ended in the middle.' }));
		await expect(followJob('POST /import', 'import', 'j2', () => undefined)).rejects.toThrow('ended in the middle');
		expect(pendingJob('import')).toBeNull();
	});
});
