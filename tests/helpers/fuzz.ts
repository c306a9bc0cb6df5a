import { Agent, request } from 'node:http';
import { seeded } from '@/sim/random';
import { againstContract, operationAt } from './contract-check';

/**
 * Requests made from the OpenAPI document: most nearly right, each bent somewhere. What is true of every answer is told where it is
 * not: no fault of the server, none over a second, every refusal problem details, every answer as the contract has it.
 */
interface Schema {
	type?: string | string[];
	enum?: unknown[];
	const?: unknown;
	anyOf?: Schema[];
	oneOf?: Schema[];
	allOf?: Schema[];
	properties?: Record<string, Schema>;
	required?: string[];
	items?: Schema;
	additionalProperties?: Schema | boolean;
	propertyNames?: Schema;
	format?: string;
	minimum?: number;
	maximum?: number;
	minItems?: number;
}
interface Described {
	parameters?: { name: string; in: string; required: boolean; schema: Schema }[];
	requestBody?: { content: Record<string, { schema: Schema }> };
}
export interface OpenApi {
	paths: Record<string, Record<string, Described>>;
}

/** Names and numbers that are there, so that requests come further than the first check. */
export interface Vocabulary {
	words: readonly string[];
	ids: readonly number[];
	/** Times of what is there, ISO. */
	times: readonly string[];
}

const NASTY: readonly unknown[] = [
	null,
	true,
	'',
	' ',
	'\u0000',
	'a\u0000b',
	'__proto__',
	'constructor',
	"'; DROP TABLE reading; --",
	'<img src=x onerror=alert(1)>',
	'😀🌱',
	'\u202Eabc',
	'%',
	'../../etc',
	'bed 1/2',
	'x'.repeat(5000),
	'NaN',
	'Infinity',
	'-0',
	'1e400',
	'5,8',
	'5.0..6.0',
	'9999-12-31T23:59:59-14:00',
	'0000-01-01T00:00:00Z',
	'2026-02-30T00:00:00Z',
	'2026-07-01',
	0,
	-1,
	-0.0001,
	1e-320,
	1e308,
	-1e308,
	Number.MAX_SAFE_INTEGER,
	2 ** 63,
	0.1,
	[],
	{},
	[[[[[[]]]]]],
	{ toString: 'x' },
];

class Maker {
	constructor(
		private readonly chance: () => number,
		private readonly known: Vocabulary,
	) {}

	pick<T>(list: readonly T[]): T {
		return list[Math.floor(this.chance() * list.length)]!;
	}
	private once(in_: number): boolean {
		return this.chance() * in_ < 1;
	}

	value(schema: Schema, name = ''): unknown {
		if (this.once(25)) return this.pick(NASTY);
		if (schema.const !== undefined) return schema.const;
		if (schema.enum) return this.pick(schema.enum);
		const among = schema.anyOf ?? schema.oneOf;
		if (among) return this.value(this.pick(among), name);
		if (schema.allOf) return this.value(schema.allOf[0]!, name);
		const type = Array.isArray(schema.type) ? this.pick(schema.type) : schema.type;
		if (type === 'object' || schema.properties) return this.object(schema);
		if (type === 'array')
			return Array.from({ length: (schema.minItems ?? 0) + Math.floor(this.chance() * 3) }, () =>
				this.value(schema.items ?? {}, name),
			);
		if (type === 'number' || type === 'integer') return this.number(schema, name, type === 'integer');
		if (type === 'boolean') return this.once(2);
		if (type === 'null') return null;
		return this.text(schema, name);
	}

	private object(schema: Schema): unknown {
		const out: Record<string, unknown> = {};
		for (const [key, of] of Object.entries(schema.properties ?? {})) {
			const needed = schema.required?.includes(key) ?? false;
			if (needed ? !this.once(40) : this.once(2)) out[key] = this.value(of, key);
		}
		if (typeof schema.additionalProperties === 'object' && this.once(2))
			out[nameOf(this.value(schema.propertyNames ?? { type: 'string' }))] = this.value(schema.additionalProperties);
		if (this.once(40)) out[this.pick(['extra', '__proto__', 'constructor', ''])] = 1;
		return out;
	}

	private number(schema: Schema, name: string, whole: boolean): number {
		if (/(^|_)(id|follows|round|lot|supersedes)$/.test(name) && !this.once(4)) return this.pick(this.known.ids);
		const low = Math.max(schema.minimum ?? -5, -1e6);
		const high = Math.min(schema.maximum ?? 3000, 1e6);
		const at = this.pick([low, high, low + this.chance() * (high - low), this.chance() * 14, this.chance() * 100]);
		return whole ? Math.round(at) : at;
	}

	private text(schema: Schema, name: string): string {
		if (schema.format === 'date-time' || /time|from|to|_at$|^at$/.test(name)) return this.pick(this.known.times);
		if (/unit/.test(name))
			return this.pick(['pH', 'mS/cm', 'uS/cm', 'C', 'F', 'L', 'mL', 'ppm', 'ppm500', 'mg/L', '%']);
		if (/value|ph|digits/.test(name) && !this.once(3)) return (this.chance() * 14).toFixed(2);
		return this.pick(this.known.words);
	}
}

interface Asked {
	method: string;
	path: string;
	headers: Record<string, string>;
	body: string | null;
}

const METHODS = ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'HEAD', 'OPTIONS'];

function make(api: OpenApi, known: Vocabulary, chance: () => number, uuid: () => string): Asked {
	const maker = new Maker(chance, known);
	const pattern = maker.pick(Object.keys(api.paths));
	const methods = api.paths[pattern]!;
	const method = maker.pick(Object.keys(methods));
	const { parameters = [], requestBody } = methods[method]!;
	const text = (v: unknown) => (typeof v === 'object' ? JSON.stringify(v) : String(v));
	const encode = (v: unknown) => (chance() < 0.03 ? text(v) : encodeURIComponent(text(v)));
	const raw = (text: string) => text.replace(/[^\x21-\x7e]/g, '');
	const path = pattern.replace(/\{(\w+)\}/g, (_, name: string) =>
		chance() < 0.06
			? maker.pick(['%00', '%', '%zz', '..', '%2F', '', 'constructor', '-1', '1e3', '99999999999999999999'])
			: raw(encode(name === 'id' ? maker.pick(known.ids) : maker.pick(known.words))),
	);
	const query = parameters
		.filter((p) => p.in === 'query' && (p.required || chance() < 0.3))
		.map((p) => `${p.name}=${raw(encode(maker.value(p.schema, p.name)))}`);
	if (chance() < 0.02) query.push('unknown=1');
	const headers: Record<string, string> = {};
	let body: string | null = null;
	const content = requestBody?.content['application/json'];
	if (content) {
		headers['content-type'] = 'application/json';
		body = JSON.stringify(maker.value(content.schema));
		const bent = chance();
		if (bent < 0.01) body = body.slice(0, -1);
		else if (bent < 0.015) body = '';
		else if (bent < 0.02) headers['content-type'] = 'text/plain';
	} else if (requestBody) {
		headers['content-type'] = 'text/csv';
		const lines = Array.from({ length: 3 }, () =>
			[
				maker.pick(known.times),
				...Array.from({ length: 4 }, () => maker.pick([...known.words, 'ph', '5.9', 'pH', '"'])),
			].join(','),
		);
		body = `${maker.pick(['time,station,quantity,value,unit', 'time,station,kind,amount,unit,product', 'a,b', ''])}\n${lines.join('\n')}`;
	}
	if (method !== 'get' && chance() < 0.5) headers['idempotency-key'] = chance() < 0.05 ? 'no-uuid' : uuid();
	if (chance() < 0.1) headers.accept = maker.pick(['text/csv', 'text/html', 'application/json', '*/*', 'x']);
	return {
		method: chance() < 0.03 ? maker.pick(METHODS) : method.toUpperCase(),
		path: `/api/v1${path}${query.length > 0 ? `?${query.join('&')}` : ''}`,
		headers,
		body,
	};
}

interface Got {
	status: number;
	type: string;
	text: string;
	ms: number;
}
const send = (base: string, agent: Agent, asked: Asked): Promise<Got> =>
	new Promise((resolve, reject) => {
		const start = performance.now();
		const { hostname, port } = new URL(base);
		const r = request(
			{
				agent,
				hostname,
				port,
				method: asked.method,
				path: asked.path,
				headers: { ...asked.headers, 'content-length': String(Buffer.byteLength(asked.body ?? '')) },
			},
			(response) => {
				let text = '';
				response.setEncoding('utf8');
				response.on('data', (d) => {
					text += d;
					// A stream without end is ended by whoever has seen enough.
					if (response.headers['content-type']?.includes('event-stream')) response.destroy();
				});
				const done = () =>
					resolve({
						status: response.statusCode!,
						type: response.headers['content-type'] ?? '',
						text,
						ms: performance.now() - start,
					});
				response.on('end', done);
				response.on('close', done);
			},
		);
		r.on('error', reject);
		r.setTimeout(PATIENCE_MS, () => r.destroy(new Error('no answer in a minute')));
		r.end(asked.body ?? undefined);
	});

/** What goes through the whole book takes its time. */
const WHOLE = /\/(?:export\.zip|backups|sample)\b/;
const PATIENCE_MS = 60_000;
const LATE_MS = 1000;

function wrongWith(asked: Asked, got: Got): string | null {
	if (got.status >= 500) return `answers ${got.status}: ${got.text.slice(0, 200)}`;
	const path = asked.path.slice('/api/v1'.length).split('?')[0]!;
	if (asked.method === 'HEAD' || asked.method === 'OPTIONS' || got.type.includes('event-stream') || got.status === 304)
		return null;
	if (got.status >= 400 && !got.type.includes('problem+json'))
		return `refuses ${got.status} as ${got.type || 'nothing'}`;
	// What is below another address than those of the contract is told by its refusal alone.
	if (!got.type.includes('json') && !operationAt(asked.method, path)) return null;
	return againstContract(
		asked.method,
		path,
		got.status,
		got.type,
		got.type.includes('json') ? JSON.parse(got.text) : null,
	);
}

export interface Fuzzed {
	/** What was asked and what is wrong with its answer. */
	wrong: string[];
	/** Those that took more than a second, but for what goes through the whole book: on a busy machine some do. */
	late: string[];
	/** How many were answered with which status. */
	statuses: Record<number, number>;
	slowestMs: number;
	slowest: string;
}

export async function fuzz(base: string, known: Vocabulary, count: number, seed: number): Promise<Fuzzed> {
	const api = (await (await fetch(`${base}/api/v1/openapi.json`)).json()) as OpenApi;
	const chance = seeded(seed).next;
	const agent = new Agent({ keepAlive: true, maxSockets: 4 });
	const hex = (n: number) => Array.from({ length: n }, () => Math.floor(chance() * 16).toString(16)).join('');
	const uuid = () => `${hex(8)}-${hex(4)}-4${hex(3)}-a${hex(3)}-${hex(12)}`;
	const result: Fuzzed = { wrong: [], late: [], statuses: {}, slowestMs: 0, slowest: '' };
	for (let i = 0; i < count; i++) {
		const asked = make(api, known, chance, uuid);
		// Once somebody is named nobody else is heard: it would be a run of refusals.
		if (asked.path.includes('/people/owner')) asked.body = '{}';
		const got = await send(base, agent, asked).catch((error: Error) => error);
		const wrong = got instanceof Error ? got.message : wrongWith(asked, got);
		if (!(got instanceof Error)) {
			result.statuses[got.status] = (result.statuses[got.status] ?? 0) + 1;
			if (got.ms > LATE_MS && !WHOLE.test(asked.path))
				result.late.push(`${asked.method} ${asked.path} took ${Math.round(got.ms)} ms`);
			if (got.ms > result.slowestMs) {
				result.slowestMs = got.ms;
				result.slowest = `${asked.method} ${asked.path}`;
			}
		}
		if (wrong) result.wrong.push(`${i}: ${asked.method} ${asked.path} ${asked.body?.slice(0, 300) ?? ''} → ${wrong}`);
	}
	agent.destroy();
	return result;
}

/** Whatever was made for a name, as one. */
const nameOf = (made: unknown): string => (typeof made === 'string' ? made : (JSON.stringify(made) ?? ''));
