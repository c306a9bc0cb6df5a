import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type ArchivedTable, archivedTables } from '@/store/archive/catalog';
import {
	clearEmpty,
	copyIn,
	isEmpty,
	keysHold,
	makeMonthsFor,
	quietly,
	schemaVersion,
	setCounters,
} from '@/store/archive/copy';
import { type Pool, transaction } from '@/store/pool';
import { refreshStatistics } from '@/store/statistics';
import { Refusal } from '../refusal';
import { type Manifest, tableFile } from './format';
import { notAnArchive, unpack } from './unpack';

export interface Restored {
	sites: string[];
	tables: number;
	rows: number;
}

/**
 * Brings an archive back into an empty installation: all of it or nothing.
 * @throws Refusal where something is there already, or the archive is not whole
 */
export async function restoreArchive(
	pool: Pool,
	path: string,
	progress: (done: number) => void = () => {},
): Promise<Restored> {
	if (!(await isEmpty(pool))) throw notEmpty();
	return withArchive(pool, path, async (m, directory, tables) => {
		let rows = 0;
		await transaction(pool, async (client) => {
			// Somebody may have set up a station meanwhile.
			if (!(await isEmpty(client))) throw notEmpty();
			await makeMonthsFor(client, m.months);
			for (const t of tables) await quietly(client, t, true);
			await clearEmpty(client, tables);
			for (const t of tables) {
				const file = m.files[tableFile(t.name)];
				if (!file) continue;
				const own = join(directory, tableFile(t.name));
				const got = await copyIn(client, t, await headerOf(own), createReadStream(own));
				if (got !== file.rows) throw notAnArchive(`${t.name} should have ${file.rows} rows and has ${got}.`);
				rows += got;
				progress(rows);
			}
			await keysHold(client);
			for (const t of tables) await quietly(client, t, false);
			await setCounters(client, m.counters);
		});
		return { sites: m.sites, tables: m.tables.length, rows };
	});
}

/**
 * Unpacks an archive for as long as `work` takes, and tells the planner afterwards what came.
 * @throws Refusal where it is not whole, is of a newer Cordwain, or holds something that there is no table for
 */
export async function withArchive<T>(
	pool: Pool,
	path: string,
	work: (m: Manifest, directory: string, tables: ArchivedTable[]) => Promise<T>,
): Promise<T> {
	const directory = await mkdtemp(join(tmpdir(), 'cordwain-restore-'));
	try {
		const m = await unpack(path, directory);
		if (m.schema > (await schemaVersion(pool)))
			throw notAnArchive('This archive is of a newer Cordwain than this one. Bring Cordwain up to date first.');
		const tables = await archivedTables(pool);
		// What there was no table for is not lost in silence.
		const unknown = m.tables.filter((name) => !tables.some((t) => t.name === name));
		if (unknown.length > 0) throw notAnArchive(`This Cordwain has no place for ${unknown.join(', ')}.`);
		const result = await work(m, directory, tables);
		await refreshStatistics(pool);
		return result;
	} finally {
		await rm(directory, { recursive: true, force: true });
	}
}

const notEmpty = () =>
	new Refusal('not-empty', [
		{
			path: '',
			message:
				'There is something here already. An archive is brought back into an empty installation: nothing is overwritten.',
		},
	]);

/** The columns that a file has: an older one may have fewer, and what is missing is as it is in a new row. */
export async function headerOf(path: string): Promise<string[]> {
	let text = '';
	for await (const chunk of createReadStream(path, { encoding: 'utf8' })) {
		text += chunk;
		const end = text.indexOf('\n');
		if (end >= 0)
			return text
				.slice(0, end)
				.trim()
				.split(',')
				.map((name) => name.replace(/^"|"$/g, ''));
	}
	return [];
}
