import { done } from '../../outcome';
import { type Answer, refuse } from '../../problem';
import type { Pour } from './plan';

/** Never as much again as was planned: an EC that has risen by less than half was not mixed, not poured, or not read right. */
const MOST_SHARE = 1;

/**
 * What to add where EC came out too low: of everything that follows the target so much more, by what this very batch has shown. What
 * keeps its rate is not given twice. EC in µS/cm; amounts for each litre.
 * @example moreFeed([{ product: 'feed', bottle: '', perL: 2, unit: 'mL', waitMin: 0, scales: true }], { waterEcUsCm: 300, seenEcUsCm: 1300, targetEcUsCm: 1500 }).value[0].perL // 0.4
 */
export function moreFeed(
	pours: readonly Pour[],
	ec: { waterEcUsCm: number; seenEcUsCm: number; targetEcUsCm: number },
): Answer<Pour[]> {
	const following = pours.filter((p) => p.scales);
	if (following.length === 0) return refuse({ code: 'nothing-scales', field: 'parts' });
	const share = (ec.targetEcUsCm - ec.seenEcUsCm) / (ec.seenEcUsCm - ec.waterEcUsCm);
	if (!(share > 0 && share <= MOST_SHARE)) return refuse({ code: 'hardly-rose', field: 'ec', ...ec });
	return done(following.map((p) => ({ ...p, perL: p.perL * share })));
}
