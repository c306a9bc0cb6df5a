import { heldAt, mediumOf } from '../../chem/solution';
import { median } from '../../series/robust';
import type { DoseQuestion } from './record';

/**
 * What logged doses say of a product whose label says nothing, meq/mL: the median of what each would need to be in a usual
 * solution (1 mmol/L of carbonate and of phosphate). Only its ratio to the solution counts for the next dose, and that they
 * have shown. Null below three doses that moved the pH.
 */
const DOSES_THAT_TELL = 3;
const USUAL = { carbonMmolL: 1.08, phosphateMmolL: 1 };
const LEAST_CHANGE = 0.06;
const BEFORE_MS = 24 * 3_600_000;
const AFTER_MS = 3 * 3_600_000;

/** Strength of a product, meq/mL, from what its logged doses did; null where fewer than three tell. */
export function strengthOfDoses(q: DoseQuestion): number | null {
	const { record, product, tank } = q;
	const m = mediumOf(tank.tempC, 1000);
	const poured = record.events.filter((e) => e.kind !== 'drained' && e.at <= q.now);
	const list = poured.flatMap((e) => {
		if (e.kind !== 'dosed' || e.product.toLowerCase() !== product.name.toLowerCase()) return [];
		const before = record.ph.findLast((r) => r.at <= e.at && e.at - r.at <= BEFORE_MS);
		const after = record.ph.find((r) => r.at > e.at && r.at - e.at <= AFTER_MS);
		if (!before || !after || before.by !== after.by) return [];
		if (poured.some((x) => x !== e && x.at > before.at && x.at <= after.at)) return [];
		const moved = (after.value - before.value) * e.sign;
		if (moved < LEAST_CHANGE) return [];
		return [strengthFrom(before.value, after.value, e.ml / tank.holdsL, m)];
	});
	return list.length < DOSES_THAT_TELL ? null : median(list);
}

/** meq in a millilitre that a change of pH shows in a usual solution. */
export const strengthFrom = (from: number, to: number, mlPerL: number, m = mediumOf(20, 1000)): number =>
	Math.abs(
		heldAt(from, USUAL.carbonMmolL, USUAL.phosphateMmolL, m) - heldAt(to, USUAL.carbonMmolL, USUAL.phosphateMmolL, m),
	) / mlPerL;
