import { undoImported } from '@/store/imports';
import type { Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { judgeAgain } from './judging';
import { Refusal } from './refusal';
import { requireSite } from './site';

/** Takes a file of readings back as a whole; nothing is deleted, and what was judged beside them is judged again. */
export async function undoImport(db: Db, key: string, by: { who: string; now: number }): Promise<number> {
	return writing(db, async (client) => {
		const context = await requireSite(client);
		const { readings, from } = await undoImported(client, context.site.id, key, by.who);
		if (readings === 0 || from === null)
			throw new Refusal('no-such-import', [
				{ path: 'key', message: 'There is no file that this names, or it was taken back already.' },
			]);
		await insertAudit(client, context.site.id, by.who, 'import.undo', key, { readings });
		await judgeAgain(client, context, from, by.now);
		return readings;
	});
}
