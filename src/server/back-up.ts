import { sheetDay } from '@/core/rhythm/sheet-row';
import { nightly } from '@/service/archive/backup';
import type { Pool } from '@/store/pool';
import { listSites } from '@/store/site';
import { backupFolder } from '../../ops/settings.mjs';
import { log } from './log';

/** What is done each night; it is tried again the next, and the log says so meanwhile. */
export async function backUpTonight(pool: Pool, url: string): Promise<void> {
	const [first] = await listSites(pool);
	if (!first) return;
	const now = Date.now();
	try {
		await nightly(pool, { url, folder: backupFolder(), day: sheetDay(now, first.timezone), now });
	} catch (error) {
		log.error({ error }, 'backing up');
	}
}
