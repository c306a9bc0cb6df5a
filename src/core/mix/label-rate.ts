import { decimal } from '../format/readings-row';

/**
 * A label's rate in its own units, as mL for each litre: `4 mL/L`, `10 mL/gal`, `2 tsp/gal`, `1 tbsp per 10 L`,
 * `6 drops/L`. A gallon is the US one unless it says imperial; a drop counts as 0.05 mL, an estimate.
 */
const AMOUNTS_ML: Record<string, number> = {
	ml: 1,
	l: 1000,
	tsp: 4.92892159,
	teaspoon: 4.92892159,
	teaspoons: 4.92892159,
	'metric tsp': 5,
	tbsp: 14.78676478,
	tablespoon: 14.78676478,
	cup: 236.5882365,
	floz: 29.5735295625,
	drop: 0.05,
	drops: 0.05,
};
const VOLUMES_L: Record<string, number> = {
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

export type LabelRate = { ok: true; mlPerL: number; estimate: boolean } | { ok: false; message: string };

/** Beyond this it is no feed: litres written for millilitres. */
const MOST_ML_PER_L = 100;

export function labelRate(text: string): LabelRate {
	const m = /^\s*([\d.,]+)\s*([a-z ]+?)\s*(?:\/|per)\s*([\d.,]+)?\s*([a-z0-9 ]+?)\s*$/i.exec(text);
	const bare = decimal(text.trim());
	if (bare !== undefined && bare > 0) return bounded(bare, false);
	if (!m) return { ok: false, message: 'Write the rate as the label does: 4 mL/L, 10 mL/gal, 2 tsp/gal, 6 drops/L.' };
	const amount = decimal(m[1]!);
	const of = AMOUNTS_ML[m[2]!.toLowerCase()];
	const per = m[3] === undefined ? 1 : decimal(m[3]);
	const volume = VOLUMES_L[m[4]!.toLowerCase()];
	if (of === undefined)
		return { ok: false, message: `“${m[2]}” is no measure of a liquid known here: mL, tsp, tbsp, cup, floz, drops.` };
	if (volume === undefined) return { ok: false, message: `“${m[4]}” is no volume known here: L, gal (US), imp gal.` };
	if (amount === undefined || !(amount > 0) || per === undefined || !(per > 0))
		return { ok: false, message: 'The rate is a number above nothing.' };
	return bounded((amount * of) / (per * volume), m[2]!.toLowerCase().startsWith('drop'));
}

const bounded = (mlPerL: number, estimate: boolean): LabelRate =>
	mlPerL > MOST_ML_PER_L
		? {
				ok: false,
				message: `${Number(mlPerL.toPrecision(3))} mL for each litre is no feed: litres written for millilitres?`,
			}
		: { ok: true, mlPerL, estimate };
