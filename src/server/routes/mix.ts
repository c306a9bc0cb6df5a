import { batches as batchResource } from '@/contract/batches';
import { doses as doseResource } from '@/contract/doses';
import { startBatch, stepBatch } from '@/service/batch';
import { doseAdvice, titrateJug } from '@/service/dose';
import { shownAdvice } from '@/service/dose-shown';
import { listBatches } from '@/store/mix';
import { handle } from '../dispatch';

const MOST_BATCHES = 50;

export const doses = handle(doseResource, {
	'POST /mix/dose': async ({ body: { at, ...asked }, db, site, now }) =>
		shownAdvice(await doseAdvice(db, await site(), asked, Math.min(at ?? now, now))),
	'POST /mix/jug': async ({ body, db, site, now, who }) => titrateJug(db, await site(), body, now, who),
});

export const batches = handle(batchResource, {
	'GET /batches': async ({ db, site }) => ({
		batches: await listBatches(db, (await site()).site.id, MOST_BATCHES),
	}),
	'POST /batches': async ({ body, db, site, now, who }) => ({
		id: await startBatch(db, await site(), body, now, who),
	}),
	'POST /batches/:id/steps': async ({ params, body: { event, ...step }, db, site, now, who, announce }) => {
		const context = await site();
		const station = await stepBatch(db, context, params.id, { ...step, at: now }, event, { who, now });
		announce({ kind: 'event', station, by: '' });
		return { ok: true };
	},
});
