import { say } from '../record';
import {
	alikeFillings,
	bareFeed,
	FIRST_STEP_MEQ_L,
	firstStep,
	type Guard,
	largestGood,
	SLIP_TIMES,
	THIN_US_CM,
	visitsOf,
} from './guard';

const TIMES = 2;
/** The first dose of another visit, meq/L: what the last one took says nothing once carbon dioxide has left. */
const FIRST_OF_VISIT_MEQ_L = 0.3;

/**
 * Never more than twice what was seen to do what was expected of it in this tank since it was filled. With nothing seen a
 * small step; where earlier fillings of this water are known, a share of those (filling-probe.ts). When the tank was left to
 * itself meanwhile, it begins again with a small one: of the buffer that earlier answers spoke of, only the feed’s is left.
 */
export const stepByStep: Guard = {
	name: 'step-by-step',
	check: (g) => {
		const first = firstStep(g);
		const { now, before } = visitsOf(g);
		const here = largestGood(now) ?? jugOf(g);
		if (here !== null) {
			const meqL = Math.max(TIMES * here, first);
			return { say: 'at most', meqL, said: say('twice-what-was-seen', { meqL: here }) };
		}
		if (g.doses.length > 0) {
			const usual = first < FIRST_STEP_MEQ_L ? first : Math.min(FIRST_OF_VISIT_MEQ_L, bareFeed(g) / SLIP_TIMES);
			const meqL = Math.max(Math.min(TIMES * (largestGood(before) ?? 0), usual), first);
			return { say: 'at most', meqL, said: say(before.length > 0 ? 'another-visit' : 'first-step', { meqL }) };
		}
		if (first >= FIRST_STEP_MEQ_L && alikeFillings(g).length > 0) return null;
		return {
			say: 'at most',
			meqL: first,
			said: say(
				g.ecUsCm === null ? 'first-step-ec-unknown' : g.ecUsCm < THIN_US_CM ? 'first-step-thin' : 'first-step',
				{
					meqL: first,
				},
			),
		};
	},
};

/** A jug of this filling’s own solution took the risk instead of the tank: half of what it took is seen as one dose would be. */
function jugOf(g: Parameters<Guard['check']>[0]): number | null {
	const since = g.b.filling.filledAt ?? Number.NEGATIVE_INFINITY;
	const jug = g.q.record.jugs.findLast(
		(j) => j.at >= since && j.product.toLowerCase() === g.product.name.toLowerCase(),
	);
	if (!jug) return null;
	const passed = [...jug.steps].sort((a, b) => a.ml - b.ml).filter((s) => (s.ph - g.q.targetPh) * -g.sign >= -0.3);
	const ml = (passed.at(-1)?.ml ?? 0) - (passed[0]?.ml ?? 0);
	return ml > 0 ? (ml * g.product.strengthMeqMl) / jug.litres / 2 : null;
}
