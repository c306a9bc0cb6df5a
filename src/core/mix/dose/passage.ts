import { protonsGiven } from '../../chem/acids';
import { carbonAfter, freeShare, heldAt, type Medium, type OtherAcid } from '../../chem/solution';
import type { Nodes } from './belief';
import { type Given, type Happening, TYPICAL_PH } from './fillings';
import { CARBON_PER_ALKALINITY } from './prior';

/** Acids in a tank that buffer by themselves, meq/L of each as given. */
export type WeakAcids = Partial<Record<'citric' | 'acetic', number>>;

const curves = new Map<string, Float64Array>();
const STEP_PH = 0.05;

/** What one equivalent of a weak acid, counted at a usual pH, has given at another. */
function givenShare(kind: 'citric' | 'acetic', ph: number): number {
	let curve = curves.get(kind);
	if (!curve) {
		const usual = protonsGiven(kind, TYPICAL_PH);
		curve = Float64Array.from({ length: 14 / STEP_PH + 2 }, (_, i) => protonsGiven(kind, i * STEP_PH) / usual);
		curves.set(kind, curve);
	}
	const x = Math.min(Math.max(ph, 0), 14) / STEP_PH;
	const i = Math.floor(x);
	return curve[i]! + (x - i) * (curve[i + 1]! - curve[i]!);
}

/** What acids that buffer by themselves hold at a pH, meq/L; undefined where there are none. */
export function otherOf(weak: WeakAcids): OtherAcid | undefined {
	const list = (Object.entries(weak) as ['citric' | 'acetic', number][]).filter(([, meq]) => meq > 1e-9);
	return list.length === 0 ? undefined : (ph) => list.reduce((sum, [kind, meq]) => sum + meq * givenShare(kind, ph), 0);
}

/** What a stretch from one reading to another did to every possible tank. */
export interface Passage {
	/** Base held at its end, other acids counted in, meq/L; NaN where the weight is nothing. */
	held: Float64Array;
	ph: Float64Array;
	weak: WeakAcids;
	/** Given in it, meq/L without signs. */
	dosedMeqL: number;
	hours: number;
	/** How unsure what was added to it is, meq/L. */
	uAddedMeqL: number;
	/** Carbon dioxide lost, mmol/L. */
	lost: Float64Array;
	/** Something went in whose effect nobody can reckon. */
	unknown: boolean;
}

const HOUR = 3_600_000;
const NOTHING = 1e-6;
/** Of the alkalinity of a water that was never measured, as a share. */
const U_WATER = 0.5;
const U_WATER_MEASURED = 0.12;

/**
 * Lets every possible tank live from a reading to a time: carbon dioxide leaves, doses and water go in. Carbonate and
 * phosphate of the nodes are moved on.
 */
export function pass(
	nodes: Nodes,
	from: { at: number; ph: number },
	to: number,
	happenings: readonly Happening[],
	weakBefore: WeakAcids,
	m: Medium,
): Passage {
	const { size } = nodes;
	const held = new Float64Array(size).fill(Number.NaN);
	const ph = new Float64Array(size).fill(from.ph);
	const lost = new Float64Array(size);
	let weak = { ...weakBefore };
	let other = otherOf(weak);
	const living = Array.from({ length: size }, (_, i) => i).filter((i) => nodes.weight[i]! > NOTHING);
	for (const i of living)
		held[i] = heldAt(from.ph, nodes.carbon[i]!, nodes.phosphate[i]!, m) + (other ? other(from.ph) : 0);
	let at = from.at;
	let dosedMeqL = 0;
	let uAddedMeqL = 0;
	let unknown = false;
	const live = (until: number) => {
		const hours = (until - at) / HOUR;
		at = until;
		if (hours <= 0) return;
		for (const i of living) {
			const before = nodes.carbon[i]!;
			held[i]! += nodes.uptake[i]! * hours;
			const r = carbonAfter(hours, nodes.lossPerHour[i]!, held[i]!, before, nodes.phosphate[i]!, m, ph[i]!, other);
			nodes.carbon[i] = r.carbonMmolL;
			ph[i] = r.ph;
			lost[i]! += before - r.carbonMmolL;
		}
	};
	const give = (g: Given) => {
		dosedMeqL += Math.abs(g.meqL);
		if (g.weak === 'citric' || g.weak === 'acetic') {
			weak = { ...weak, [g.weak]: (weak[g.weak] ?? 0) + g.meqL };
			other = otherOf(weak);
		}
		for (const i of living) {
			if (g.weak === null) held[i]! -= g.meqL;
			nodes.carbon[i]! += g.carbonMmolL;
			nodes.phosphate[i]! += g.phosphateMmolL;
		}
	};
	for (const h of happenings) {
		// Written at the same minute, the reading came first: one measures, then pours.
		if (h.at < from.at || h.at >= to) continue;
		live(h.at);
		if (h.does === 'dose') give(h.given);
		else if (h.does === 'unknown') unknown = true;
		else if (h.does === 'water') {
			const { share, water } = h;
			// Where plants drank first, their salts stayed: water then only adds what it brings.
			const stays = h.replaces ? 1 : 1 - share;
			weak = Object.fromEntries(Object.entries(weak).map(([k, meq]) => [k, meq * stays]));
			other = otherOf(weak);
			const known = water?.alkalinityMeqL ?? null;
			for (const i of living) {
				const alkalinity = known ?? nodes.carbonFilled[i]! / CARBON_PER_ALKALINITY;
				held[i] = stays * held[i]! + share * alkalinity;
				nodes.carbon[i] = stays * nodes.carbon[i]! + share * CARBON_PER_ALKALINITY * alkalinity;
				nodes.phosphate[i]! *= stays;
			}
			uAddedMeqL += share * (known === null ? U_WATER : U_WATER_MEASURED * known + 0.05);
		}
	}
	live(to);
	return { held, ph, weak, dosedMeqL, hours: (to - from.at) / HOUR, uAddedMeqL, lost, unknown };
}

/** Before anything was read, carbon dioxide has left at the pH of the first reading or nearly so. */
export function passUnread(nodes: Nodes, hours: number, ph: number, m: Medium): void {
	const share = freeShare(ph, m);
	for (let i = 0; i < nodes.size; i++) {
		const rest = m.airMmolL / share;
		nodes.carbon[i] = rest + (nodes.carbon[i]! - rest) * Math.exp(-nodes.lossPerHour[i]! * share * Math.max(hours, 0));
	}
}
