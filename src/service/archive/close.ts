import { writeFile } from 'node:fs/promises';
import { type Pool, transaction } from '@/store/pool';
import { insertAudit, setClosed, workFor } from '@/store/site';
import { lockSite } from '@/store/writing';
import { Refusal } from '../refusal';
import { writeArchive } from './write';

/**
 * Closes a site, or opens it again: once whoever writes there has ended, nobody comes to it and no node is heard; nothing of it is gone.
 * @param pool of the installation
 */
export const closeSite = (pool: Pool, siteId: number, closed: boolean, who: string): Promise<void> =>
	transaction(pool, async (client) => {
		await workFor(client, siteId);
		if ((await lockSite(client)) === null)
			throw new Refusal('no-such-site', [{ path: 'site', message: `There is no site ${siteId} here.` }]);
		await setClosed(client, siteId, closed);
		await insertAudit(client, siteId, who, closed ? 'site.closed' : 'site.opened', String(siteId), {});
	});

/** Closes a site and writes its archive: what is in it is all that there will be of it here. */
export async function takeSite(pool: Pool, siteId: number, path: string, who: string): Promise<void> {
	await closeSite(pool, siteId, true, who);
	await writeFile(path, writeArchive(pool, siteId), { mode: 0o600 });
}
