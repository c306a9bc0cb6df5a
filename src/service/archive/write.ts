import { createHash } from 'node:crypto';
import { Zip, ZipDeflate } from 'fflate';
import { type ArchivedTable, archivedTables } from '@/store/archive/catalog';
import { atOneMoment, copyOut, counters, sampleMonths, schemaVersion } from '@/store/archive/copy';
import { listIrrigations } from '@/store/irrigations';
import type { Client, Pool } from '@/store/pool';
import { listSites, workFor } from '@/store/site';
import { calibrationsCsv, eventsCsv, irrigationsCsv, readingsCsv } from '../export';
import { loadSite } from '../site';
import { FORMAT_VERSION, MANIFEST, type Manifest, schemaFile, tableFile } from './format';

/** Every file of the archive has this time: when it was made is no part of it. */
const NO_TIME = new Date(1980, 0, 1);
const LEVEL = 6;
const PIECE = 65_536;
const LINE_END = 0x0a;
const QUOTE = 0x22;

/** Counts the records of a CSV as it goes by: a line feed within quotes ends none. */
class Records {
	count = -1;
	private quoted = false;
	take(chunk: Uint8Array): void {
		for (const byte of chunk)
			if (byte === QUOTE) this.quoted = !this.quoted;
			else if (byte === LINE_END && !this.quoted) this.count++;
	}
}

/** The schema of a table as a table schema (one JSON beside each CSV: names, types, key, what it names). */
const schemaOf = (t: ArchivedTable): string =>
	`${JSON.stringify(
		{
			fields: t.columns.map(({ name, type, nullable }) => ({ name, type, constraints: { required: !nullable } })),
			primaryKey: t.key,
			refersTo: t.needs,
			missingValues: ['unquoted and empty'],
			timezone: 'UTC',
		},
		null,
		1,
	)}\n`;

/** Pieces of one size, however they came: what is packed depends on where a piece ends. */
async function* evenly(chunks: AsyncIterable<Uint8Array | string> | Iterable<string>): AsyncGenerator<Uint8Array> {
	let held: Uint8Array[] = [];
	let size = 0;
	for await (const chunk of chunks) {
		const data = typeof chunk === 'string' ? Buffer.from(chunk) : chunk;
		held.push(data);
		size += data.length;
		if (size < PIECE) continue;
		const all = Buffer.concat(held);
		let at = 0;
		for (; at + PIECE <= all.length; at += PIECE) yield all.subarray(at, at + PIECE);
		held = [all.subarray(at)];
		size = all.length - at;
	}
	if (size > 0) yield Buffer.concat(held);
}

/**
 * Writes the archive of one moment, piece by piece as it is asked for.
 * @param siteId of one site and its people; null: of the installation
 */
export async function* writeArchive(pool: Pool, siteId: number | null): AsyncGenerator<Uint8Array> {
	const pieces: Uint8Array[] = [];
	let broken: Error | null = null;
	const zip = new Zip((error, data) => {
		if (error) broken = error;
		else pieces.push(data);
	});
	const files: Manifest['files'] = {};
	const drained = function* () {
		if (broken) throw broken;
		while (pieces.length > 0) yield pieces.shift()!;
	};
	async function* add(name: string, chunks: AsyncIterable<Uint8Array | string> | Iterable<string>) {
		const entry = new ZipDeflate(name, { level: LEVEL });
		entry.mtime = NO_TIME;
		zip.add(entry);
		const sha256 = createHash('sha256');
		const records = new Records();
		let bytes = 0;
		for await (const data of evenly(chunks)) {
			sha256.update(data);
			bytes += data.length;
			if (name.endsWith('.csv')) records.take(data);
			entry.push(data);
			yield* drained();
		}
		entry.push(new Uint8Array(0), true);
		if (name !== MANIFEST) files[name] = { rows: Math.max(records.count, 0), bytes, sha256: sha256.digest('hex') };
		yield* drained();
	}
	// A generator cannot be handed a client by a callback; what it needs goes through a queue of one.
	yield* held(pool, async function* (client) {
		const tables = await archivedTables(client);
		for (const t of tables) {
			yield* add(tableFile(t.name), copyOut(client, t, siteId));
			yield* add(schemaFile(t.name), [schemaOf(t)]);
		}
		const sites = (await listSites(client)).filter((s) => siteId === null || s.id === siteId);
		for (const { id } of sites) {
			await workFor(client, id);
			const site = (await loadSite(client))!;
			// Of several each has a folder of its own.
			const own = sites.length > 1 ? `site-${id}/` : '';
			yield* add(`${own}readings.csv`, readingsCsv(client, site, {}));
			yield* add(`${own}events.csv`, eventsCsv(client, site, {}));
			yield* add(`${own}calibrations.csv`, calibrationsCsv(client, site, {}));
			yield* add(`${own}irrigations.csv`, irrigationsCsv(await listIrrigations(client, id, {})));
		}
		const m: Manifest = {
			format: 'cordwain archive',
			version: FORMAT_VERSION,
			schema: await schemaVersion(client),
			sites: sites.map((s) => s.name),
			counters: await counters(client, siteId),
			months: await sampleMonths(client, siteId),
			tables: tables.map((t) => t.name),
			files,
		};
		yield* add(MANIFEST, [`${JSON.stringify(m, null, 1)}\n`]);
		zip.end();
		yield* drained();
	});
}

/** What a generator gives while a transaction of one moment is held for it. */
async function* held<T>(pool: Pool, work: (client: Client) => AsyncGenerator<T>): AsyncGenerator<T> {
	let begin: (client: Client) => void = () => {};
	let end: () => void = () => {};
	const client = new Promise<Client>((done) => {
		begin = done;
	});
	const over = new Promise<void>((done) => {
		end = done;
	});
	const transaction = atOneMoment(pool, async (c) => {
		begin(c);
		await over;
	});
	transaction.catch(() => {});
	try {
		yield* work(
			await Promise.race([client, transaction.then(() => Promise.reject(new Error('The database went away.')))]),
		);
	} finally {
		end();
		await transaction.catch(() => {});
	}
}
