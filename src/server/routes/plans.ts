import { plans as resource } from '@/contract/plans';
import { plansCsv } from '@/service/answers-csv';
import { beginStageOf, endPlan, plansOf, savePlan } from '@/service/plans';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const plans = handle(resource, {
	'GET /plans': async ({ db, site, now, request }) => {
		const found = { plans: await plansOf(db, await site(), now) };
		return wantsCsv(request) ? csvResponse(plansCsv(found), 'plans.csv') : found;
	},
	'POST /plans': async ({ body, db, who, now, announce }) => {
		const plan = await savePlan(db, body, { who, now });
		announce({ kind: 'event', station: null, by: '' });
		return plan;
	},
	'POST /plans/:system/stage': async ({ params, body, db, who, now, announce }) => {
		const plan = await beginStageOf(db, { ...body, system: params.system }, { who, now });
		announce({ kind: 'event', station: null, by: '' });
		return plan;
	},
	'POST /plans/:system/end': async ({ params, body, db, who }) => {
		await endPlan(db, params.system, body.version, who);
		return { ok: true as const };
	},
});
