import { type Dissolved, ION_KEYS, type Ions, TRACE_KEYS } from '../../water/ions';

/**
 * What a product holds, or a litre of feed: milligrams of each nutrient in one mL or g of the product, which is also what 1 mL/L or
 * 1 g/L of it brings in mg/L. Keys are those of a laboratory report, with urea beside them: it feeds and is no ion.
 */
export type Content = Dissolved & { urea_n_mg_l?: number };
export type NutrientKey = keyof Content;
export const NUTRIENT_KEYS: readonly NutrientKey[] = [...ION_KEYS, 'urea_n_mg_l', ...TRACE_KEYS];

/**
 * What several things bring together, each so many times.
 * @example sumOf([[{ ca_mg_l: 40 }, 2], [{ ca_mg_l: 10, k_mg_l: 5 }, 1]]) // { ca_mg_l: 90, k_mg_l: 5 }
 */
export function sumOf(list: readonly (readonly [Content, number])[]): Content {
	const sum: Content = {};
	for (const [content, times] of list)
		for (const key of NUTRIENT_KEYS) if (content[key] !== undefined) sum[key] = (sum[key] ?? 0) + times * content[key];
	return sum;
}

/**
 * What of it carries charge.
 * @example ionsOf({ k_mg_l: 5, urea_n_mg_l: 2 }) // { k_mg_l: 5 }
 */
export const ionsOf = (content: Content): Ions =>
	Object.fromEntries(ION_KEYS.flatMap((k) => (content[k] === undefined ? [] : [[k, content[k]]])));

/** Nitrogen in all its forms, mg. */
export const nitrogenOf = (c: Content): number => (c.no3_n_mg_l ?? 0) + (c.nh4_n_mg_l ?? 0) + (c.urea_n_mg_l ?? 0);
