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
import { countedDrops, type PerDrop, valueOfDrops } from '@/core/reading/drops';
import { instrumentAt } from '@/core/reading/instrument-at';
import { placeMark } from '@/core/reading/place-mark';
import type { DisplayUnits, SiteView } from '@/core/reading/site-view';
import { typedProblem } from '@/words/en/value';
import { displayUnit, unitLabel } from '../ui/format';

export type FieldValue =
	| { state: 'empty' }
	| { state: 'problem'; message: string }
	| {
			state: 'value';
			quantity: Quantity;
			digits: string;
			unit: Unit;
			marked: boolean;
			/** How many drops were counted, where they were. */
			drops?: number;
	  };

/** The unit of a number that is typed without one. */
export const bareUnit = (field: Quantity, units: DisplayUnits): Unit =>
	displayUnit(field, units) ?? QUANTITY[field].canonical;

/** What its instrument says of a field. */
export interface FieldMeter {
	ppmScale: PpmScale | null;
	/** What a drop stands for, where it counts drops for this. */
	perDrop?: PerDrop | undefined;
}

/** What an instrument of the site said of a field at a time. */
export const fieldMeter = (site: SiteView, code: string | null, q: Quantity, at: number): FieldMeter | null => {
	const meter = site.instruments.find((i) => i.info.code === code);
	if (!meter) return null;
	const { ppmScale, perDrop } = instrumentAt(meter.info, at);
	return { ppmScale, perDrop: perDrop?.[q] };
};

/** What was counted, for the note of a value. */
export const countedNote = (v: FieldValue): string => (v.state === 'value' && v.drops ? `${v.drops} drops` : '');

/** What one field of Bench holds: the number, its unit, and whether the decimal mark was put in. */
export function understandField(
	field: Quantity,
	text: string,
	meter: FieldMeter | null,
	units: DisplayUnits,
	prediction: Prediction | null,
): FieldValue {
	if (text.trim() === '') return { state: 'empty' };
	const ppmScale = meter?.ppmScale ?? null;
	const perDrop = meter?.perDrop;
	const drops = countedDrops(text);
	if (drops !== null)
		return perDrop
			? {
					state: 'value',
					quantity: field,
					digits: valueOfDrops(drops, perDrop),
					unit: perDrop.unit,
					marked: false,
					drops,
				}
			: { state: 'problem', message: 'How much does one drop stand for? Say it below.' };
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
	} else unit = typed.unit ?? bareUnit(field, units);
	if (!unitFits(field, unit))
		return { state: 'problem', message: `${QUANTITY[field].name} is not measured in ${unitLabel(unit) || unit}.` };
	const quantity: Quantity = field === 'ec' && unit.startsWith('ppm') ? 'tds' : field;
	const digits =
		typed.unit === null && typed.kind === 'number'
			? placeMark(typed.digits, seriesQuantity(quantity), unit, prediction)
			: typed.digits;
	return { state: 'value', quantity, digits, unit, marked: digits !== typed.digits };
}
