import { setup as resource } from '@/contract/site';
import { Judging } from '@/service/judgement';
import { saveInstrument, saveOrder, saveSite, saveStation, saveSystem } from '@/service/setup';
import { loadSite } from '@/service/site';
import { handle } from '../dispatch';

export const setup = handle(resource, {
	'GET /site': async ({ db }) => {
		const context = await loadSite(db);
		if (!context) return { site: null };
		const { name, timezone, units, settings } = context.site;
		return { site: { name, timezone, units, settings } };
	},
	'PUT /site': async ({ body, db, who }) => {
		await saveSite(db, body, who);
		return { ok: true };
	},
	'GET /memory': async ({ db, site, now, query }) => {
		const { engine } = await Judging.present(db, await site(), now);
		return { memory: engine.memory.snapshot(query.stations) };
	},
	'GET /systems': async ({ site }) => ({ systems: (await site()).systems }),
	'POST /systems': async ({ body, db, site, who }) => saveSystem(db, await site(), body, who),
	'GET /stations': async ({ site }) => ({ stations: (await site()).stations }),
	'POST /stations': async ({ body, db, site, who }) => saveStation(db, await site(), body, who),
	'POST /stations/order': async ({ body, db, site, who }) => {
		await saveOrder(db, await site(), body.codes, who);
		return { ok: true };
	},
	'GET /instruments': async ({ site }) => ({ instruments: (await site()).instruments }),
	'POST /instruments': async ({ body, db, site, who }) => saveInstrument(db, await site(), body, who),
});
