import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { RESOURCES } from '@/contract';
import type { Operation } from '@/contract/operation';
import { GENERAL_PROBLEMS, PROBLEMS } from '@/contract/problems';
import { openApi } from '@/server/openapi';
import { routes } from '@/server/routes';

type Described = {
	summary: string;
	operationId: string;
	tags: string[];
	parameters?: { name: string; in: string; required: boolean; schema: object }[];
	requestBody?: { content: Record<string, { schema: Record<string, unknown> }> };
	responses: Record<string, { description: string; content?: Record<string, { schema: Record<string, unknown> }> }>;
};
const doc = openApi() as { paths: Record<string, Record<string, Described>> };
const described = Object.entries(doc.paths).flatMap(([path, methods]) =>
	Object.entries(methods).map(([method, d]) => ({ path, method, d })),
);
const operations = RESOURCES.flatMap(({ operations: o }) => Object.entries<Operation>(o));
const root = join(import.meta.dirname, '../../..');

describe('the document of the API', () => {
	it('describes every operation that is answered, and no other', () => {
		const answered = routes.map((r) => `${r.method.toLowerCase()} ${r.path.replace(/:(\w+)/g, '{$1}')}`);
		expect(described.map(({ path, method }) => `${method} ${path}`).sort()).toEqual(answered.sort());
		expect(answered).toHaveLength(operations.length);
	});
	it('each has words of its own, a heading and a name that no other has', () => {
		expect(new Set(described.map(({ d }) => d.operationId)).size).toBe(described.length);
		expect(new Set(described.map(({ d }) => d.summary)).size).toBe(described.length);
		for (const { d } of described) expect(d.tags).toHaveLength(1);
	});
	it('names every part of an address, and what may follow it', () => {
		for (const { path, d } of described)
			for (const [, name] of path.matchAll(/\{(\w+)\}/g))
				expect(d.parameters?.find((p) => p.name === name)).toMatchObject({ in: 'path', required: true });
		const readings = doc.paths['/readings']!.get!.parameters!.map((p) => p.name);
		expect(readings).toEqual(
			expect.arrayContaining(['from', 'to', 'station', 'quantity', 'cursor', 'limit', 'format']),
		);
	});
	it('tells the wire’s side of every schema: underscores, and times as text', () => {
		const text = JSON.stringify(doc);
		for (const name of ['ecUsCm', 'tempC', 'canonicalValue', 'startedAt', 'finishedAt', 'volumeL'])
			expect(text).not.toContain(`"${name}"`);
		const body = doc.paths['/readings/{id}/decision']!.post!.requestBody!.content['application/json']!.schema;
		expect(body).toMatchObject({ required: ['kind'], additionalProperties: false });
		const round = doc.paths['/rounds']!.post!.responses[201]!.content!['application/json']!.schema as {
			properties: object;
		};
		expect(round.properties).toMatchObject({ started_at: { type: 'string' } });
	});
	it('says under which status it refuses with what; what all may refuse with stands under default', () => {
		for (const [address, o] of operations)
			for (const code of o.problems ?? []) {
				const [method, path] = address.split(' ') as [string, string];
				const responses = doc.paths[path.replace(/:(\w+)/g, '{$1}')]![method.toLowerCase()]!.responses;
				expect([address, responses[PROBLEMS[code]]?.description]).toEqual([address, expect.stringContaining(code)]);
				expect([address, GENERAL_PROBLEMS.includes(code)]).toEqual([address, false]);
			}
		expect(doc.paths['/health']!.get!.responses.default!.description).toContain('database-down');
	});
});

describe('refusals', () => {
	const files = execFileSync('git', ['ls-files', 'src'], { cwd: root, encoding: 'utf8' }).trim().split('\n');
	const source = files.map((f) => readFileSync(join(root, f), 'utf8')).join('\n');
	const declared = new Set([...GENERAL_PROBLEMS, ...operations.flatMap(([, o]) => o.problems ?? [])]);
	it('each that is made is declared by an operation, or by all', () => {
		const ofServer = files
			.filter((f) => f.startsWith('src/server/') || f === 'src/middleware.ts')
			.map((f) => readFileSync(join(root, f), 'utf8'))
			.join('\n');
		const made = [
			...source.matchAll(/new Refusal\(\s*'([a-z-]+)'/g),
			...ofServer.matchAll(/\bproblem\(\s*'([a-z-]+)'/g),
		].map((m) => m[1]!);
		expect(made.length).toBeGreaterThan(40);
		for (const code of made) expect([code, (declared as Set<string>).has(code)]).toEqual([code, true]);
	});
	it('none stands in the table that nobody refuses with', () => {
		for (const code of Object.keys(PROBLEMS))
			expect([code, source.split(`'${code}'`).length > 2]).toEqual([code, true]);
		for (const code of Object.keys(PROBLEMS)) expect([code, (declared as Set<string>).has(code)]).toEqual([code, true]);
	});
});
