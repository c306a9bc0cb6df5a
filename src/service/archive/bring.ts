import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { beginBringing, bringIn, broughtSites } from '@/store/archive/bring';
import { archivedTables } from '@/store/archive/catalog';
import { keysHold, makeMonthsFor, quietly, setCounters } from '@/store/archive/copy';
import { type Pool, transaction } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { tableFile } from './format';
import { headerOf, type Restored, withArchive } from './restore';
import { notAnArchive } from './unpack';

/**
 * Brings the sites of an archive in beside those that are here, each under a new number: all of it or nothing. Its people keep their
 * roles; who is known here by the same name is taken for the same person.
 * @throws Refusal where the archive is not whole, or of a newer Cordwain
 */
export const bringSites = (pool: Pool, path: string, who: string): Promise<Restored & { ids: number[] }> =>
	withArchive(pool, path, async (m, directory, tables) => {
		let rows = 0;
		const ids = await transaction(pool, async (client) => {
			await makeMonthsFor(client, m.months);
			for (const t of tables) await quietly(client, t, true);
			await beginBringing(client);
			const first = ['site', 'person'];
			const inOrder = [
				...first.map((name) => tables.find((t) => t.name === name)!),
				...tables.filter((t) => !first.includes(t.name)),
			];
			for (const t of inOrder) {
				const file = m.files[tableFile(t.name)];
				if (!file) continue;
				const own = join(directory, tableFile(t.name));
				const got = await bringIn(client, t, await headerOf(own), createReadStream(own));
				if (got !== file.rows) throw notAnArchive(`${t.name} should have ${file.rows} rows and has ${got}.`);
				rows += got;
			}
			await keysHold(client);
			for (const t of await archivedTables(client)) await quietly(client, t, false);
			await setCounters(client, m.counters);
			const brought = await broughtSites(client);
			for (const id of brought) await insertAudit(client, id, who, 'site.brought', m.sites.join(', '), {});
			return brought;
		});
		return { sites: m.sites, tables: m.tables.length, rows, ids };
	});
