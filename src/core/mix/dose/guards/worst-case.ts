import { meqThatPasses } from '../outcome';
import { say } from '../record';
import { type Guard, type Guarded, HARMS_PH, SLIP_TIMES, spreadOf } from './guard';

/** Below the range by at most so much, in all but 2.5 % of cases. */
const UNDER_RANGE = 0.3;
const CHANCE = 0.025;
const CHANCE_SLIP = 0.1;
/** Acid does not go below, base not above these, unless the grower changes the limit for the tank. */
export const LEAST_PH = 5;
export const MOST_PH = 7;
const RANGE_AROUND = 0.3;

/** The pH that a dose may not pass in the worst case: the limit of the station, else the usual one. */
export function limitPh(g: Pick<Guarded, 'q' | 'sign'>): number {
	const { tank, targetPh } = g.q;
	const range = tank.range ?? [targetPh - RANGE_AROUND, targetPh + RANGE_AROUND];
	return g.sign < 0
		? (tank.leastPh ?? Math.max(Math.min(range[0], targetPh) - UNDER_RANGE, LEAST_PH))
		: (tank.mostPh ?? Math.min(Math.max(range[1], targetPh) + UNDER_RANGE, MOST_PH));
}

/** The far end of what is believed must not pass the limit of the tank. */
export const worstCase: Guard = {
	name: 'worst-case',
	check: (g) => {
		const limit = limitPh(g);
		const beyond = g.sign < 0 ? g.q.targetPh < limit : g.q.targetPh > limit;
		if (beyond) return { say: 'refuse', said: say('target-beyond-limit', { limit, target: g.q.targetPh }) };
		// The pen may be off by its own uncertainty: the tank is then nearer to the limit than it reads.
		const meqL = meqThatPasses(g.b, g.ph, limit - g.sign * spreadOf(g), g.product, CHANCE);
		// Half as much again by mistake, from the wrong mark or by a second hand, must still not harm.
		const harms = g.sign < 0 ? Math.min(HARMS_PH.acid, limit) : Math.max(HARMS_PH.base, limit);
		const slipped = meqThatPasses(g.b, g.ph, harms, g.product, CHANCE_SLIP) / SLIP_TIMES;
		return slipped < meqL
			? { say: 'at most', meqL: slipped, said: say('poured-more', { limit: harms, meqL: slipped }) }
			: { say: 'at most', meqL, said: say('worst-case', { limit, meqL }) };
	},
};
