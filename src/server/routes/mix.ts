import { batches as batchResource } from '@/contract/batches';
import { doses as doseResource } from '@/contract/doses';
import type { Pouring } from '@/contract/events';
import { startBatch, stepBatch } from '@/service/batch';
import { doseAdvice, titrateJug } from '@/service/dose';
import { shownAdvice } from '@/service/dose-shown';
import { shownVerdict } from '@/service/reading-shown';
import { listBatches } from '@/store/batches';
import { type Announced, sampleEntered } from '../changes';
import { handle } from '../dispatch';

const MOST_BATCHES = 50;

/** What other pages are told of a batch: what was poured in its step, where something was. */
const poured = (station: string, event: Pouring | null | undefined, at: number): Announced => ({
	kind: 'event',
	station,
	by: '',
	...(event ? { what: event.kind, at: event.at ?? at } : {}),
});

export const doses = handle(doseResource, {
	'POST /mix/dose': async ({ body: { at, ...asked }, db, site, now }) =>
		shownAdvice(await doseAdvice(db, await site(), asked, Math.min(at ?? now, now))),
	'POST /mix/jug': async ({ body, db, site, now, who }) => titrateJug(db, await site(), body, now, who),
});

export const batches = handle(batchResource, {
	'GET /batches': async ({ db, site }) => ({
		batches: await listBatches(db, (await site()).site.id, MOST_BATCHES),
	}),
	'POST /batches': async ({ body, db, site, now, who, announce }) => {
		const id = await startBatch(db, await site(), body, now, who);
		announce(poured(body.station, body.event, now));
		return { id };
	},
	'POST /batches/:id/steps': async ({ params, body: { events, ...asked }, db, site, now, who, announce }) => {
		const { station, step, entered } = await stepBatch(db, await site(), params.id, asked, events, { who, now });
		announce(poured(station, events[0], asked.at ?? now));
		if (entered) announce(sampleEntered(entered, ''));
		const typed = entered?.readings[0];
		return { step, reading: typed ? { id: typed.id, ...shownVerdict(typed.verdict) } : null };
	},
});
