import { setup as resource } from '@/contract/site';
import { saveInstrument, saveSite, saveStation, saveSystem } from '@/service/setup';
import { loadSite, requireSite } from '@/service/site';
import { handle } from '../dispatch';

export const setup = handle(resource, {
	'GET /site': async ({ pool }) => {
		const context = await loadSite(pool());
		if (!context) return { site: null };
		const { name, timezone, units, settings } = context.site;
		return { site: { name, timezone, units, settings } };
	},
	'PUT /site': async ({ body, pool, who }) => {
		await saveSite(pool(), body, who);
		return { ok: true };
	},
	'GET /systems': async ({ pool }) => ({ systems: (await requireSite(pool())).systems }),
	'POST /systems': async ({ body, pool, who }) => saveSystem(pool(), await requireSite(pool()), body, who),
	'GET /stations': async ({ pool }) => ({ stations: (await requireSite(pool())).stations }),
	'POST /stations': async ({ body, pool, who }) => saveStation(pool(), await requireSite(pool()), body, who),
	'GET /instruments': async ({ pool }) => ({ instruments: (await requireSite(pool())).instruments }),
	'POST /instruments': async ({ body, pool, who }) => saveInstrument(pool(), await requireSite(pool()), body, who),
});
