import type { Remark } from '../../remark';
import type { DoseUnit } from '../label-rate';
import type { Content } from './content';
import { isSalt, SALTS } from './salts';

/**
 * Concentrates for an injector: what goes into each stock tank so that one part of it in so many parts of feed gives the recipe.
 * Calcium never stands with sulfate or phosphate in one tank: it falls out as gypsum and calcium phosphate.
 */
export interface StockPart {
	product: string;
	bottle: string;
	unit: DoseUnit;
	/** mL or g for each litre of feed. */
	perL: number;
	/** Stock tank, A, B, …. */
	tank: string;
	/** What is in it, where that is known. */
	content: Content | null;
	/** Name of the salt, where it is a pure one. */
	salt: string;
}
export interface StockTank {
	tank: string;
	amounts: { product: string; bottle: string; unit: DoseUnit; amount: number }[];
}
export interface StockPlan {
	tanks: StockTank[];
	/** Litres of feed that a filling makes. */
	feedL: number;
	remarks: Remark[];
}

/** Injectors give one part in 10 to 500; beyond that it is a slip. */
export const RATIOS = { least: 10, most: 500 } as const;
/** Over this share of what dissolves at 20 °C a cold store lets it fall out. */
const CLOSE_TO_SATURATED = 0.7;
const holds = (c: Content | null, ...keys: (keyof Content)[]): boolean => keys.some((k) => (c?.[k] ?? 0) > 0);

/**
 * @param ratio parts of feed for one part of each stock @param litres of each stock tank
 * @example stockPlan([{ product: 'feed', bottle: 'A', unit: 'mL', perL: 2.5, tank: 'A', content: null, salt: '' }], 100, 20).tanks[0].amounts[0].amount // 5000
 */
export function stockPlan(parts: readonly StockPart[], ratio: number, litres: number): StockPlan {
	const remarks: Remark[] = [];
	const names = [...new Set(parts.map((p) => p.tank))].sort();
	const tanks = names.map((tank) => {
		const own = parts.filter((p) => p.tank === tank);
		const calcium = own.find((p) => holds(p.content, 'ca_mg_l'));
		const against = own.find((p) => p !== calcium && holds(p.content, 'so4_mg_l', 'p_mg_l'));
		if (calcium && against)
			remarks.push({ code: 'stock-falls-out', tank, calcium: calcium.product, against: against.product });
		const unknown = own.filter((p) => p.content === null);
		if (!(calcium && against) && own.length > 1 && unknown.length > 0)
			remarks.push({ code: 'stock-not-known', tank, product: unknown[0]!.product });
		for (const p of own)
			if (isSalt(p.salt) && p.unit === 'g') {
				const gL = p.perL * ratio;
				const most = SALTS[p.salt].solubilityGL;
				if (gL > CLOSE_TO_SATURATED * most)
					remarks.push({ code: 'stock-too-strong', product: p.product, gL, mostGL: most });
			}
		const volume = own.reduce((sum, p) => sum + (p.unit === 'mL' ? p.perL * ratio : 0), 0) / 1000;
		if (volume > 1) remarks.push({ code: 'stock-over-full', tank, litresForEach: volume });
		return {
			tank,
			amounts: own.map(({ product, bottle, unit, perL }) => ({ product, bottle, unit, amount: perL * ratio * litres })),
		};
	});
	return { tanks, feedL: ratio * litres, remarks };
}

/**
 * Which stock tank a part belongs in: its own letter, else calcium in A and sulfate and phosphate in B; what is neither goes with A.
 * @example tankFor({ bottle: '', content: { so4_mg_l: 390 } }) // 'B'
 */
export const tankFor = (p: { bottle: string; content: Content | null }): string =>
	p.bottle !== '' ? p.bottle : holds(p.content, 'ca_mg_l') ? 'A' : holds(p.content, 'so4_mg_l', 'p_mg_l') ? 'B' : 'A';

/**
 * What an injector truly gives, from what comes out: parts of feed for one of stock, where the recipe expects an EC.
 * @returns null where the water or the recipe leaves nothing to tell it by
 * @example trueRatio(100, { waterEcUsCm: 300, expectedEcUsCm: 1800, seenEcUsCm: 1500 }) // 125
 */
export function trueRatio(
	ratio: number,
	ec: { waterEcUsCm: number; expectedEcUsCm: number; seenEcUsCm: number },
): number | null {
	const [meant, given] = [ec.expectedEcUsCm - ec.waterEcUsCm, ec.seenEcUsCm - ec.waterEcUsCm];
	return meant > 0 && given > 0 ? (ratio * meant) / given : null;
}
