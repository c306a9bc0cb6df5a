import { z } from 'zod';
import { code, day, done, ecUsCm, finite, growingPh, name, note, notNegative, positive } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const kind = z.enum(['nutrient', 'acid', 'base']);
const unit = z.enum(['mL', 'g']);
const rate = positive.max(100, 'at most 100 mL for each litre: litres written for millilitres?');

/** A product by its label: what is not given stays as it was. */
const typedProduct = wire(
	{
		name,
		kind,
		chemical: z
			.string()
			.max(40)
			.optional()
			.describe('nitric, phosphoric, sulfuric, citric, acetic, or the name of a base'),
		percent_w_w: finite.gt(0, 'more than 0 %').max(100, 'at most 100 %').nullish(),
		density_g_ml: finite.min(0.7).max(2.5).nullish(),
		parts: z.number().int().min(1).max(6).optional(),
		unit: unit.optional().describe('how it is measured: rate, gain and stock are in it'),
		rate_ml_per_l: rate.nullish().describe('mL (or g) of each part for each litre'),
		rate_text: z
			.string()
			.max(100)
			.optional()
			.describe('the label’s own words, as 10 mL/gal; the rate follows from them'),
		gain_us_cm_per_ml_l: positive.max(1e5).nullish(),
		stock_ml: notNegative.max(1e9).nullish(),
		opened: day.nullish(),
		keeps_days: z.number().int().min(1).max(10_000).nullish().describe('after opening'),
		expires: day.nullish(),
		note: note.optional(),
	},
	{ percent_w_w: 'percentWw', rate_ml_per_l: 'rateMlL', gain_us_cm_per_ml_l: 'gainUsCm' },
);
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
		strength_meq_per_ml: 'strengthMeqMl',
	},
);
export type Product = z.input<typeof product>;

const recipeShape = {
	name,
	product: name,
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
	product: z.string(),
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
		problems: ['bad-label'],
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
