import type { Prediction } from '@/core/judge/history';
import {
	type PpmScale,
	parseTyped,
	QUANTITY,
	type Quantity,
	seriesQuantity,
	type Unit,
	unitFits,
} from '@/core/quantity';
import { placeMark } from '@/core/reading/place-mark';
import type { DisplayUnits } from '@/core/reading/site-view';
import { typedProblem } from '@/words/en/value';

export type FieldValue =
	| { state: 'empty' }
	| { state: 'problem'; message: string }
	| { state: 'value'; quantity: Quantity; digits: string; unit: Unit; marked: boolean };

const BARE_UNIT: Partial<Record<Quantity, Unit>> = {
	ph: 'pH',
	do: 'mg/L',
	orp: 'mV',
	level: 'mm',
	volume: 'L',
	alkalinity: 'mg/L_CaCO3',
	hardness: 'mg/L_CaCO3',
};

/** What one field of Bench holds: the number, its unit, and whether the decimal mark was put in. */
export function understandField(
	field: Quantity,
	text: string,
	ppmScale: PpmScale | null,
	units: DisplayUnits,
	prediction: Prediction | null,
): FieldValue {
	if (text.trim() === '') return { state: 'empty' };
	const parsed = parseTyped(text);
	if (!parsed.ok) return { state: 'problem', message: typedProblem(parsed.problem) };
	const typed = parsed.value;
	let unit: Unit;
	if (typed.unit === 'ppm') {
		if (ppmScale === null)
			return {
				state: 'problem',
				message: 'ppm on which scale? Type ppm500, ppm640 or ppm700, or give the meter its scale in Setup.',
			};
		unit = `ppm${ppmScale}`;
	} else
		unit =
			typed.unit ??
			(field === 'ec' ? units.ec : field === 'temp' ? units.temp : (BARE_UNIT[field] ?? QUANTITY[field].canonical));
	if (!unitFits(field, unit))
		return { state: 'problem', message: `${QUANTITY[field].name} is not measured in ${unit}.` };
	const quantity: Quantity = field === 'ec' && unit.startsWith('ppm') ? 'tds' : field;
	const digits =
		typed.unit === null && typed.kind === 'number'
			? placeMark(typed.digits, seriesQuantity(quantity), unit, prediction)
			: typed.digits;
	return { state: 'value', quantity, digits, unit, marked: digits !== typed.digits };
}
