import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pathShape } from '@/server/log';
import { type Application, startApplication } from '../helpers/application';

let app: Application;
let written = '';
beforeAll(async () => {
	app = await startApplication('demo', (text) => {
		written += text;
	});
});
afterAll(() => app.stop());

const lines = (): Record<string, unknown>[] =>
	written
		.split('\n')
		.filter((l) => l.startsWith('{'))
		.map((l) => JSON.parse(l));
/** The line of a request, once it has come. */
async function lineOf(id: string | null): Promise<Record<string, unknown>> {
	for (let i = 0; i < 100; i++) {
		const line = lines().find((l) => l.id === id);
		if (line) return line;
		await new Promise((resolve) => setTimeout(resolve, 20));
	}
	throw new Error(`no line for ${id}`);
}

describe('the log', () => {
	it('names each request as its answer does, with its status and how long it took', async () => {
		const answer = await fetch(`${app.base}/api/v1/stations`);
		const line = await lineOf(answer.headers.get('x-request-id'));
		expect(line).toMatchObject({ method: 'GET', path: '/api/v1/stations', status: 200, msg: 'request' });
		expect(line.ms).toBeGreaterThan(0);
		const other = await fetch(`${app.base}/api/v1/stations`);
		expect(other.headers.get('x-request-id')).not.toBe(answer.headers.get('x-request-id'));
	});
	it('holds nothing that anybody entered: no note, no value, no code, no query', async () => {
		const answer = await fetch(`${app.base}/api/v1/readings`, {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({
				station: 'pond',
				instrument: 'plum',
				quantity: 'ph',
				value: '6.0719',
				unit: 'pH',
				note: 'the heron again',
			}),
		});
		expect(answer.status).toBe(201);
		await lineOf(answer.headers.get('x-request-id'));
		const asked = await fetch(`${app.base}/api/v1/stations/gutters-drain/series?quantity=ph&from=yesterday`);
		expect(asked.status).toBe(422);
		await lineOf(asked.headers.get('x-request-id'));
		for (const value of ['6.0719', 'heron', 'gutters', 'yesterday', 'plum']) expect(written).not.toContain(value);
	});
	it('a path without what was put into it', () => {
		expect(pathShape('/api/v1/stations/pond/series')).toBe('/api/v1/stations/…');
		expect(pathShape('/probes/brass/ph')).toBe('/probes/…');
		expect(pathShape('/')).toBe('/');
		expect(pathShape('/bench')).toBe('/bench');
	});
});
