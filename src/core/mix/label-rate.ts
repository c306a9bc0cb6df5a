import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import { decimal } from '../quantity';

/**
 * A label's rate in its own units, for each litre: `4 mL/L`, `10 mL/gal`, `2 tsp/gal`, `1 tbsp per 10 L`, `6 drops/L`,
 * `1.5 g/L`. A gallon is the US one unless it says imperial; a drop counts as 0.05 mL, an estimate; an ounce is one of
 * weight unless it says fluid.
 */
export type DoseUnit = 'mL' | 'g';
interface Measure {
	unit: DoseUnit;
	holds: number;
	/** As it is written after a number; empty where mL or g say it already. */
	shown: string;
}
const ml = (holds: number, shown = ''): Measure => ({ unit: 'mL', holds, shown });
const g = (holds: number, shown = ''): Measure => ({ unit: 'g', holds, shown });
const TSP = ml(4.92892159, 'tsp');
const TBSP = ml(14.78676478, 'tbsp');
const DROP = ml(0.05, 'drops');
const FLOZ = ml(29.5735295625, 'fl oz');
const OZ = g(28.349523125, 'oz');
const MEASURES: Record<string, Measure> = {
	ml: ml(1),
	l: ml(1000),
	tsp: TSP,
	teaspoon: TSP,
	teaspoons: TSP,
	'metric tsp': ml(5, 'metric tsp'),
	tbsp: TBSP,
	tablespoon: TBSP,
	tablespoons: TBSP,
	cup: ml(236.5882365, 'cups'),
	cups: ml(236.5882365, 'cups'),
	floz: FLOZ,
	'fl oz': FLOZ,
	drop: DROP,
	drops: DROP,
	g: g(1),
	gram: g(1),
	grams: g(1),
	kg: g(1000),
	mg: g(0.001),
	oz: OZ,
	ounce: OZ,
	ounces: OZ,
};
const VOLUMES_L: Record<string, number> = {
	ml: 0.001,
	l: 1,
	litre: 1,
	liter: 1,
	litres: 1,
	gal: 3.785411784,
	gallon: 3.785411784,
	'us gal': 3.785411784,
	'imp gal': 4.54609,
	'imperial gallon': 4.54609,
	m3: 1000,
};

export interface LabelRate {
	/** Millilitres or grams for each litre. */
	perL: number;
	unit: DoseUnit;
	/** A drop is an estimate. */
	estimate: boolean;
	measure: Measure;
}

/** Beyond this it is no feed: litres written for millilitres. */
const MOST_PER_L = 100;

/**
 * What a label means for each litre, from its own words. A bare number is mL/L; a drop is nominally 0.05 mL.
 * @example labelRate('2 tsp/gal') // { ok: true, value: { perL: 2.604, unit: 'mL' } }
 */
export function labelRate(text: string): Answer<LabelRate> {
	const m = /^\s*([\d.,]+)\s*([a-z ]+?)\s*(?:\/|per)\s*([\d.,]+)?\s*([a-z0-9 ]+?)\s*$/i.exec(text);
	const bare = decimal(text.trim());
	if (bare !== undefined && bare > 0) return bounded(bare, MEASURES.ml!);
	if (!m) return refuse({ code: 'label-form', field: 'rate_text' });
	const amount = decimal(m[1]!);
	const of = MEASURES[m[2]!.toLowerCase()];
	const per = m[3] === undefined ? 1 : decimal(m[3]);
	const volume = VOLUMES_L[m[4]!.toLowerCase()];
	if (of === undefined) return refuse({ code: 'unknown-measure', field: 'rate_text', text: m[2]! });
	if (volume === undefined) return refuse({ code: 'unknown-volume', field: 'rate_text', text: m[4]! });
	if (amount === undefined || !(amount > 0) || per === undefined || !(per > 0))
		return refuse({ code: 'rate-above-nothing', field: 'rate_text' });
	return bounded((amount * of.holds) / (per * volume), of);
}

const bounded = (perL: number, measure: Measure): Answer<LabelRate> =>
	perL > MOST_PER_L
		? refuse({ code: 'rate-too-much', field: 'rate_text', perL, unit: measure.unit })
		: done({ perL, unit: measure.unit, estimate: measure.shown === 'drops', measure });

/** An amount as the label measures it, `21.1 tsp`; null where that is mL or g anyway, or the label says nothing. */
export function inLabelMeasure(amount: number, label: string): string | null {
	const rate = labelRate(label);
	if (!rate.ok || rate.value.measure.shown === '') return null;
	const n = amount / rate.value.measure.holds;
	return `${n >= 100 ? n.toFixed(0) : Number(n.toPrecision(3))} ${rate.value.measure.shown}`;
}
