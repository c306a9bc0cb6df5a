import { probeCalculators as resource } from '@/contract/probe-calculators';
import { evaluateCalibration } from '@/core/probe/calibration';
import { compensate } from '@/core/probe/conductivity';
import { restate } from '@/core/probe/restate';
import { nominalValue, STANDARDS, standardNamed } from '@/core/probe/standards';
import { kclGrams } from '@/core/probe/storage-solution';
import { convert } from '@/core/quantity';
import { Refusal } from '@/service/refusal';
import { handle } from '../dispatch';

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

/** pH lies within 0–14; a conductivity is not negative, and a standard's is more than 0. */
function checkRange(quantity: 'ph' | 'ec', value: number, path: string, found: boolean): void {
	if (quantity === 'ph' && !(value >= 0 && value <= 14)) refuse([path, 'pH is between 0 and 14.']);
	if (quantity === 'ec' && !(found ? value >= 0 : value > 0)) refuse([path, 'A conductivity is not negative.']);
}

function refuse([path, message]: readonly [string, string]): never {
	throw new Refusal('cannot-be-computed', [{ path, message }]);
}

export const probeCalculators = handle(resource, {
	'POST /calc/convert': ({ body }) => {
		const result = convert(body.value, body.from, body.to);
		return result.ok ? { value: result.value } : refuse(CONVERSION_WORDS[result.problem]);
	},
	'POST /calc/compensate': ({ body }) => {
		const result = compensate(body);
		return result.ok ? result : refuse(COMPENSATION_WORDS[result.problem]);
	},
	'POST /calc/standard': ({ body }) => {
		const standard = standardNamed(body.standard);
		if (!standard)
			return refuse([
				'standard',
				`“${body.standard}” is not a standard known here; one of ${STANDARDS.map((s) => s.name).join(', ')}.`,
			]);
		const at = nominalValue(standard, body.tempC, body.compensated && { compensates: true, ...body.compensated });
		if (!at.ok) return refuse(['temp_c', `The table of ${standard.name} runs from ${at.low} to ${at.high} °C.`]);
		return { nominal: at.value, unit: standard.quantity === 'ph' ? 'pH' : 'uS/cm', source: standard.source };
	},
	'POST /calc/calibration': ({ body }) => {
		for (const [i, p] of body.points.entries()) checkRange(body.quantity, p.nominal, `points.${i}.nominal`, false);
		for (const [i, p] of body.points.entries()) checkRange(body.quantity, p.asFound, `points.${i}.as_found`, true);
		const result = evaluateCalibration(body.quantity, body.points, body.tempC);
		if (!result.ok) return refuse(['points', result.message]);
		return { ...result, reasons: result.reasons.map((r) => r.message) };
	},
	'POST /calc/restate': ({ body }) => {
		checkRange(body.quantity, body.value, 'value', true);
		for (const side of ['from', 'to'] as const)
			for (const [i, p] of body[side].points.entries()) {
				checkRange(body.quantity, p.nominal, `${side}.points.${i}.nominal`, false);
				checkRange(body.quantity, p.found, `${side}.points.${i}.found`, true);
			}
		if (body.from.kind === 'check' && body.from.points.length === 0)
			return refuse(['from.points', 'A check without what it found says nothing.']);
		const result = restate(body);
		return result.ok ? result : refuse([`${result.side}.points`, RESTATE_WORDS[result.problem]]);
	},
	'POST /calc/storage-solution': ({ body }) => ({ kclG: kclGrams(body.molar, body.volumeMl) }),
});
