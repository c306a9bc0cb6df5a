/**
 * What is in a kitchen and moves pH: weak, of uncertain strength, and none of it a habit. Shares by weight: juice of lemons and limes
 * about 48 g/L citric acid (Penniston and others 2008, Journal of Endourology 22, 567–570; from memory), vinegar by its label
 * mostly 5 %, baking soda as 50 g dissolved in a litre of water (it bears up to about 90 at 20 °C).
 */
export const STAND_INS = {
	'lemon or lime juice': { kind: 'acid', chemical: 'citric', percentWw: 4.7, densityGMl: 1.03 },
	vinegar: { kind: 'acid', chemical: 'acetic', percentWw: 5, densityGMl: 1.005 },
	'baking soda, 50 g in a litre': {
		kind: 'base',
		chemical: 'sodium bicarbonate',
		percentWw: 4.8,
		densityGMl: 1.03,
	},
} as const;
export type StandIn = keyof typeof STAND_INS;
