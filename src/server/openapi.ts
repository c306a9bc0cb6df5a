import { type ZodType, z } from 'zod';
import { RESOURCES } from '@/contract';
import type { Operation } from '@/contract/operation';
import { GENERAL_PROBLEMS, PROBLEMS, problem } from '@/contract/problems';
import { VERSION } from './version';

/** A schema as it is on the wire: that side of every codec. */
function jsonSchema(schema: ZodType) {
	const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
	return rest;
}
const text = { schema: { type: 'string' } };
const refusal = (codes: readonly string[]) => ({
	description: `Problem details (RFC 9457): ${codes.join(', ')}`,
	content: { 'application/problem+json': { schema: jsonSchema(problem) } },
});

function responses(o: Operation): Record<string, unknown> {
	const content: Record<string, unknown> = {};
	if (o.answer) content['application/json'] = { schema: jsonSchema(o.answer) };
	for (const type of o.alsoAnswers ?? []) content[type] = text;
	const problems = o.problems ?? [];
	const statuses = new Set(problems.map((code) => PROBLEMS[code]));
	return {
		[o.status ?? 200]: { description: 'What was asked for', content },
		...(o.background
			? {
					202: {
						description: 'With background=1: the job that does it',
						content: { 'application/json': { schema: jsonSchema(z.object({ job: z.string() })) } },
					},
				}
			: {}),
		...Object.fromEntries(
			[...statuses].map((status) => [status, refusal(problems.filter((code) => PROBLEMS[code] === status))]),
		),
		default: refusal(GENERAL_PROBLEMS),
	};
}

function describe(o: Operation, method: string, path: string, tag: string): Record<string, unknown> {
	const parameters: unknown[] = [...path.matchAll(/:(\w+)/g)].map((m) => ({
		name: m[1],
		in: 'path',
		required: true,
		schema: { type: 'string' },
	}));
	if (method !== 'get' && !o.storesNothing)
		parameters.push({
			name: 'Idempotency-Key',
			in: 'header',
			required: false,
			schema: { type: 'string', format: 'uuid' },
			description:
				'Made by the caller, a new one for every entry: a repeat after a lost answer is given the first answer and stores nothing',
		});
	if (o.query) {
		const schema = jsonSchema(o.query) as {
			properties?: Record<string, { description?: string }>;
			required?: string[];
		};
		for (const [name, property] of Object.entries(schema.properties ?? {}))
			parameters.push({
				name,
				in: 'query',
				required: schema.required?.includes(name) ?? false,
				schema: property,
				...(property.description ? { description: property.description } : {}),
			});
	}
	const requestBody = o.body
		? { required: true, content: { 'application/json': { schema: jsonSchema(o.body) } } }
		: o.rawBody
			? { required: true, content: Object.fromEntries(o.rawBody.map((type) => [type, text])) }
			: undefined;
	return {
		summary: o.summary,
		tags: [tag],
		operationId: `${method}${path.replace(/[/:.]+(\w)/g, (_, c: string) => c.toUpperCase())}`,
		...(parameters.length > 0 ? { parameters } : {}),
		...(requestBody ? { requestBody } : {}),
		responses: responses(o),
	};
}

/** The OpenAPI 3.1 document, from the contract that validates the requests. */
export function openApi(): Record<string, unknown> {
	const paths: Record<string, Record<string, unknown>> = {};
	for (const { tag, operations } of RESOURCES)
		for (const [address, o] of Object.entries<Operation>(operations)) {
			const [verb, pattern] = address.split(' ') as [string, string];
			const method = verb.toLowerCase();
			const path = pattern.replace(/:(\w+)/g, '{$1}');
			paths[path] ??= {};
			paths[path][method] = describe(o, method, pattern, tag);
		}
	return {
		openapi: '3.1.0',
		info: {
			title: 'Cordwain',
			version: VERSION,
			summary: 'Know which readings to believe',
			license: { name: 'MIT', identifier: 'MIT' },
		},
		servers: [{ url: '/api/v1' }],
		paths,
	};
}
