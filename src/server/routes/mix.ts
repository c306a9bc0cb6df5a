import { z } from 'zod';
import { labelRate } from '@/core/mix/label-rate';
import { formatTime } from '@/core/quantity/time';
import { type StepEvent, startBatch, stepBatch } from '@/service/batch';
import { doseAdvice, titrateJug } from '@/service/dose';
import { type ProductView, productViews, saveProduct } from '@/service/products';
import { putAwayRecipe, saveRecipe } from '@/service/recipes';
import { Refusal } from '@/service/refusal';
import { requireSite, type SiteContext } from '@/service/site';
import { BATCH_STEPS, listBatches, listProducts, listRecipes, type RecipeRow } from '@/store/mix';
import type { Db } from '@/store/pool';
import { announce } from '../changes';
import { code, day, finite, instant, name, newEvent, notNegative, ph, positive } from '../contract';
import { doseAnswer } from '../contract-dose';
import { doseToWire } from '../dose-wire';
import { operation } from '../operation';
import { idOf } from './readings';

const ec = notNegative.max(1e6);
const rate = positive.max(100, 'at most 100 mL for each litre: litres written for millilitres?');
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
	unit: z.enum(['mL', 'g']).optional().describe('how it is measured: rate, gain and stock are in it'),
	rate_ml_per_l: rate.nullish().describe('mL (or g) of each part for each litre'),
	rate_text: z.string().max(100).optional().describe('the label’s own words, as 10 mL/gal; the rate follows from them'),
	gain_us_cm_per_ml_l: positive.max(1e5).nullish(),
	stock_ml: notNegative.max(1e9).nullish(),
	opened: day.nullish(),
	keeps_days: z.number().int().min(1).max(10_000).nullish().describe('after opening'),
	expires: day.nullish(),
	note: z.string().max(2000).optional(),
});
export const productToWire = (p: ProductView) => ({
	name: p.name,
	kind: p.kind,
	chemical: p.chemical,
	percent_w_w: p.percentWw,
	density_g_ml: p.densityGMl,
	parts: p.parts,
	unit: p.unit,
	rate_ml_per_l: p.rateMlL,
	rate_text: p.rateText,
	gain_us_cm_per_ml_l: p.gainUsCm,
	stock_ml: p.stockMl,
	left_ml: p.left,
	opened: p.opened,
	keeps_days: p.keepsDays,
	expires: p.expires,
	note: p.note,
	bottle: p.bottle,
	learned_gain_us_cm_per_ml_l: p.learnedGain?.gainUsCm ?? null,
	learned_from_batches: p.learnedGain?.batches ?? 0,
	strength_meq_per_ml: p.strengthMeqMl,
});

const recipe = z.strictObject({
	name,
	product: name,
	water: code.nullish().describe('a source or blend; null where any will do'),
	target_ec_us_cm: ec.gt(0).nullish().describe('either this or strength'),
	strength: positive.max(3, 'at most three times the label').nullish().describe('share of the label’s rate'),
	target_ph: finite.min(3).max(10).nullish(),
	ph_first: z.boolean().optional().describe('the school that sets pH before feeding, and again after it'),
	note: z.string().max(2000).optional(),
});
export const recipeToWire = (r: RecipeRow) => ({
	name: r.name,
	product: r.product,
	water: r.water,
	target_ec_us_cm: r.targetEcUsCm,
	strength: r.strength,
	target_ph: r.targetPh,
	ph_first: r.phFirst,
	note: r.note,
});
const views = async (db: Db, context: SiteContext, now: number) =>
	productViews(db, context, await listBatches(db, context.site.id, 60), now);

const stepEvent = newEvent.pick({ time: true, kind: true, product: true, note: true }).extend({
	amount: notNegative,
	unit: z.string().max(20),
});
const eventFromWire = (e: z.output<typeof stepEvent>, now: number): StepEvent => ({
	at: e.time ?? now,
	kind: e.kind,
	amount: e.amount,
	unitText: e.unit,
	product: e.product ?? '',
	note: e.note ?? '',
});

export const mix = [
	operation({
		method: 'GET',
		path: '/products',
		tag: 'Mix',
		summary: 'Nutrients, acids and bases',
		response: z.object({ products: z.array(z.record(z.string(), z.unknown())) }),
		run: async ({ pool, now }) => ({
			products: (await views(pool(), await requireSite(pool()), now)).map(productToWire),
		}),
	}),
	operation({
		method: 'POST',
		path: '/products',
		tag: 'Mix',
		summary: 'Make a product, or change the one with this name',
		body: product,
		response: z.record(z.string(), z.unknown()),
		status: 201,
		run: async ({ body, pool, now, who }) => {
			const context = await requireSite(pool());
			const label = body.rate_text?.trim() ? labelRate(body.rate_text) : null;
			if (label && !label.ok) throw new Refusal(422, 'bad-label', [{ path: 'rate_text', message: label.message }]);
			const before = (await listProducts(pool(), context.site.id)).find((p) => p.name === body.name);
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
					unit: label?.unit ?? body.unit ?? before?.unit ?? 'mL',
					rateMlL: label?.perL ?? (body.rate_ml_per_l === undefined ? (before?.rateMlL ?? null) : body.rate_ml_per_l),
					rateText: body.rate_text ?? (body.rate_ml_per_l === undefined ? (before?.rateText ?? '') : ''),
					gainUsCm: body.gain_us_cm_per_ml_l === undefined ? (before?.gainUsCm ?? null) : body.gain_us_cm_per_ml_l,
					stockMl: body.stock_ml === undefined ? (before?.stockMl ?? null) : body.stock_ml,
					opened: body.opened === undefined ? (before?.opened ?? null) : body.opened,
					keepsDays: body.keeps_days === undefined ? (before?.keepsDays ?? null) : body.keeps_days,
					expires: body.expires === undefined ? (before?.expires ?? null) : body.expires,
					note: body.note ?? before?.note ?? '',
				},
				now,
				who,
			);
			return productToWire((await views(pool(), context, now)).find((p) => p.name === body.name)!);
		},
	}),
	operation({
		method: 'GET',
		path: '/recipes',
		tag: 'Mix',
		summary: 'Mixings that are made again',
		response: z.object({ recipes: z.array(recipe) }),
		run: async ({ pool }) => {
			const context = await requireSite(pool());
			return { recipes: (await listRecipes(pool(), context.site.id)).map(recipeToWire) };
		},
	}),
	operation({
		method: 'POST',
		path: '/recipes',
		tag: 'Mix',
		summary: 'Keep a recipe under its name, or change the one that has it',
		body: recipe.refine((r) => (r.target_ec_us_cm == null) !== (r.strength == null), {
			message: 'give either a target EC or a strength of the label’s rate',
			path: ['target_ec_us_cm'],
		}),
		response: z.object({ ok: z.literal(true) }),
		status: 201,
		run: async ({ body, pool, now, who }) => {
			await saveRecipe(
				pool(),
				await requireSite(pool()),
				{
					name: body.name,
					product: body.product,
					water: body.water ?? null,
					targetEcUsCm: body.target_ec_us_cm ?? null,
					strength: body.strength ?? null,
					targetPh: body.target_ph ?? null,
					phFirst: body.ph_first ?? false,
					note: body.note ?? '',
				},
				now,
				who,
			);
			return { ok: true };
		},
	}),
	operation({
		method: 'POST',
		path: '/recipes/put-away',
		tag: 'Mix',
		summary: 'Put a recipe away; its batches keep their plans',
		body: z.strictObject({ name }),
		response: z.object({ ok: z.literal(true) }),
		run: async ({ body, pool, who }) => {
			await putAwayRecipe(pool(), await requireSite(pool()), body.name, who);
			return { ok: true };
		},
	}),
	operation({
		method: 'POST',
		path: '/mix/dose',
		tag: 'Mix',
		summary:
			'The next dose of acid or base for a tank, by what earlier ones did, with the pH it leads to and what follows',
		body: z.strictObject({
			station: code,
			product: name,
			target_ph: finite.min(3).max(10),
			ph: ph.optional().describe('read just now; the newest reading unless given'),
			volume_l: positive.max(1e9).optional().describe('of the tank unless given'),
			leave_in_range: z.boolean().optional().describe('nothing is advised while the pH is in the station’s range'),
			time: instant.optional().describe('as of then, by what was written until then; now unless given'),
		}),
		response: doseAnswer,
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
					leaveInRange: body.leave_in_range ?? false,
				},
				Math.min(body.time ?? now, now),
			);
			return doseToWire(v);
		},
	}),
	operation({
		method: 'POST',
		path: '/mix/jug',
		tag: 'Mix',
		summary: 'A jug titration: the strength of a product from drops against pH in some litres',
		body: z.strictObject({
			product: name,
			station: code.nullish().describe('the tank whose solution is in the jug: its steps teach as doses do'),
			litres: positive.max(20, 'a jug, not a tank'),
			steps: z
				.array(z.strictObject({ ml: notNegative.max(1000), ph }))
				.min(2, 'the pH before, and at least one step')
				.max(200),
		}),
		response: z.object({ strength_meq_per_ml: z.number(), buffer_meq_per_l_ph: z.number() }),
		run: async ({ body, pool, now, who }) => {
			const r = await titrateJug(
				pool(),
				await requireSite(pool()),
				{ ...body, station: body.station ?? null },
				now,
				who,
			);
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
			event: stepEvent.optional().describe('the filling, logged together with the batch'),
			plan: z.strictObject({
				litres: positive.max(1e9),
				water: code.nullable(),
				water_ec_us_cm: ec,
				product: name,
				ml_per_l: notNegative
					.max(100, 'at most 100 mL for each litre: litres written for millilitres?')
					.describe('of each part; grams where the product is a powder'),
				unit: z.enum(['mL', 'g']).optional(),
				parts: z.number().int().min(1).max(6),
				target_ec_us_cm: ec.nullable(),
				expected_ec_us_cm: ec.nullish(),
				target_ph: finite.min(3).max(10).nullable(),
				recipe: z.string().max(200).nullish(),
				strength: positive.max(3).nullish(),
				ph_first: z.boolean().optional(),
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
					event: body.event ? eventFromWire(body.event, now) : null,
					plan: {
						litres: body.plan.litres,
						water: body.plan.water,
						waterEcUsCm: body.plan.water_ec_us_cm,
						product: body.plan.product,
						mlPerL: body.plan.ml_per_l,
						parts: body.plan.parts,
						targetEcUsCm: body.plan.target_ec_us_cm,
						targetPh: body.plan.target_ph,
						unit: body.plan.unit ?? 'mL',
						expectedEcUsCm: body.plan.expected_ec_us_cm ?? null,
						recipe: body.plan.recipe ?? null,
						strength: body.plan.strength ?? null,
						phFirst: body.plan.ph_first ?? false,
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
			step: z.enum(BATCH_STEPS),
			expected: finite.nullish(),
			measured: finite.nullish(),
			words: z.string().max(500),
			amount: notNegative.max(1e9).nullish().describe('poured, mL or g, of each part'),
			flag: z.number().int().min(1).max(9).nullish().describe('what the checks said of the measured value'),
			doubt: z.string().max(500).nullish(),
			event: stepEvent.optional().describe('what was poured, logged together with the step'),
		}),
		response: z.object({ ok: z.literal(true) }),
		run: async ({ params, body, pool, now, who }) => {
			const step = {
				at: now,
				step: body.step,
				expected: body.expected ?? null,
				measured: body.measured ?? null,
				words: body.words,
				amount: body.amount ?? null,
				flag: body.flag ?? null,
				doubt: body.doubt ?? null,
			};
			const event = body.event ? eventFromWire(body.event, now) : null;
			const station = await stepBatch(pool(), await requireSite(pool()), idOf(params.id), step, event, { who, now });
			announce({ kind: 'event', station, by: '' });
			return { ok: true };
		},
	}),
];
