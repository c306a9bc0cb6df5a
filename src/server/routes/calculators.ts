import { z } from 'zod';
import { compensate } from '@/core/probe/conductivity';
import { convert } from '@/core/quantity';
import { Refusal } from '@/service/refusal';
import { finite, notNegative, tempC, unit } from '../contract';
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
			alpha_pct_per_c: finite.min(0).max(3).optional().describe('1.91 unless given'),
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
];
