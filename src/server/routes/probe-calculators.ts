import { probeCalculators as resource } from '@/contract/probe-calculators';
import { evaluateCalibration } from '@/core/probe/calibration';
import { compensate } from '@/core/probe/conductivity';
import { restate } from '@/core/probe/restate';
import { nominalValue, STANDARDS, standardNamed } from '@/core/probe/standards';
import { kclGrams } from '@/core/probe/storage-solution';
import { convert } from '@/core/quantity';
import { Refusal } from '@/service/refusal';
import { COMPENSATION_WORDS, CONVERSION_WORDS, RESTATE_WORDS } from '@/words/en/calculators';
import { CALIBRATION_PROBLEM } from '@/words/en/calibration';
import { remarkWords } from '@/words/en/remark';
import { handle } from '../dispatch';

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
		return result.ok ? { ec25UsCm: result.value } : refuse(COMPENSATION_WORDS[result.problem]);
	},
	'POST /calc/standard': ({ body }) => {
		const standard = standardNamed(body.standard);
		if (!standard)
			return refuse([
				'standard',
				`“${body.standard}” is not a standard known here; one of ${STANDARDS.map((s) => s.name).join(', ')}.`,
			]);
		const at = nominalValue(standard, body.tempC, body.compensated && { compensates: true, ...body.compensated });
		if (!at.ok)
			return refuse(['temp_c', `The table of ${standard.name} runs from ${at.problem.low} to ${at.problem.high} °C.`]);
		return { nominal: at.value, unit: standard.quantity === 'ph' ? 'pH' : 'uS/cm', source: standard.source };
	},
	'POST /calc/calibration': ({ body }) => {
		for (const [i, p] of body.points.entries()) checkRange(body.quantity, p.nominal, `points.${i}.nominal`, false);
		for (const [i, p] of body.points.entries()) checkRange(body.quantity, p.asFound, `points.${i}.as_found`, true);
		const result = evaluateCalibration(body.quantity, body.points, body.tempC);
		if (!result.ok) return refuse(['points', CALIBRATION_PROBLEM[result.problem]]);
		return { ...result.value, reasons: result.value.reasons.map(remarkWords) };
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
		return result.ok ? result.value : refuse([`${result.problem.side}.points`, RESTATE_WORDS[result.problem.code]]);
	},
	'POST /calc/storage-solution': ({ body }) => ({ kclG: kclGrams(body.molar, body.volumeMl) }),
});
