import { batches as batchResource } from '@/contract/batches';
import { doses as doseResource } from '@/contract/doses';
import { startBatch, stepBatch } from '@/service/batch';
import { doseAdvice, titrateJug } from '@/service/dose';
import { shownAdvice } from '@/service/dose-shown';
import { requireSite } from '@/service/site';
import { listBatches } from '@/store/mix';
import { announce } from '../changes';
import { handle } from '../dispatch';

const MOST_BATCHES = 50;

export const doses = handle(doseResource, {
	'POST /mix/dose': async ({ body: { at, ...asked }, pool, now }) =>
		shownAdvice(await doseAdvice(pool(), await requireSite(pool()), asked, Math.min(at ?? now, now))),
	'POST /mix/jug': async ({ body, pool, now, who }) => titrateJug(pool(), await requireSite(pool()), body, now, who),
});

export const batches = handle(batchResource, {
	'GET /batches': async ({ pool }) => ({
		batches: await listBatches(pool(), (await requireSite(pool())).site.id, MOST_BATCHES),
	}),
	'POST /batches': async ({ body, pool, now, who }) => ({
		id: await startBatch(pool(), await requireSite(pool()), body, now, who),
	}),
	'POST /batches/:id/steps': async ({ params, body: { event, ...step }, pool, now, who }) => {
		const context = await requireSite(pool());
		const station = await stepBatch(pool(), context, params.id, { ...step, at: now }, event, { who, now });
		announce({ kind: 'event', station, by: '' });
		return { ok: true };
	},
});
