import { describe, expect, it } from 'vitest';
import { nitrogenOf } from '@/core/mix/feed/content';
import { gPerMol, SALT_NAMES, SALTS, type SaltName, saltContent } from '@/core/mix/feed/salts';
import { IONS, type IonKey } from '@/core/water/ions';

/**
 * Composition of fertiliser salts, % by weight, as handbooks of nutrient solutions print them (Resh, Hydroponic Food Production;
 * Steiner; FAO Fertilizer and Plant Nutrition Guide), from memory. Elements; P as P, K as K.
 */
const PRINTED: Record<
	SaltName,
	{ n?: number; p?: number; k?: number; ca?: number; mg?: number; s?: number; gPerMol: number }
> = {
	'calcium nitrate': { n: 11.9, ca: 17.0, gPerMol: 236.15 },
	'calcium ammonium nitrate': { n: 15.5, ca: 18.5, gPerMol: 1080.7 },
	'potassium nitrate': { n: 13.85, k: 38.7, gPerMol: 101.1 },
	'magnesium nitrate': { n: 10.9, mg: 9.5, gPerMol: 256.4 },
	'ammonium nitrate': { n: 35.0, gPerMol: 80.04 },
	'magnesium sulfate': { mg: 9.86, s: 13.0, gPerMol: 246.5 },
	'potassium sulfate': { k: 44.9, s: 18.4, gPerMol: 174.3 },
	'ammonium sulfate': { n: 21.2, s: 24.3, gPerMol: 132.1 },
	'monopotassium phosphate': { k: 28.7, p: 22.8, gPerMol: 136.1 },
	'monoammonium phosphate': { n: 12.2, p: 26.9, gPerMol: 115.0 },
	'potassium chloride': { k: 52.4, gPerMol: 74.55 },
	'calcium chloride': { ca: 27.3, gPerMol: 147.0 },
};

describe('salts', () => {
	it.each(SALT_NAMES)('%s holds what handbooks print', (name) => {
		const c = saltContent(name);
		const { gPerMol: mass, ...printed } = PRINTED[name];
		expect(Math.abs(gPerMol(name) / mass - 1)).toBeLessThan(0.001);
		const of = {
			n: nitrogenOf(c),
			p: c.p_mg_l,
			k: c.k_mg_l,
			ca: c.ca_mg_l,
			mg: c.mg_mg_l,
			s: (c.so4_mg_l ?? 0) / 2.9963,
		};
		for (const [key, percent] of Object.entries(printed))
			expect(Math.abs(of[key as keyof typeof of]! / 10 / percent - 1), key).toBeLessThan(0.008);
	});
	it.each(SALT_NAMES)('%s is neutral', (name) => {
		// A salt carries as much of either charge: a fact of chemistry.
		const charge = Object.entries(SALTS[name].gives).reduce((sum, [ion, n]) => sum + IONS[ion as IonKey].charge * n, 0);
		expect(charge).toBe(0);
	});
});
