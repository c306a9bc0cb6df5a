import { setup as resource } from '@/contract/site';
import { fillWithDemo } from '@/demo/load';
import { Judging } from '@/service/judgement';
import { discardSample, notEmpty } from '@/service/sample';
import { saveInstrument, saveOrder, saveSite, saveStation, saveSystem } from '@/service/setup';
import { loadSite, requireSite } from '@/service/site';
import { markSample } from '@/store/site';
import { handle } from '../dispatch';

/** Of its sensors a sample has some weeks: enough to look at, and soon there. */
const SAMPLE_POST_DAYS = 21;

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
	'POST /sample': async ({ db, now }) => {
		const before = await loadSite(db);
		if (before && before.stations.length > 0) throw notEmpty();
		await fillWithDemo(db, now, SAMPLE_POST_DAYS);
		await markSample(db, (await requireSite(db)).site.id);
		return { ok: true };
	},
	'DELETE /sample': async ({ db }) => {
		await discardSample(db);
		return { ok: true };
	},
	'GET /memory': async ({ db, site, now, query }) => {
		const { engine } = await Judging.present(db, await site(), now);
		return { memory: engine.memory.snapshot(query.stations) };
	},
	'GET /systems': async ({ site }) => ({ systems: (await site()).systems }),
	'POST /systems': async ({ body, query, db, site, who }) => saveSystem(db, await site(), body, who, query.since),
	'GET /stations': async ({ site }) => ({ stations: (await site()).stations }),
	'POST /stations': async ({ body, query, db, site, who }) => saveStation(db, await site(), body, who, query.since),
	'POST /stations/order': async ({ body, db, site, who }) => {
		await saveOrder(db, await site(), body.codes, who);
		return { ok: true };
	},
	'GET /instruments': async ({ site }) => ({ instruments: (await site()).instruments }),
	'POST /instruments': async ({ body, query, db, site, who }) =>
		saveInstrument(db, await site(), body, who, query.since),
});
