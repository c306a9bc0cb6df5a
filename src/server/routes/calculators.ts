import { z } from 'zod';
import { evaluateCalibration } from '@/core/probe/calibration';
import { compensate } from '@/core/probe/conductivity';
import { restate } from '@/core/probe/restate';
import { nominalValue, STANDARDS, standardNamed } from '@/core/probe/standards';
import { KCL_SATURATION_MOLAR, kclGrams } from '@/core/probe/storage-solution';
import { convert } from '@/core/quantity';
import { Refusal } from '@/service/refusal';
import { alpha, finite, instant, notNegative, positive, tempC, unit } from '../contract';
import { operation } from '../operation';

const CONVERSION_WORDS = {
	'different-kinds': ['to', 'These two units measure different things.'],
	'not-finite': ['value', 'The result is too large to be a number.'],
	impossible: ['value', 'No such value exists in this unit.'],
} as const;

const COMPENSATION_WORDS = {
	'not-finite': ['ec_us_cm', 'The result is too large to be a number.'],
	negative: ['ec_us_cm', 'A conductivity is not negative.'],
	'temperature-outside-water': ['temp_c', 'Water is between −5 and 60 °C.'],
	'temperature-outside-model': ['temp_c', 'The natural-water model holds from 0 to 35 °C.'],
	coefficient: ['alpha_pct_per_c', 'The coefficient lies between 0 and 3 % per °C.'],
} as const;

const RESTATE_WORDS = {
	'no-points': 'Give at least one standard with what was found in it.',
	'not-finite': 'A value is not a number.',
	'vanishing-gain':
		'The probe shows nearly the same in both standards, or the same standard is given twice: no error can be told from that.',
	'wrong-way': 'The values run the wrong way: are the two standards exchanged?',
	'empty-interval': 'The later calibration must lie after the earlier one.',
} as const;

const phOrEc = z.enum(['ph', 'ec']);
const foundPoint = z.strictObject({ nominal: finite, found: finite });

/** pH lies within 0–14; a conductivity is not negative, and a standard's is more than 0. */
function checkRange(quantity: 'ph' | 'ec', value: number, path: string, found: boolean): void {
	if (quantity === 'ph' && !(value >= 0 && value <= 14))
		throw new Refusal(422, 'cannot-be-computed', [{ path, message: 'pH is between 0 and 14.' }]);
	if (quantity === 'ec' && !(found ? value >= 0 : value > 0))
		throw new Refusal(422, 'cannot-be-computed', [{ path, message: 'A conductivity is not negative.' }]);
}

const refuse = ([path, message]: readonly [string, string]): never => {
	throw new Refusal(422, 'cannot-be-computed', [{ path, message }]);
};

export const calculators = [
	operation({
		method: 'POST',
		path: '/calc/convert',
		tag: 'Calculators',
		summary: 'Convert a value between two units of one kind',
		body: z.strictObject({ value: finite, from: unit, to: unit, temp_c: tempC.optional() }),
		response: z.object({ value: z.number() }),
		run: ({ body }) => {
			const result = convert(body.value, body.from, body.to);
			return result.ok ? { value: result.value } : refuse(CONVERSION_WORDS[result.problem]);
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/compensate',
		tag: 'Calculators',
		summary: 'Conductivity at 25 °C from the raw conductivity at the water’s temperature',
		body: z.strictObject({
			ec_us_cm: notNegative,
			temp_c: tempC,
			alpha_pct_per_c: alpha.optional().describe('1.91 unless given'),
			model: z.enum(['linear', 'natural-water']).optional(),
		}),
		response: z.object({ ec25_us_cm: z.number() }),
		run: ({ body }) => {
			const result = compensate({
				ecUsCm: body.ec_us_cm,
				tempC: body.temp_c,
				alphaPctPerC: body.alpha_pct_per_c,
				model: body.model,
			});
			return result.ok ? { ec25_us_cm: result.ec25UsCm } : refuse(COMPENSATION_WORDS[result.problem]);
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/standard',
		tag: 'Calculators',
		summary: 'What a buffer or conductivity standard is worth at a temperature',
		body: z.strictObject({
			standard: z.string().max(60),
			temp_c: tempC,
			compensated: z.strictObject({ alpha_pct_per_c: alpha }).optional(),
		}),
		response: z.object({ nominal: z.number(), unit: z.enum(['pH', 'uS/cm']), source: z.string() }),
		run: ({ body }) => {
			const standard = standardNamed(body.standard);
			if (!standard)
				return refuse([
					'standard',
					`“${body.standard}” is not a standard known here; one of ${STANDARDS.map((s) => s.name).join(', ')}.`,
				]);
			const at = nominalValue(
				standard,
				body.temp_c,
				body.compensated && { compensates: true, alphaPctPerC: body.compensated.alpha_pct_per_c },
			);
			if (!at.ok) return refuse(['temp_c', `The table of ${standard.name} runs from ${at.low} to ${at.high} °C.`]);
			return { nominal: at.value, unit: standard.quantity === 'ph' ? 'pH' : 'uS/cm', source: standard.source };
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/calibration',
		tag: 'Calculators',
		summary: 'What one calibration says: offset, slope, cell factor, verdict and reasons',
		body: z.strictObject({
			quantity: phOrEc,
			temp_c: tempC,
			compensated: z.union([z.boolean(), z.strictObject({ alpha_pct_per_c: alpha })]).optional(),
			points: z
				.array(
					z.strictObject({
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
		response: z.object({
			offset: z.number(),
			offset_mv: z.number().optional(),
			slope_pct: z.number().nullable(),
			cell_factor: z.number().optional(),
			verdict: z.enum(['good', 'watch', 'fail']),
			reasons: z.array(z.string()),
		}),
		run: ({ body }) => {
			for (const [i, p] of body.points.entries()) checkRange(body.quantity, p.nominal, `points.${i}.nominal`, false);
			for (const [i, p] of body.points.entries()) checkRange(body.quantity, p.as_found, `points.${i}.as_found`, true);
			const result = evaluateCalibration(
				body.quantity,
				body.points.map((p) => ({ nominal: p.nominal, asFound: p.as_found, mv: p.mv })),
				body.temp_c,
			);
			if (!result.ok) return refuse(['points', result.message]);
			return {
				offset: result.offset,
				...(result.offsetMv === null ? {} : { offset_mv: result.offsetMv }),
				slope_pct: result.slopePct,
				...(result.cellFactor === null ? {} : { cell_factor: result.cellFactor }),
				verdict: result.verdict,
				reasons: result.reasons.map((r) => r.message),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/restate',
		tag: 'Calculators',
		summary: 'Put one reading right between two calibrations',
		body: z.strictObject({
			quantity: phOrEc,
			value: finite,
			taken_at: instant,
			from: z.strictObject({ at: instant, kind: z.enum(['adjust', 'check']), points: z.array(foundPoint).max(5) }),
			to: z.strictObject({ at: instant, points: z.array(foundPoint).min(1).max(5) }),
			thresholds: z
				.strictObject({ leave_alone: notNegative.optional(), reject: notNegative.optional() })
				.optional()
				.describe('pH, or percent of an EC reading'),
		}),
		response: z.object({ value: z.number(), error: z.number(), applied: z.boolean(), why: z.string() }),
		run: ({ body }) => {
			checkRange(body.quantity, body.value, 'value', true);
			for (const side of ['from', 'to'] as const)
				for (const [i, p] of body[side].points.entries()) {
					checkRange(body.quantity, p.nominal, `${side}.points.${i}.nominal`, false);
					checkRange(body.quantity, p.found, `${side}.points.${i}.found`, true);
				}
			if (body.from.kind === 'check' && body.from.points.length === 0)
				return refuse(['from.points', 'A check without what it found says nothing.']);
			const result = restate({
				quantity: body.quantity,
				value: body.value,
				takenAt: body.taken_at,
				from: { at: body.from.at, kind: body.from.kind, points: body.from.points },
				to: { at: body.to.at, points: body.to.points },
				thresholds: body.thresholds && { leaveAlone: body.thresholds.leave_alone, reject: body.thresholds.reject },
			});
			if (!result.ok) return refuse([`${result.side}.points`, RESTATE_WORDS[result.problem]]);
			const { value, error, applied, why } = result;
			return { value, error, applied, why };
		},
	}),
	operation({
		method: 'POST',
		path: '/calc/storage-solution',
		tag: 'Calculators',
		summary: 'Grams of potassium chloride for a storage solution',
		body: z.strictObject({
			molar: positive.max(KCL_SATURATION_MOLAR, `at most ${KCL_SATURATION_MOLAR} mol/L dissolves`),
			volume_ml: positive.max(1e6),
		}),
		response: z.object({ kcl_g: z.number() }),
		run: ({ body }) => ({ kcl_g: kclGrams(body.molar, body.volume_ml) }),
	}),
];
