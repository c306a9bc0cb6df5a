import { z } from 'zod';
import { STAGES, type Stage } from '@/core/mix/strength';
import { code, day, done, ecUsCm, finite, growingPh, name, note, notNegative, positive } from './fields';
import { resource } from './operation';
import { withSeen } from './seen';
import { wire } from './wire';

const kind = z.enum(['nutrient', 'acid', 'base']);
const unit = z.enum(['mL', 'g']);
const rate = positive.max(100, 'at most 100 mL for each litre: litres written for millilitres?');

/** A product by its label: what is not given stays as it was. */
const typedShape = {
	name,
	kind,
	chemical: z
		.string()
		.max(40)
		.optional()
		.describe('nitric, phosphoric, sulfuric, citric, acetic, the name of a base, or of a salt that is a feed'),
	percent_w_w: finite.gt(0, 'more than 0 %').max(100, 'at most 100 %').nullish(),
	density_g_ml: finite.min(0.7).max(2.5).nullish(),
	parts: z.number().int().min(1).max(6).optional(),
	unit: unit.optional().describe('how it is measured: rate, gain and stock are in it'),
	rate_ml_per_l: rate.nullish().describe('mL (or g) of each part for each litre'),
	rate_text: z.string().max(100).optional().describe('the label’s own words, as 10 mL/gal; the rate follows from them'),
	gain_us_cm_per_ml_l: positive.max(1e5).nullish(),
	stock_ml: notNegative.max(1e9).nullish(),
	opened: day.nullish(),
	keeps_days: z.number().int().min(1).max(10_000).nullish().describe('after opening'),
	expires: day.nullish(),
	note: note.optional(),
	analysis: z
		.string()
		.max(2000)
		.optional()
		.describe(
			'what the label says is in it: N 4 %, P2O5 2 %, K2O 6 %; of several bottles A: … and B: … on lines of their own',
		),
	retired: z.boolean().optional().describe('lists forget it; what was poured of it stays'),
};
export const TYPED_NAMES = {
	percent_w_w: 'percentWw',
	rate_ml_per_l: 'rateMlL',
	gain_us_cm_per_ml_l: 'gainUsCm',
} as const;
const typedProduct = wire(withSeen(typedShape, TYPED_NAMES), TYPED_NAMES);
export type TypedProduct = z.output<typeof typedProduct>;

/** The same as it is kept, with what follows from it and from what was poured. */
export const product = wire(
	{
		name: z.string(),
		kind,
		chemical: z.string(),
		percent_w_w: z.number().nullable(),
		density_g_ml: z.number().nullable(),
		parts: z.number(),
		unit,
		rate_ml_per_l: z.number().nullable(),
		rate_text: z.string(),
		gain_us_cm_per_ml_l: z.number().nullable(),
		stock_ml: z.number().nullable(),
		left_ml: z.number().nullable().describe('of each part, counted down by what was logged'),
		opened: z.string().nullable(),
		keeps_days: z.number().nullable(),
		expires: z.string().nullable(),
		note: z.string(),
		analysis: z.string(),
		retired: z.boolean(),
		contains: z
			.record(z.string(), z.number())
			.nullable()
			.describe(
				'mg/L that 1 mL (or g) of each bottle for each litre brings, by nutrient; null where the label does not say',
			),
		bottles: z.array(z.record(z.string(), z.number()).nullable()).describe('the same for each bottle'),
		label_says: z.array(z.string()).describe('what of the label was not understood, or is to be said beside it'),
		gain_by_label_us_cm_per_ml_l: z.number().nullable().describe('EC that follows from what it contains'),
		bottle: z.array(z.string()).describe('what is to be said before it is poured from'),
		learned_gain_us_cm_per_ml_l: z.number().nullable().describe('what its batches have shown'),
		learned_from_batches: z.number(),
		strength_meq_per_ml: z.number().nullable(),
	},
	{
		percent_w_w: 'percentWw',
		rate_ml_per_l: 'rateMlL',
		gain_us_cm_per_ml_l: 'gainUsCm',
		learned_gain_us_cm_per_ml_l: 'learnedGainUsCm',
		gain_by_label_us_cm_per_ml_l: 'gainByLabelUsCm',
		strength_meq_per_ml: 'strengthMeqMl',
	},
);
export type Product = z.input<typeof product>;

const recipePart = wire({
	product: name,
	per_l: rate
		.nullable()
		.default(null)
		.describe('mL or g of each bottle for each litre at full strength; null: the label’s own'),
	scales: z.boolean().default(true).describe('follows the target; false: keeps its rate'),
	wait_min: z.number().int().min(0).max(240).default(0).describe('to stir and wait before the next'),
	stock_tank: z
		.string()
		.regex(/^[A-F]?$/, 'a letter, A to F')
		.default('')
		.describe('of an injector; empty: by what is in it'),
});
const stages = z
	.partialRecord(z.enum(Object.keys(STAGES) as [Stage, ...Stage[]]), ecUsCm.gt(0))
	.default({})
	.describe('target EC by stage of the plants, µS/cm');
const recipeShape = {
	name,
	parts: z.array(recipePart).min(1, 'name at least one product').max(20).describe('in the order they are poured'),
	stages,
	injector: finite
		.min(10, 'at least 1:10')
		.max(500, 'at most 1:500')
		.nullable()
		.default(null)
		.describe('parts of feed for one of stock'),
	water: code.nullable().default(null).describe('a source or blend; null where any will do'),
	target_ec_us_cm: ecUsCm.gt(0).nullable().default(null).describe('either this or strength'),
	strength: positive
		.max(3, 'at most three times the label')
		.nullable()
		.default(null)
		.describe('share of the label’s rate'),
	target_ph: growingPh.nullable().default(null),
	ph_first: z.boolean().default(false).describe('the school that sets pH before feeding, and again after it'),
	note: note.default(''),
};
export const recipe = wire({
	name: z.string(),
	parts: z.array(
		wire({
			product: z.string(),
			per_l: z.number().nullable(),
			scales: z.boolean(),
			wait_min: z.number(),
			stock_tank: z.string(),
		}),
	),
	stages: z.record(z.string(), z.number()),
	injector: z.number().nullable(),
	water: z.string().nullable(),
	target_ec_us_cm: z.number().nullable(),
	strength: z.number().nullable(),
	target_ph: z.number().nullable(),
	ph_first: z.boolean(),
	note: z.string(),
});
export type Recipe = z.input<typeof recipe>;

export const products = resource('Mix', {
	'GET /products': {
		summary: 'Nutrients, acids and bases',
		answer: z.object({ products: z.array(product) }),
	},
	'POST /products': {
		summary: 'Make a product, or change the one with this name',
		body: typedProduct,
		answer: product,
		status: 201,
		problems: ['bad-label', 'changed-meanwhile'],
	},
	'GET /recipes': {
		summary: 'Mixings that are made again',
		answer: z.object({ recipes: z.array(recipe) }),
	},
	'POST /recipes': {
		summary: 'Keep a recipe under its name, or change the one that has it',
		body: wire(recipeShape).refine((r) => (r.targetEcUsCm == null) !== (r.strength == null), {
			message: 'give either a target EC or a strength of the label’s rate',
			path: ['target_ec_us_cm'],
		}),
		answer: done,
		status: 201,
		problems: ['unknown-product', 'not-a-feed', 'unknown-station'],
	},
	'POST /recipes/put-away': {
		summary: 'Put a recipe away; its batches keep their plans',
		body: z.strictObject({ name }),
		answer: done,
		problems: ['unknown-recipe'],
	},
});
