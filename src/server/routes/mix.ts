import { batches as batchResource } from '@/contract/batches';
import { doses as doseResource } from '@/contract/doses';
import { startBatch, stepBatch } from '@/service/batch';
import { doseAdvice, titrateJug } from '@/service/dose';
import { shownAdvice } from '@/service/dose-shown';
import { shownVerdict } from '@/service/reading-shown';
import { listBatches } from '@/store/batches';
import { sampleEntered } from '../changes';
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
	'POST /batches/:id/steps': async ({ params, body: { events, ...asked }, db, site, now, who, announce }) => {
		const { station, step, entered } = await stepBatch(db, await site(), params.id, asked, events, { who, now });
		announce({ kind: 'event', station, by: '' });
		if (entered) announce(sampleEntered(entered, ''));
		const typed = entered?.readings[0];
		return { step, reading: typed ? { id: typed.id, ...shownVerdict(typed.verdict) } : null };
	},
});
