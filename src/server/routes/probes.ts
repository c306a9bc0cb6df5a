import { z } from 'zod';
import { formatTime } from '@/core/quantity/time';
import { enterCalibration, previewCalibration, type TypedCalibration, withdrawCalibration } from '@/service/calibrate';
import { calibrationsCsv, restatementsCsv } from '@/service/export';
import { logProbeEvent, saveLot, saveProbe } from '@/service/probe-care';
import { fleet, type ProbeView, probeStory } from '@/service/probes';
import { Refusal } from '@/service/refusal';
import { requireSite } from '@/service/site';
import { listCalibrations, listLots } from '@/store/calibrations';
import { code, day, finite, instant, name, notNegative, positive, tempC } from '../contract';
import { csvResponse, wantsCsv } from '../csv-response';
import { beginJob } from '../jobs';
import { operation } from '../operation';
import { readingToWire } from '../wire';
import { idOf } from './readings';

const quantity = z.enum(['ph', 'ec']);
const point = z.strictObject({
	standard: z.string().max(200),
	lot: z.string().max(200).optional(),
	nominal: finite.nullish().describe('empty: the standard’s value at temp_c'),
	as_found: finite.nullish(),
	as_left: finite.nullish(),
	mv: finite.nullish(),
});
const newCalibration = z.strictObject({
	instrument: code,
	quantity,
	time: instant.optional(),
	kind: z.enum(['check', 'adjust']),
	temp_c: tempC.nullish(),
	settle_s: notNegative.nullish(),
	note: z.string().max(2000).optional(),
	accept_doubts: z.boolean().optional(),
	points: z.array(point).min(1, 'give at least one standard').max(5),
});
const typedOf = (b: z.output<typeof newCalibration>, now: number): TypedCalibration => ({
	instrument: b.instrument,
	quantity: b.quantity,
	at: b.time ?? now,
	kind: b.kind,
	tempC: b.temp_c ?? null,
	settleS: b.settle_s ?? null,
	note: b.note ?? '',
	acceptDoubts: b.accept_doubts ?? false,
	points: b.points.map((p) => ({
		standard: p.standard,
		lot: p.lot ?? '',
		nominal: p.nominal ?? null,
		asFound: p.as_found ?? null,
		asLeft: p.as_left ?? null,
		mv: p.mv ?? null,
	})),
});

const open = z.record(z.string(), z.unknown());

export const probeToWire = (v: ProbeView) => ({
	instrument: v.instrument.code,
	name: v.instrument.name,
	kind: v.instrument.kind,
	quantity: v.quantity,
	compensates: v.instrument.compensates,
	alpha_pct_per_c: v.instrument.alphaPct,
	shows_mv: v.instrument.showsMv,
	points: v.instrument.remembersPoints,
	storage: v.probe?.storage ?? null,
	in_service: v.probe?.inService ?? null,
	storage_refilled: v.probe?.storageRefilled ?? null,
	serial: v.probe?.serial ?? '',
	last_at: v.lastCalibration ? formatTime(v.lastCalibration.at) : null,
	verdict: v.lastResult?.ok ? v.lastResult.verdict : null,
	reasons: v.lastResult?.ok ? v.lastResult.reasons.map((r) => r.message) : [],
	last_offset: v.lastResult?.ok ? v.lastResult.offset : null,
	last_slope_pct: v.lastResult?.ok ? v.lastResult.slopePct : null,
	last_cell_factor: v.lastResult?.ok ? v.lastResult.cellFactor : null,
	sigma_per_root_day: v.drift.sigmaPerRootDay,
	rate_per_day: v.drift.ratePerDay,
	learned_from: v.drift.from,
	interval_days: v.intervalDays,
	interval_reason: v.intervalReason,
	due_at: v.dueAt === null ? null : formatTime(v.dueAt),
	due_reason: v.dueReason,
	u_today: v.uToday,
	life: v.life.known
		? {
				now_pct: v.life.now,
				per_year_pct: v.life.perYearPct,
				earliest: formatTime(v.life.earliest),
				latest: v.life.latest === null ? null : formatTime(Math.min(v.life.latest, 8e15)),
			}
		: null,
});

export const probes = [
	operation({
		method: 'GET',
		path: '/probes',
		tag: 'Probes',
		summary: 'Every probe, the most trustworthy today first',
		response: z.object({ probes: z.array(open) }),
		run: async ({ pool, now }) => ({ probes: (await fleet(pool(), await requireSite(pool()), now)).map(probeToWire) }),
	}),
	operation({
		method: 'GET',
		path: '/probes/:instrument/:quantity',
		tag: 'Probes',
		summary: 'One probe: calibrations, story, the readings it touched, the decisions those would have turned',
		response: open,
		run: async ({ params, pool, now }) => {
			const q = quantity.safeParse(params.quantity);
			const story = q.success
				? await probeStory(pool(), await requireSite(pool()), params.instrument!, q.data, now)
				: null;
			if (!story) throw new Refusal(404, 'no-such-probe', [{ path: 'instrument', message: 'There is no such probe.' }]);
			return storyToWire(story);
		},
	}),
	operation({
		method: 'PUT',
		path: '/probes/:instrument/:quantity',
		tag: 'Probes',
		summary: 'Serial, in service since, storage',
		body: z.strictObject({
			serial: z.string().max(200).optional(),
			in_service: day.nullish(),
			storage: z.enum(['kcl_3m', 'kcl_other', 'storage_solution', 'buffer_4', 'dry', 'tap', 'pure_water']).optional(),
			storage_refilled: day.nullish(),
			note: z.string().max(2000).optional(),
		}),
		response: z.object({ ok: z.literal(true), warning: z.string() }),
		run: async ({ params, body, pool, who }) => ({
			ok: true,
			warning: await saveProbe(
				pool(),
				await requireSite(pool()),
				params.instrument!,
				quantity.parse(params.quantity),
				body,
				who,
			),
		}),
	}),
	operation({
		method: 'POST',
		path: '/probe-events',
		tag: 'Probes',
		summary: 'What happened to a probe: dropped, dried out, cleaned, rehydrated, stored wrong, replaced',
		body: z.strictObject({
			instrument: code,
			quantity,
			time: instant.optional(),
			kind: z.enum(['dropped', 'dried_out', 'cleaned', 'rehydrated', 'stored_wrong', 'new_probe']),
			before: finite.nullish().describe('the same water before cleaning'),
			after: finite.nullish().describe('and after'),
			note: z.string().max(2000).optional(),
		}),
		response: z.object({ id: z.number() }),
		status: 201,
		run: async ({ body, pool, now, who }) => ({
			id: await logProbeEvent(
				pool(),
				await requireSite(pool()),
				{
					...body,
					at: body.time ?? now,
					before: body.before ?? null,
					after: body.after ?? null,
					note: body.note ?? '',
				},
				who,
			),
		}),
	}),
	operation({
		method: 'GET',
		path: '/calibrations',
		tag: 'Probes',
		summary: 'Calibrations, oldest first; text/csv by Accept',
		query: z.strictObject({
			instrument: z.string().optional(),
			quantity: quantity.optional(),
			format: z.literal('csv').optional(),
		}),
		response: z.object({ calibrations: z.array(open) }),
		alsoAnswers: ['text/csv'],
		run: async ({ query, pool, request }) => {
			const context = await requireSite(pool());
			if (wantsCsv(request)) return csvResponse(calibrationsCsv(pool(), context, query), 'calibrations.csv');
			const rows = await listCalibrations(pool(), context.site.id, { ...query, withWithdrawn: true });
			return { calibrations: rows.map((c) => ({ ...c, at: undefined, time: formatTime(c.at) })) };
		},
	}),
	operation({
		method: 'POST',
		path: '/calibrations',
		tag: 'Probes',
		summary: 'Store a calibration; the readings before it are restated',
		body: newCalibration,
		query: z.strictObject({ dry_run: z.enum(['0', '1']).optional(), background: z.enum(['0', '1']).optional() }),
		response: open,
		status: 201,
		run: async ({ body, query, pool, now, who }) => {
			const context = await requireSite(pool());
			const typed = typedOf(body, now);
			if (query.dry_run === '1') return previewCalibration(pool(), context, typed, now);
			const enter = (progress?: (done: number, phase: string) => void) =>
				enterCalibration(pool(), context, typed, {
					who,
					source: 'typed',
					now,
					progress: progress && ((done) => progress(done, 'readings restated')),
				});
			if (query.background !== '1') return enter();
			// What is wrong with it is said at once; only the working out is left behind.
			await previewCalibration(pool(), context, typed, now);
			return Response.json({ job: beginJob('calibration', enter) }, { status: 202 });
		},
	}),
	operation({
		method: 'POST',
		path: '/calibrations/:id/withdrawal',
		tag: 'Probes',
		summary: 'Withdraw a calibration, or take the withdrawal back; readings are worked out anew',
		body: z.strictObject({ withdrawn: z.boolean(), reason: z.string().max(2000).optional() }),
		response: z.object({ ok: z.literal(true) }),
		query: z.strictObject({ background: z.enum(['0', '1']).optional() }),
		run: async ({ params, body, query, pool, who, now }) => {
			const context = await requireSite(pool());
			const id = idOf(params.id);
			const work = (progress?: (done: number, phase: string) => void) =>
				withdrawCalibration(pool(), context, id, body.withdrawn, {
					reason: body.reason ?? '',
					who,
					now,
					...(progress ? { progress: (done: number) => progress(done, 'readings worked out') } : {}),
				});
			if (query.background === '1') return Response.json({ job: beginJob('withdrawal', work) }, { status: 202 });
			await work();
			return { ok: true };
		},
	}),
	operation({
		method: 'GET',
		path: '/restatements',
		tag: 'Probes',
		summary: 'Originals beside their restated values as CSV, with the calibrations behind them',
		query: z.strictObject({
			instrument: z.string().optional(),
			quantity: quantity.optional(),
			format: z.literal('csv').optional(),
		}),
		alsoAnswers: ['text/csv'],
		run: async ({ query, pool }) =>
			csvResponse(restatementsCsv(pool(), await requireSite(pool()), query), 'restatements.csv'),
	}),
	operation({
		method: 'GET',
		path: '/lots',
		tag: 'Probes',
		summary: 'Bottles of buffers and standards',
		response: z.object({ lots: z.array(open) }),
		run: async ({ pool }) => ({ lots: await listLots(pool(), (await requireSite(pool())).site.id) }),
	}),
	operation({
		method: 'POST',
		path: '/lots',
		tag: 'Probes',
		summary: 'Add a bottle, or change the one with this name',
		body: z.strictObject({
			name,
			standard: z.string().max(200),
			own_table: z
				.array(z.tuple([tempC, positive]))
				.min(1)
				.max(40)
				.nullish(),
			tolerance: notNegative.nullish(),
			opened: day.nullish(),
			expires: day.nullish(),
			single_use: z.boolean().optional(),
		}),
		response: z.object({ id: z.number() }),
		status: 201,
		run: async ({ body, pool, who }) => ({ id: await saveLot(pool(), await requireSite(pool()), body, who) }),
	}),
];

export function storyToWire(story: import('@/service/probes').ProbeStory) {
	return {
		...probeToWire(story),
		calibrations: story.calibrations.map((c) => ({
			id: c.id,
			time: formatTime(c.at),
			kind: c.kind,
			temp_c: c.tempC,
			settle_s: c.settleS,
			doubts: c.doubts,
			withdrawn: c.withdrawn,
			points: c.points.map((p) => ({
				standard: p.standard,
				lot: p.lot,
				nominal: p.nominal,
				as_found: p.asFound,
				as_left: p.asLeft,
				mv: p.mv,
			})),
			offset: c.result.ok ? c.result.offset : null,
			slope_pct: c.result.ok ? c.result.slopePct : null,
			cell_factor: c.result.ok ? c.result.cellFactor : null,
			verdict: c.result.ok ? c.result.verdict : null,
			reasons: c.result.ok ? c.result.reasons.map((r) => r.message) : [],
		})),
		events: story.events.map((e) => ({ ...e, at: undefined, time: formatTime(e.at) })),
		touched: story.touched.map(readingToWire),
		rejected: story.rejected,
		turned: story.turned.map((t) => ({
			...t,
			at: undefined,
			time: formatTime(t.at),
			doses: t.doses.map((d) => ({ time: formatTime(d.at), words: d.words })),
		})),
	};
}
