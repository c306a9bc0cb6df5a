import { calibrations as calibrationResource } from '@/contract/calibrations';
import { probes as probeResource } from '@/contract/probes';
import { enterCalibration, previewCalibration, withdrawCalibration } from '@/service/calibrate';
import { calibrationsCsv, restatementsCsv } from '@/service/export';
import { logProbeEvent, saveLot, saveProbe } from '@/service/probe-care';
import { shownCalibration, shownProbe, shownStory } from '@/service/probe-shown';
import { fleet, probeStory } from '@/service/probes';
import { Refusal } from '@/service/refusal';
import { requireSite } from '@/service/site';
import { listCalibrations, listLots } from '@/store/calibrations';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';
import type { Progress } from '../jobs';

const telling = (progress: Progress | undefined, phase: string) =>
	progress ? { progress: (done: number) => progress(done, phase) } : {};

export const probes = handle(probeResource, {
	'GET /probes': async ({ pool, now }) => ({
		probes: (await fleet(pool(), await requireSite(pool()), now)).map(shownProbe),
	}),
	'GET /probes/:instrument/:quantity': async ({ params, pool, now }) => {
		const story = await probeStory(pool(), await requireSite(pool()), params.instrument, params.quantity, now);
		if (!story) throw new Refusal('no-such-probe', [{ path: 'instrument', message: 'There is no such probe.' }]);
		return shownStory(story);
	},
	'PUT /probes/:instrument/:quantity': async ({ params, body, pool, who }) => ({
		ok: true,
		warning: await saveProbe(pool(), await requireSite(pool()), params.instrument, params.quantity, body, who),
	}),
	'POST /probe-events': async ({ body, pool, now, who }) => ({
		id: await logProbeEvent(pool(), await requireSite(pool()), { ...body, at: body.at ?? now }, who),
	}),
});

export const calibrations = handle(calibrationResource, {
	'GET /calibrations': async ({ query, pool, request }) => {
		const context = await requireSite(pool());
		if (wantsCsv(request)) return csvResponse(calibrationsCsv(pool(), context, query), 'calibrations.csv');
		return { calibrations: await listCalibrations(pool(), context.site.id, { ...query, withWithdrawn: true }) };
	},
	'POST /calibrations': async ({ body, query, pool, now, who, begin }) => {
		const context = await requireSite(pool());
		const typed = { ...body, at: body.at ?? now };
		// What is wrong with it is said at once; only the working out is left behind.
		if (query.dry_run || query.background) {
			const preview = await previewCalibration(pool(), context, typed, now);
			if (query.dry_run)
				return { ...shownCalibration(preview), id: null, restated: 0, rejected: 0, provisional: false };
		}
		const enter = async (progress?: Progress) =>
			shownCalibration(
				await enterCalibration(pool(), context, typed, {
					who,
					source: 'typed',
					now,
					...telling(progress, 'readings restated'),
				}),
			);
		return query.background ? begin('calibration', enter) : enter();
	},
	'POST /calibrations/:id/withdrawal': async ({ params, body, query, pool, who, now, begin }) => {
		const context = await requireSite(pool());
		const withdraw = async (progress?: Progress) => {
			await withdrawCalibration(pool(), context, params.id, body.withdrawn, {
				reason: body.reason,
				who,
				now,
				...telling(progress, 'readings worked out'),
			});
			return { ok: true as const };
		};
		return query.background ? begin('withdrawal', withdraw) : withdraw();
	},
	'GET /restatements': async ({ query, pool }) =>
		csvResponse(restatementsCsv(pool(), await requireSite(pool()), query), 'restatements.csv'),
	'GET /lots': async ({ pool }) => ({ lots: await listLots(pool(), (await requireSite(pool())).site.id) }),
	'POST /lots': async ({ body, pool, who }) => ({
		id: await saveLot(pool(), await requireSite(pool()), body, who),
	}),
});
