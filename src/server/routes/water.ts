import { z } from 'zod';
import { formatTime } from '@/core/format/time';
import { ION_KEYS } from '@/core/water/ions';
import { readReportText } from '@/core/water/report-text';
import { startBatch, stepBatch } from '@/service/batch';
import { doseAdvice, saveProduct, strengthOf, titrateJug } from '@/service/mix';
import { requireSite } from '@/service/site';
import { saveReport, waterView } from '@/service/water';
import { listBatches, listProducts, listReports, type ProductRow } from '@/store/water';
import { code, finite, instant, name, notNegative, ph, positive } from '../contract';
import { operation } from '../operation';
import { idOf } from './readings';
import { ionsBody } from './water-calculators';

const ec = notNegative.max(1e6);
const report = z.strictObject({
	station: code,
	time: instant.optional(),
	lab: z.string().max(200).optional(),
	ions: ionsBody,
	ec_us_cm: ec.nullish(),
	ph: ph.nullish(),
	note: z.string().max(2000).optional(),
});
const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'a date as 2026-07-14');
const product = z.strictObject({
	name,
	kind: z.enum(['nutrient', 'acid', 'base']),
	chemical: z
		.string()
		.max(40)
		.optional()
		.describe('nitric, phosphoric, sulfuric, citric, acetic, or the name of a base'),
	percent_w_w: finite.gt(0, 'more than 0 %').max(100, 'at most 100 %').nullish(),
	density_g_ml: finite.min(0.7).max(2.5).nullish(),
	parts: z.number().int().min(1).max(6).optional(),
	rate_ml_per_l: positive.max(100, 'at most 100 mL for each litre: litres written for millilitres?').nullish(),
	gain_us_cm_per_ml_l: positive.max(1e5).nullish(),
	stock_ml: notNegative.max(1e9).nullish(),
	opened: day.nullish(),
	note: z.string().max(2000).optional(),
});
export const productToWire = (p: ProductRow) => ({
	name: p.name,
	kind: p.kind,
	chemical: p.chemical,
	percent_w_w: p.percentWw,
	density_g_ml: p.densityGMl,
	parts: p.parts,
	rate_ml_per_l: p.rateMlL,
	gain_us_cm_per_ml_l: p.gainUsCm,
	stock_ml: p.stockMl,
	opened: p.opened,
	note: p.note,
	strength_meq_per_ml: strengthOf(p),
});

export const water = [
	operation({
		method: 'GET',
		path: '/reports',
		tag: 'Water',
		summary: 'Laboratory reports, newest first',
		query: z.strictObject({ station: z.string().optional() }),
		response: z.object({ reports: z.array(z.record(z.string(), z.unknown())) }),
		run: async ({ pool, query }) => {
			const context = await requireSite(pool());
			return {
				reports: (await listReports(pool(), context.site.id, query.station)).map((r) => ({
					id: r.id,
					station: r.station,
					time: formatTime(r.at),
					lab: r.lab,
					ions: r.ions,
					ec_us_cm: r.ecUsCm,
					ph: r.ph,
					note: r.note,
				})),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/reports',
		tag: 'Water',
		summary: 'Keep a laboratory report of a source',
		body: report,
		response: z.object({ id: z.number() }),
		status: 201,
		run: async ({ body, pool, now, who }) => ({
			id: await saveReport(
				pool(),
				await requireSite(pool()),
				{
					station: body.station,
					at: body.time ?? now,
					lab: body.lab ?? '',
					ions: Object.fromEntries(
						[...ION_KEYS, 'b_mg_l' as const].flatMap((k) => (body.ions[k] === undefined ? [] : [[k, body.ions[k]]])),
					),
					ecUsCm: body.ec_us_cm ?? null,
					ph: body.ph ?? null,
					note: body.note ?? '',
				},
				who,
			),
		}),
	}),
	operation({
		method: 'POST',
		path: '/reports/read',
		tag: 'Water',
		summary: 'Understand a report that was typed or pasted line by line, storing nothing',
		body: z.strictObject({ text: z.string().max(20_000) }),
		response: z.object({
			ions: z.record(z.string(), z.number()),
			ec_us_cm: z.number().nullable(),
			ph: z.number().nullable(),
			problems: z.array(z.object({ line: z.number(), message: z.string() })),
		}),
		run: ({ body }) => {
			const r = readReportText(body.text);
			return {
				ions: { ...r.ions, ...(r.boronMgL !== null ? { b_mg_l: r.boronMgL } : {}) },
				ec_us_cm: r.ecUsCm,
				ph: r.ph,
				problems: r.problems,
			};
		},
	}),
	operation({
		method: 'GET',
		path: '/sources',
		tag: 'Water',
		summary: 'Each source: newest values, baseline, shifts, and the membranes',
		response: z.object({
			sources: z.array(z.record(z.string(), z.unknown())),
			membranes: z.array(z.record(z.string(), z.unknown())),
		}),
		run: async ({ pool, now }) => {
			const view = await waterView(pool(), await requireSite(pool()), now);
			return {
				sources: view.sources.map((s) => ({
					station: s.code,
					newest: s.newest,
					alkalinity_mg_l_caco3: s.alkalinityMgLCaco3,
					hardness_mg_l_caco3: s.hardnessMgLCaco3,
					ec: { wants: s.ec.wants, baselines: s.ec.segments, shifts: s.ec.shifts },
					ph: { wants: s.ph.wants, baselines: s.ph.segments, shifts: s.ph.shifts },
				})),
				membranes: view.membranes.map((m) => ({ station: m.station, feed: m.feed, state: m.state })),
			};
		},
	}),
	operation({
		method: 'GET',
		path: '/products',
		tag: 'Mix',
		summary: 'Nutrients, acids and bases',
		response: z.object({ products: z.array(z.record(z.string(), z.unknown())) }),
		run: async ({ pool }) => {
			const context = await requireSite(pool());
			return { products: (await listProducts(pool(), context.site.id)).map(productToWire) };
		},
	}),
	operation({
		method: 'POST',
		path: '/products',
		tag: 'Mix',
		summary: 'Make a product, or change the one with this name',
		body: product,
		response: z.record(z.string(), z.unknown()),
		status: 201,
		run: async ({ body, pool, who }) => {
			const context = await requireSite(pool());
			const before = (await listProducts(pool(), context.site.id)).find((p) => p.name === body.name);
			return productToWire(
				await saveProduct(
					pool(),
					context,
					{
						name: body.name,
						kind: body.kind,
						chemical: body.chemical ?? before?.chemical ?? '',
						percentWw: body.percent_w_w === undefined ? (before?.percentWw ?? null) : body.percent_w_w,
						densityGMl: body.density_g_ml === undefined ? (before?.densityGMl ?? null) : body.density_g_ml,
						jugMeqMl: before?.jugMeqMl ?? null,
						parts: body.parts ?? before?.parts ?? 1,
						rateMlL: body.rate_ml_per_l === undefined ? (before?.rateMlL ?? null) : body.rate_ml_per_l,
						gainUsCm: body.gain_us_cm_per_ml_l === undefined ? (before?.gainUsCm ?? null) : body.gain_us_cm_per_ml_l,
						stockMl: body.stock_ml === undefined ? (before?.stockMl ?? null) : body.stock_ml,
						opened: body.opened === undefined ? (before?.opened ?? null) : body.opened,
						note: body.note ?? before?.note ?? '',
					},
					who,
				),
			);
		},
	}),
	operation({
		method: 'POST',
		path: '/mix/dose',
		tag: 'Mix',
		summary: 'The next dose of acid or base for a tank, by what earlier ones did, with the pH it leads to',
		body: z.strictObject({
			station: code,
			product: name,
			target_ph: finite.min(3).max(10),
			ph: ph.optional().describe('the newest reading unless given'),
			volume_l: positive.max(1e9).optional().describe('of the tank unless given'),
		}),
		response: z.record(z.string(), z.unknown()),
		run: async ({ body, pool, now }) => {
			const v = await doseAdvice(
				pool(),
				await requireSite(pool()),
				{
					station: body.station,
					product: body.product,
					targetPh: body.target_ph,
					ph: body.ph ?? null,
					volumeL: body.volume_l ?? null,
				},
				now,
			);
			const a = v.advice;
			return {
				do: a.do,
				message: a.message,
				ph: v.ph,
				volume_l: v.volumeL,
				strength_meq_per_ml: v.strengthMeqMl,
				changed_factor: v.changed,
				past: v.past.map((d) => ({ time: formatTime(d.at), ml: d.ml, ph_before: d.phBefore, ph_after: d.phAfter })),
				...(a.do === 'dose'
					? {
							ml: a.ml,
							ml_to_target: a.mlToTarget,
							predicted_ph: a.predictedPh,
							low_ph: a.low,
							high_ph: a.high,
							part: a.part,
						}
					: {}),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/mix/jug',
		tag: 'Mix',
		summary: 'A jug titration: the strength of a product from drops against pH in some litres',
		body: z.strictObject({
			product: name,
			litres: positive.max(20, 'a jug, not a tank'),
			steps: z
				.array(z.strictObject({ ml: notNegative.max(1000), ph }))
				.min(2, 'the pH before, and at least one step')
				.max(200),
		}),
		response: z.object({ strength_meq_per_ml: z.number(), buffer_meq_per_l_ph: z.number() }),
		run: async ({ body, pool, who }) => {
			const r = await titrateJug(pool(), await requireSite(pool()), body, who);
			return { strength_meq_per_ml: r.strengthMeqMl, buffer_meq_per_l_ph: r.bufferMeqLPh };
		},
	}),
	operation({
		method: 'GET',
		path: '/batches',
		tag: 'Mix',
		summary: 'Batches with their plans and what each step showed, newest first',
		response: z.object({ batches: z.array(z.record(z.string(), z.unknown())) }),
		run: async ({ pool }) => {
			const context = await requireSite(pool());
			return {
				batches: (await listBatches(pool(), context.site.id, 50)).map((b) => ({
					id: b.id,
					station: b.station,
					started_at: formatTime(b.startedAt),
					finished_at: b.finishedAt === null ? null : formatTime(b.finishedAt),
					name: b.name,
					plan: b.plan,
					log: b.log,
				})),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/batches',
		tag: 'Mix',
		summary: 'Begin a batch; refused when it would overflow the tank',
		body: z.strictObject({
			station: code,
			name: z.string().max(200).optional(),
			plan: z.strictObject({
				litres: positive.max(1e9),
				water: code.nullable(),
				water_ec_us_cm: ec,
				product: name,
				ml_per_l: notNegative.max(100, 'at most 100 mL for each litre: litres written for millilitres?'),
				parts: z.number().int().min(1).max(6),
				target_ec_us_cm: ec.nullable(),
				target_ph: finite.min(3).max(10).nullable(),
			}),
		}),
		response: z.object({ id: z.number() }),
		status: 201,
		run: async ({ body, pool, now, who }) => ({
			id: await startBatch(
				pool(),
				await requireSite(pool()),
				{
					station: body.station,
					name: body.name ?? '',
					plan: {
						litres: body.plan.litres,
						water: body.plan.water,
						waterEcUsCm: body.plan.water_ec_us_cm,
						product: body.plan.product,
						mlPerL: body.plan.ml_per_l,
						parts: body.plan.parts,
						targetEcUsCm: body.plan.target_ec_us_cm,
						targetPh: body.plan.target_ph,
					},
				},
				now,
				who,
			),
		}),
	}),
	operation({
		method: 'POST',
		path: '/batches/:id/steps',
		tag: 'Mix',
		summary: 'What a step of a batch showed; done ends it',
		body: z.strictObject({
			step: z.enum(['filled', 'part', 'ec', 'diluted', 'fed', 'dosed', 'ph', 'done']),
			expected: finite.nullish(),
			measured: finite.nullish(),
			words: z.string().max(500),
		}),
		response: z.object({ ok: z.literal(true) }),
		run: async ({ params, body, pool, now }) => {
			await stepBatch(pool(), await requireSite(pool()), idOf(params.id), {
				at: now,
				step: body.step,
				expected: body.expected ?? null,
				measured: body.measured ?? null,
				words: body.words,
			});
			return { ok: true };
		},
	}),
];
