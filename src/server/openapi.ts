import { type ZodType, z } from 'zod';
import type { Operation } from './operation';
import { VERSION } from './version';

const jsonSchema = (schema: ZodType, io: 'input' | 'output') => {
	const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
	return rest;
};

const problemSchema = {
	type: 'object',
	properties: {
		type: { type: 'string' },
		title: { type: 'string' },
		status: { type: 'integer' },
		detail: { type: 'string' },
		errors: {
			type: 'array',
			items: {
				type: 'object',
				properties: { path: { type: 'string' }, message: { type: 'string' } },
				required: ['path', 'message'],
			},
		},
	},
	required: ['type', 'title', 'status', 'errors'],
};

function describe(o: Operation): Record<string, unknown> {
	const parameters: unknown[] = [...o.path.matchAll(/:(\w+)/g)].map((m) => ({
		name: m[1],
		in: 'path',
		required: true,
		schema: { type: 'string' },
	}));
	if (o.query) {
		const schema = jsonSchema(o.query, 'input') as {
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
	const content: Record<string, unknown> = {};
	if (o.response) content['application/json'] = { schema: jsonSchema(o.response, 'output') };
	for (const type of o.alsoAnswers ?? []) content[type] = { schema: { type: 'string' } };
	const requestBody = o.body
		? { required: true, content: { 'application/json': { schema: jsonSchema(o.body, 'input') } } }
		: o.rawBody
			? { required: true, content: Object.fromEntries(o.rawBody.map((type) => [type, { schema: { type: 'string' } }])) }
			: undefined;
	return {
		summary: o.summary,
		tags: [o.tag],
		operationId: `${o.method.toLowerCase()}${o.path.replace(/[/:.]+(\w)/g, (_, c: string) => c.toUpperCase())}`,
		...(parameters.length > 0 ? { parameters } : {}),
		...(requestBody ? { requestBody } : {}),
		responses: {
			[o.status ?? 200]: { description: 'What was asked for', content },
			default: {
				description: 'Problem details (RFC 9457)',
				content: { 'application/problem+json': { schema: problemSchema } },
			},
		},
	};
}

/** The OpenAPI 3.1 document, from the schemas that validate the requests. */
export function openApi(operations: readonly Operation[]): Record<string, unknown> {
	const paths: Record<string, Record<string, unknown>> = {};
	for (const o of operations) {
		const path = o.path.replace(/:(\w+)/g, '{$1}');
		paths[path] ??= {};
		paths[path][o.method.toLowerCase()] = describe(o);
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
