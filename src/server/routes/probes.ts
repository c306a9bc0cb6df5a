import { calibrations as calibrationResource } from '@/contract/calibrations';
import { probes as probeResource } from '@/contract/probes';
import { enterCalibration, previewCalibration, withdrawCalibration } from '@/service/calibrate';
import { calibrationsCsv, restatementsCsv } from '@/service/export';
import { logProbeEvent, saveLot, saveProbe } from '@/service/probe-care';
import { shownCalibration, shownProbe, shownStory } from '@/service/probe-shown';
import { apart, bestDip, fleet, probeStory } from '@/service/probes';
import { Refusal } from '@/service/refusal';
import { listCalibrations, listLots } from '@/store/calibrations';
import type { Db } from '@/store/pool';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';
import type { Progress } from '../jobs';

const telling = (progress: Progress | undefined, phase: string) =>
	progress ? { progress: (done: number) => progress(done, phase) } : {};

export const probes = handle(probeResource, {
	'GET /probes': async ({ db, site, now }) => {
		const context = await site();
		const views = await fleet(db, context, now);
		return {
			probes: views.map(shownProbe),
			apart: await apart(db, context, views, now),
			dip: await bestDip(db, context, now),
		};
	},
	'GET /probes/:instrument/:quantity': async ({ params, db, site, now }) => {
		const story = await probeStory(db, await site(), params.instrument, params.quantity, now);
		if (!story) throw new Refusal('no-such-probe', [{ path: 'instrument', message: 'There is no such probe.' }]);
		return shownStory(story);
	},
	'PUT /probes/:instrument/:quantity': async ({ params, body, db, site, who }) => ({
		ok: true,
		warning: await saveProbe(db, await site(), params.instrument, params.quantity, body, who),
	}),
	'POST /probe-events': async ({ body, db, site, now, who }) => ({
		id: await logProbeEvent(db, await site(), { ...body, at: body.at ?? now }, who),
	}),
});

export const calibrations = handle(calibrationResource, {
	'GET /calibrations': async ({ query, db, site, request }) => {
		const context = await site();
		if (wantsCsv(request)) return csvResponse(calibrationsCsv(db, context, query), 'calibrations.csv');
		return { calibrations: await listCalibrations(db, context.site.id, { ...query, withWithdrawn: true }) };
	},
	'POST /calibrations': async ({ body, query, db, site, now, who, begin }) => {
		const context = await site();
		const typed = { ...body, at: body.at ?? now };
		// What is wrong with it is said at once; only the working out is left behind.
		if (query.dry_run || query.background) {
			const preview = await previewCalibration(db, context, typed, now);
			if (query.dry_run)
				return { ...shownCalibration(preview), id: null, restated: 0, rejected: 0, provisional: false };
		}
		const enter = async (client: Db, progress?: Progress) =>
			shownCalibration(
				await enterCalibration(client, context, typed, {
					who,
					source: 'typed',
					now,
					...telling(progress, 'readings restated'),
				}),
			);
		return query.background ? begin('calibration', enter) : enter(db);
	},
	'POST /calibrations/:id/withdrawal': async ({ params, body, query, db, site, who, now, begin }) => {
		const context = await site();
		const withdraw = async (client: Db, progress?: Progress) => {
			await withdrawCalibration(client, context, params.id, body.withdrawn, {
				reason: body.reason,
				who,
				now,
				...telling(progress, 'readings worked out'),
			});
			return { ok: true as const };
		};
		return query.background ? begin('withdrawal', withdraw) : withdraw(db);
	},
	'GET /restatements': async ({ query, db, site }) =>
		csvResponse(restatementsCsv(db, await site(), query), 'restatements.csv'),
	'GET /lots': async ({ db, site }) => ({ lots: await listLots(db, (await site()).site.id) }),
	'POST /lots': async ({ body, db, site, who }) => ({
		id: await saveLot(db, await site(), body, who),
	}),
});
