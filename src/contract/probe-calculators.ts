import { z } from 'zod';
import { KCL_SATURATION_MOLAR } from '@/core/probe/storage-solution';
import { alpha, finite, instant, notNegative, phOrEc, positive, tempC, unit } from './fields';
import { resource } from './operation';
import { wire } from './wire';

/** A figure that is left out where there is none. */
export const figure = z.codec(z.number().optional(), z.number().nullable(), {
	decode: (v) => v ?? null,
	encode: (v) => v ?? undefined,
});
const foundPoint = z.strictObject({ nominal: finite, found: finite });
const compensated = wire({ alpha_pct_per_c: alpha });

export const probeCalculators = resource('Calculators', {
	'POST /calc/convert': {
		storesNothing: true,
		summary: 'Convert a value between two units of one kind',
		body: wire({ value: finite, from: unit, to: unit, temp_c: tempC.optional() }),
		answer: z.object({ value: z.number() }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/compensate': {
		storesNothing: true,
		summary: 'Conductivity at 25 °C from the raw conductivity at the water’s temperature',
		body: wire({
			ec_us_cm: notNegative,
			temp_c: tempC,
			alpha_pct_per_c: alpha.optional().describe('1.91 unless given'),
			model: z.enum(['linear', 'natural-water']).optional(),
		}),
		answer: wire({ ec25_us_cm: z.number() }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/standard': {
		storesNothing: true,
		summary: 'What a buffer or conductivity standard is worth at a temperature',
		body: wire({ standard: z.string().max(60), temp_c: tempC, compensated: compensated.optional() }),
		answer: z.object({ nominal: z.number(), unit: z.enum(['pH', 'uS/cm']), source: z.string() }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/calibration': {
		storesNothing: true,
		summary: 'What one calibration says: offset, slope, cell factor, verdict and reasons',
		body: wire({
			quantity: phOrEc,
			temp_c: tempC,
			compensated: z.union([z.boolean(), compensated]).optional(),
			points: z
				.array(
					wire({
						nominal: finite,
						as_found: finite,
						mv: finite
							.min(-2000, 'an electrode gives −2000 to 2000 mV')
							.max(2000, 'an electrode gives −2000 to 2000 mV')
							.optional(),
					}),
				)
				.min(1)
				.max(5),
		}),
		answer: wire({
			offset: z.number(),
			offset_mv: figure,
			slope_pct: z.number().nullable(),
			cell_factor: figure,
			verdict: z.enum(['good', 'watch', 'fail']),
			reasons: z.array(z.string()),
		}),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/restate': {
		storesNothing: true,
		summary: 'Put one reading right between two calibrations',
		body: wire({
			quantity: phOrEc,
			value: finite,
			taken_at: instant,
			from: z.strictObject({ at: instant, kind: z.enum(['adjust', 'check']), points: z.array(foundPoint).max(5) }),
			to: z.strictObject({ at: instant, points: z.array(foundPoint).min(1).max(5) }),
			thresholds: wire({ leave_alone: notNegative.optional(), reject: notNegative.optional() })
				.optional()
				.describe('pH, or percent of an EC reading'),
		}),
		answer: z.object({ value: z.number(), error: z.number(), applied: z.boolean(), why: z.string() }),
		problems: ['cannot-be-computed'],
	},
	'POST /calc/storage-solution': {
		storesNothing: true,
		summary: 'Grams of potassium chloride for a storage solution',
		body: wire({
			molar: positive.max(KCL_SATURATION_MOLAR, `at most ${KCL_SATURATION_MOLAR} mol/L dissolves`),
			volume_ml: positive.max(1e6),
		}),
		answer: wire({ kcl_g: z.number() }),
	},
});
