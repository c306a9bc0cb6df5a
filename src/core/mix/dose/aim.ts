import { quantiles } from './belief';
import type { Believed } from './believed';
import { measuredAfter, meqThatPasses, waysTo } from './outcome';
import type { DoseProduct } from './record';

/** A dose by what is believed alone, before any guard has looked at it. */
export interface Aim {
	meqL: number;
	/** What the whole way would take, by the middle estimate, meq/L. */
	wayMeqL: number;
	/** Share of the way that is aimed at. */
	part: number;
	/** Why not more: by knowledge, or because the target would be passed too often. */
	limitedBy: 'knowledge' | 'passing';
}

/** The target is passed by so much in at most so many cases: a solution that buffers little falls off a cliff. */
const PASSES: readonly { by: number; chance: number }[] = [
	{ by: 0.08, chance: 0.1 },
	{ by: 0.3, chance: 0.02 },
];
/** While it mixes, moved water may dip below what is measured afterwards by at most this. */
const DIPS = 0.05;
/** Relative uncertainty of the whole way below which nearly all of it, or three quarters, is aimed at. */
const SURE = 0.3;
const FAIRLY_SURE = 0.6;

/** How far to go, by how sure the whole way is: what overshooting would cost more than another visit is left for the next dose. */
export function aimAt(b: Believed, ph: number, targetPh: number, product: DoseProduct): Aim {
	const sign = product.kind === 'acid' ? -1 : 1;
	const ways = waysTo(b, ph, targetPh, product);
	const [near, closed, far] = quantiles(ways.meqL, ways.weight, [0.16, 0.5, 0.84]) as [number, number, number];
	const spread = (far - near) / (2 * Math.max(closed, 1e-6));
	const wayMeqL = Math.max(wayWhenMeasured(b, ph, targetPh, product, closed), 0);
	const doses = b.followed.doses;
	const good = doses.slice(-3);
	const held = good.length === 3 && good.every((d) => d.answered === 'as expected');
	const part = spread < SURE && doses.length >= 1 ? 0.95 : held || spread < FAIRLY_SURE ? 0.75 : 0.5;
	let meqL = part * wayMeqL;
	let limitedBy: Aim['limitedBy'] = 'knowledge';
	const climbs =
		(measuredAfter(b, ph, wayMeqL, product)(0.5)[0]! - measuredAfter(b, ph, wayMeqL, product, 0)(0.5)[0]!) * -sign;
	const dip = Math.min(Math.max(climbs, 0), DIPS);
	for (const { by, chance } of PASSES) {
		const most = meqThatPasses(b, ph, targetPh + sign * (by + dip), product, chance);
		if (most >= meqL) continue;
		meqL = most;
		limitedBy = 'passing';
	}
	return { meqL, wayMeqL, part: wayMeqL > 0 ? meqL / wayMeqL : 0, limitedBy };
}

/** In moved water pH climbs while it mixes: the way to a target that is to be measured is a little longer. Secant steps. */
function wayWhenMeasured(b: Believed, ph: number, targetPh: number, product: DoseProduct, closed: number): number {
	const sign = product.kind === 'acid' ? -1 : 1;
	const off = (x: number) => (measuredAfter(b, ph, x, product)(0.5)[0]! - targetPh) * -sign;
	let [x, miss] = [closed, off(closed)];
	let [before, missBefore] = [0, off(0)];
	for (let i = 0; i < 3 && Math.abs(miss) > 0.01 && miss !== missBefore; i++) {
		const next = Math.min(Math.max(x + (miss * (x - before)) / (missBefore - miss), 0.5 * closed), 1.6 * closed);
		[before, missBefore] = [x, miss];
		x = next;
		miss = off(x);
	}
	return x;
}
