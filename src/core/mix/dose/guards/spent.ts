import { quantile } from '../belief';
import { say } from '../record';
import { firstStep, type Guard, type Guarded } from './guard';

/** What roots may have given back since, meq/L a day (vigorous plants; common practice, no source). */
const UPTAKE_MEQ_L_DAY = 0.12;
const MEASURED_OFF = 1.2;
const NEARLY = 0.85;
const LEAST_MEQ_L = 0.02;

/** All the acid that the filling can have taken up so far and still can, meq/L; null where it is not known what it was filled with. */
export function budgetOf(g: Guarded): { all: number; given: number } | null {
	const { filling, nodes, known } = g.b;
	const measured = filling.alkalinity.at(-1);
	if (filling.filledAt === null && !measured) return null;
	const since = measured?.at ?? filling.filledAt!;
	const alkalinity = measured
		? MEASURED_OFF * measured.meqL
		: known.alkalinityMeqL !== null
			? MEASURED_OFF * known.alkalinityMeqL
			: quantile(nodes.carbonFilled, nodes.weight, 0.975);
	// Feed holds up to one equivalent for each mmol of phosphate above pH 7.
	const feed = quantile(nodes.phosphateFilled, nodes.weight, 0.975);
	const days = Math.max(g.q.now - since, 0) / 86_400_000;
	let [given, topUps] = [0, 0];
	for (const h of filling.happenings) {
		if (h.at < since) continue;
		if (h.does === 'dose') given += h.given.meqL;
		if (h.does === 'water') topUps += h.share * (h.water?.alkalinityMeqL ?? alkalinity);
	}
	return { all: alkalinity + feed + topUps + UPTAKE_MEQ_L_DAY * days, given };
}

/** Acid beyond the water’s alkalinity and the feed’s buffer is advised to nobody; near it the steps are small. */
export const spent: Guard = {
	name: 'spent',
	check: (g) => {
		if (g.sign > 0) return null;
		const budget = budgetOf(g);
		if (!budget) return null;
		const rest = budget.all - budget.given;
		const params = { given: budget.given, all: budget.all, rest: Math.max(rest, 0) };
		if (rest < LEAST_MEQ_L) return { say: 'refuse', said: say('alkalinity-spent', params) };
		if (budget.given > NEARLY * budget.all)
			return { say: 'at most', meqL: Math.min(rest, firstStep(g)), said: say('alkalinity-nearly-spent', params) };
		return { say: 'at most', meqL: rest, said: say('within-alkalinity', params) };
	},
};
