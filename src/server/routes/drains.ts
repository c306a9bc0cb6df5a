import { drains as resource } from '@/contract/drains';
import { drainsCsv } from '@/service/answers-csv';
import { irrigationsCsv } from '@/service/export';
import { drainsOf, logIrrigation, takeBackIrrigation } from '@/service/rootzone';
import { takeBackStep, takeStep } from '@/service/take-step';
import { listIrrigations } from '@/store/irrigations';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const drains = handle(resource, {
	'GET /drains': async ({ db, site, query, now, request }) => {
		const found = await drainsOf(db, await site(), query.system, now, query.days);
		return wantsCsv(request) ? csvResponse(drainsCsv(found), 'drains.csv') : found;
	},
	'GET /irrigations': async ({ db, site, query, request }) => {
		const context = await site();
		const { format: _, ...filter } = query;
		const rows = await listIrrigations(db, context.site.id, filter);
		if (wantsCsv(request)) return csvResponse(irrigationsCsv(rows), 'irrigations.csv');
		return { irrigations: rows.reverse() };
	},
	'POST /irrigations': async ({ body, db, site, now, who, announce }) => {
		const context = await site();
		const at = body.at ?? now;
		const typed = (list: typeof body.feed) =>
			list.map(({ at: _, ...r }) => ({ ...r, instrument: r.instrument || null }));
		const id = await logIrrigation(
			db,
			context,
			{ ...body, at, feed: typed(body.feed), drain: typed(body.drain) },
			{ who, now },
		);
		announce({ kind: 'event', station: null, by: '' });
		return { id };
	},
	'POST /irrigation-steps': async ({ body, db, now, who, announce }) => {
		const id = await takeStep(db, body, { who, now });
		announce({ kind: 'event', station: null, by: '' });
		return { id };
	},
	'POST /irrigation-steps/:id/withdrawal': async ({ params, db, site, who, announce }) => {
		await takeBackStep(db, await site(), params.id, who);
		announce({ kind: 'event', station: null, by: '' });
		return { ok: true };
	},
	'POST /irrigations/:id/withdrawal': async ({ params, body, db, site, who }) => {
		await takeBackIrrigation(db, await site(), params.id, body.withdrawn, who);
		return { ok: true };
	},
});
