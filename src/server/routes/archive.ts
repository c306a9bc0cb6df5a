import { resolve } from 'node:path';
import { archive as resource } from '@/contract/archive';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { backUp, tryOutAndNote } from '@/service/archive/backup';
import { restoreArchive } from '@/service/archive/restore';
import { writeArchive } from '@/service/archive/write';
import { requireOwner } from '@/service/people/sign-ins';
import { Refusal } from '@/service/refusal';
import { listBackups } from '@/store/backups';
import { listSites } from '@/store/site';
import { backupFolder, settings } from '../../../ops/settings.mjs';
import { database } from '../database';
import { handle } from '../dispatch';
import { spool } from '../uploads';

const today = async (now: number): Promise<string> =>
	sheetDay(now, (await listSites(database()))[0]?.timezone ?? 'UTC');

export const archive = handle(resource, {
	'GET /export.zip': async ({ now, request, query, asker }) => {
		if (query.all) requireOwner(asker);
		const pieces = writeArchive(database(), query.all ? null : (asker.site?.id ?? null));
		request.signal.addEventListener('abort', () => void pieces.return(undefined));
		// What cannot be begun is refused as everything else is; what breaks off later ends the file.
		const first = await pieces.next();
		const stream = new ReadableStream<Uint8Array>({
			start: (controller) => {
				if (!first.done) controller.enqueue(first.value);
			},
			pull: async (controller) => {
				try {
					const { done, value } = await pieces.next();
					if (done) controller.close();
					else controller.enqueue(value);
				} catch (error) {
					controller.error(error);
				}
			},
			cancel: () => void pieces.return(undefined),
		});
		return new Response(stream, {
			headers: {
				'content-type': 'application/zip',
				'content-disposition': `attachment; filename="cordwain-${await today(now)}.zip"`,
				'cache-control': 'no-store',
			},
		});
	},
	'POST /restore': async ({ request, connection }) => {
		if (!connection.here)
			throw new Refusal('not-here', [
				{ path: '', message: 'An archive is brought back on the machine that Cordwain runs on.' },
			]);
		const file = await spool(request);
		try {
			return await restoreArchive(database(), file.path);
		} finally {
			await file.remove();
		}
	},
	'GET /backups': async () => ({ folder: resolve(backupFolder()), backups: await listBackups(database()) }),
	'POST /backups': ({ query, now, begin }) => {
		const work = async () => {
			const folder = backupFolder();
			const file = await backUp(database(), folder, await today(now));
			const problem = query.try ? await tryOutAndNote(database(), settings().DATABASE_URL!, folder, file) : '';
			return { file, problem };
		};
		// It takes its time: a page follows it.
		return query.background ? begin('backup', work, { storesNothing: true }) : work();
	},
});
