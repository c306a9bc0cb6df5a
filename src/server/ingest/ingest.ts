import { decimal } from '@/core/quantity';
import { csvRecords } from '@/files/csv-stream';
import { cell, READINGS, readHeader } from '@/files/table';
import { Refusal } from '@/service/refusal';
import { takeSamples } from '@/service/sensors/ingest';
import { tokenHash } from '@/service/sensors/nodes';
import { MOST_SAMPLES, type Sent, SentSamples } from '@/service/sensors/read-samples';
import type { Pool } from '@/store/pool';
import { type NodeRow, nodeByToken } from '@/store/sensors/nodes';
import { announce } from '../changes';
import { databaseOf } from '../database';
import { lookSoon } from '../watch/watching';
import { bodyText } from './body';
import { inTurn } from './in-turn';
import { waitOf } from './rate';

const tooMany = () =>
	new Refusal('too-many-samples', [
		{ path: 'samples', message: 'At most 10,000 samples a request; send the rest in another.' },
	]);

/**
 * Reads what a node sends over HTTP, stores it, and answers once it is stored.
 * @param home of the installation: the token alone tells whose node it is
 */
export async function ingest(home: Pool, request: Request, now: number) {
	const node = await nodeOf(home, request, now);
	const text = await bodyText(request);
	const kind = request.headers.get('content-type') ?? '';
	const sent = /csv/i.test(kind) ? await fromCsv(text, node, now) : fromJson(text, node, now);
	return takeAndTell(node, sent, now);
}

/** Stores what a node sent, by whichever road, and tells the pages that are open. */
export async function takeAndTell(node: NodeRow & { siteId: number }, sent: Sent, now: number) {
	const pool = await databaseOf(node.siteId);
	const { station, ...taken } = await inTurn(node.id, () => takeSamples(pool, node, sent, now));
	if (taken.accepted > 0) {
		announce(node.siteId, { kind: 'sensors', station, by: node.code, readings: [] });
		lookSoon(node.siteId);
	}
	return taken;
}

async function nodeOf(pool: Pool, request: Request, now: number) {
	const token = /^Bearer\s+(\S+)$/i.exec(request.headers.get('authorization')?.trim() ?? '')?.[1];
	const node = token ? await nodeByToken(pool, tokenHash(token)) : null;
	if (!node)
		throw new Refusal('unknown-token', [
			{
				path: 'Authorization',
				message:
					'Send the token of a node as “Authorization: Bearer …”. One that is not known, or was revoked, is of no use; Setup makes a new one.',
			},
		]);
	const wait = waitOf(node.id, now);
	if (wait > 0)
		throw new Refusal(
			'too-often',
			[
				{
					path: '',
					message: 'This node sends too often. Collect samples and send them together, at most ten requests a second.',
				},
			],
			{ retry_after_s: wait },
		);
	return node;
}

function fromJson(text: string, node: NodeRow, now: number): Sent {
	let body: unknown;
	try {
		body = JSON.parse(text);
	} catch {
		throw new Refusal('broken-json', [{ path: '', message: 'The body is not JSON.' }]);
	}
	const samples = (body as { samples?: unknown } | null)?.samples;
	if (!Array.isArray(samples) || samples.length === 0)
		throw new Refusal('invalid', [
			{
				path: 'samples',
				message: 'a list: {"samples":[{"at":"2026-03-01T07:30:00Z","quantity":"ph","value":5.9,"unit":"pH"}]}',
			},
		]);
	if (samples.length > MOST_SAMPLES) throw tooMany();
	const sent = new SentSamples(node.instrument, now);
	for (let i = 0; i < samples.length; i++) {
		const s: unknown = samples[i];
		if (typeof s !== 'object' || s === null) sent.refuse(`samples.${i}`, 'must be an object');
		else sent.take((field) => `samples.${i}.${field}`, s);
	}
	return sent.done();
}

async function fromCsv(text: string, node: NodeRow, now: number): Promise<Sent> {
	const sent = new SentSamples(node.instrument, now);
	let header: ReturnType<typeof readHeader> | null = null;
	let lines = 0;
	async function* source() {
		yield text;
	}
	for await (const records of csvRecords(source()))
		for (const { line, cells, damage } of records) {
			if (header === null) {
				header = readHeader(cells, READINGS);
				if (!header.ok) throw new Refusal('wrong-header', [{ path: 'line 1', message: header.problem.message }]);
				continue;
			}
			if (!header.ok || (cells.length === 1 && cells[0] === '')) continue;
			if (++lines > MOST_SAMPLES) throw tooMany();
			const of = (column: string) =>
				cell(cells, (header as { ok: true; header: Parameters<typeof cell>[1] }).header, column);
			if (damage !== null) sent.refuse(`line ${line}`, damage);
			else if (of('station') !== '' && of('station') !== node.station)
				sent.refuse(
					`line ${line}, station`,
					`this node stands at ${node.station}; leave the station empty, or move the node in Setup`,
				);
			else
				sent.take((field) => `line ${line}, ${field === 'at' ? 'time' : field === 'probe' ? 'instrument' : field}`, {
					at: of('time'),
					probe: of('instrument'),
					quantity: of('quantity').toLowerCase(),
					value: decimal(of('value')),
					unit: of('unit'),
				});
		}
	if (lines === 0) throw new Refusal('invalid', [{ path: '', message: 'There is no sample in it.' }]);
	return sent.done();
}
