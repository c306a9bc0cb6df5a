import { sheets as resource } from '@/contract/sheets';
import { undoImport } from '@/service/imports';
import { lookAtSheet } from '@/service/sheets';
import { siteForIntake } from '@/service/site';
import { listImports, listMappings, putMapping } from '@/store/imports';
import { handle } from '../dispatch';
import { isUuid } from '../guard';
import { spool } from '../uploads';

const SHOWN = 30;

export const sheets = handle(resource, {
	'POST /sheets/look': async ({ request }) => {
		const file = await spool(request);
		return lookAtSheet(file.path).finally(file.remove);
	},
	'GET /mappings': async ({ db, site }) => ({ mappings: await listMappings(db, (await site()).site.id) }),
	'POST /mappings': async ({ db, body }) => {
		await putMapping(db, (await siteForIntake(db)).site.id, body.name, body.mapping);
		return { ok: true };
	},
	'GET /imports': async ({ db, site }) => ({ imports: await listImports(db, (await site()).site.id, SHOWN) }),
	'POST /imports/:key/undo': async ({ db, params, who, now }) => ({
		// What is no name of a request names none.
		undone: await undoImport(db, isUuid(params.key) ? params.key : '00000000-0000-0000-0000-000000000000', {
			who,
			now,
		}),
	}),
});
