import { AIR_UATM, alkalinityClosed, type CarbonateConstants, solvePh } from './carbonate';

/**
 * Where the pH goes as carbon dioxide leaves: alkalinity stays, and what dissolved carbon dioxide is above its equilibrium
 * with air leaves at first order, d[CO2]/dt = −k·([CO2] − [CO2]air). The rate is the gas exchange velocity over the depth.
 */
export interface Exchange {
	/** Per hour. */
	perHour: number;
	words: string;
}
/**
 * A still tank gives off carbon dioxide through its surface at about 1 to 2 cm an hour (0.4 m deep: 0.04 each hour); a
 * bubbler or a falling return exchanges it within an hour or two. From memory: order of magnitude only.
 */
export const EXCHANGE = {
	still: { perHour: 0.04, words: 'standing still' },
	moved: { perHour: 0.8, words: 'with a bubbler or a falling return' },
} as const satisfies Record<string, Exchange>;

const STEPS_PER_RATE = 10;
/** Closer to equilibrium than this share the pH no longer moves. */
const SETTLED = 1e-3;

/** pH of a water with this alkalinity and total carbonate after so many hours in contact with air. */
export function phAfterHours(
	alkalinityMeqL: number,
	totalMmolL: number,
	hours: number,
	perHour: number,
	c: CarbonateConstants,
	pco2Uatm: number = AIR_UATM,
	/** Equivalents that something else in it holds at a pH, meq/L: an acid that buffers by itself. */
	other: (ph: number) => number = () => 0,
): number {
	const phOf = (carbonate: number) => solvePh((p) => alkalinityClosed(p, carbonate, c) + other(p), alkalinityMeqL);
	const air = 1000 * c.kh * pco2Uatm * 1e-6;
	const steps = Math.max(Math.ceil(hours * perHour * STEPS_PER_RATE), 1);
	const leaves = 1 - Math.exp((-perHour * hours) / steps);
	let total = totalMmolL;
	for (let i = 0; i < Math.min(steps, 20_000); i++) {
		const h = 10 ** -phOf(total);
		const free = total / (1 + c.k1 / h + (c.k1 * c.k2) / (h * h));
		if (Math.abs(free - air) < SETTLED * air) break;
		total -= leaves * (free - air);
	}
	return phOf(total);
}
