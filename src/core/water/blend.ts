import { alkalinityClosed, carbonateConstants, solvePh, totalCarbonate } from '../chem/carbonate';
import { MG_L_CACO3_PER_MEQ } from '../chem/constants';
import { done } from '../outcome';
import { type Answer, type Blended, refuse } from '../problem';
import { ION_KEYS, type Ions } from './ions';

/**
 * Blends of waters by volume. EC (nearly), ions and alkalinity mix in proportion to volume; pH does not, so it comes from
 * alkalinity and total carbonate. Mass is conserved; a target is refused exactly when no mixture reaches it.
 */
export interface BlendWater {
	ecUsCm: number;
	alkalinityMgLCaco3?: number | undefined;
	ions?: Ions | undefined;
	ph?: number | undefined;
	tempC?: number | undefined;
	volumeL?: number | undefined;
	/** What a litre costs, in any money. */
	costPerL?: number | undefined;
}
export interface BlendTarget {
	ecUsCm?: number | undefined;
	alkalinityMgLCaco3?: number | undefined;
	naMgL?: number | undefined;
	clMgL?: number | undefined;
}
export interface Blend {
	fractions: number[];
	volumesL: number[];
	ecUsCm: number;
	/** Null where one of the waters was not measured: unknown is not nothing. */
	alkalinityMgLCaco3: number | null;
	ions: Ions;
	ph: number | null;
	costPerL: number | null;
}

type Quantity = keyof BlendTarget & Blended;
const FIELDS: Record<Quantity, string> = {
	ecUsCm: 'target.ec_us_cm',
	alkalinityMgLCaco3: 'target.alkalinity_mg_l_caco3',
	naMgL: 'target.na_mg_l',
	clMgL: 'target.cl_mg_l',
};
const measured = (w: BlendWater, q: Quantity): number | undefined =>
	q === 'naMgL' ? w.ions?.na_mg_l : q === 'clMgL' ? w.ions?.cl_mg_l : w[q];
/** Of a fraction: smaller than any measuring jug. */
const TINY = 1e-9;

/** What comes of these parts. */
export function mixed(waters: readonly BlendWater[], fractions: readonly number[], totalL: number): Blend {
	const sum = (of: (w: BlendWater) => number) => waters.reduce((s, w, i) => s + fractions[i]! * of(w), 0);
	const used = waters.filter((_, i) => fractions[i]! > TINY);
	const all = (of: (w: BlendWater) => number | undefined): number | null =>
		used.every((w) => of(w) !== undefined) ? sum((w) => of(w) ?? 0) : null;
	const ions: Ions = {};
	for (const key of ION_KEYS) {
		const v = all((w) => w.ions?.[key]);
		if (v !== null) ions[key] = v;
	}
	return {
		fractions: [...fractions],
		volumesL: fractions.map((f) => f * totalL),
		ecUsCm: sum((w) => w.ecUsCm),
		alkalinityMgLCaco3: all((w) => w.alkalinityMgLCaco3),
		ions,
		ph: phOfBlend(
			used,
			fractions.filter((f) => f > TINY),
		),
		costPerL: all((w) => w.costPerL),
	};
}

function phOfBlend(waters: readonly BlendWater[], fractions: readonly number[]): number | null {
	let alkalinity = 0;
	let carbonate = 0;
	let tempC = 0;
	for (const [i, w] of waters.entries()) {
		if (w.ph === undefined || w.alkalinityMgLCaco3 === undefined) return null;
		const own = w.alkalinityMgLCaco3 / MG_L_CACO3_PER_MEQ;
		const total = totalCarbonate(own, w.ph, carbonateConstants(w.tempC ?? 20));
		if (total === null) return null;
		alkalinity += fractions[i]! * own;
		carbonate += fractions[i]! * total;
		tempC += fractions[i]! * (w.tempC ?? 20);
	}
	const c = carbonateConstants(tempC);
	return solvePh((ph) => alkalinityClosed(ph, carbonate, c), alkalinity);
}

/**
 * What waters make together by their litres, or the cheapest fractions that reach a target; refused where none do, with what is reachable.
 * @example blend([{ ecUsCm: 800 }, { ecUsCm: 0 }], { ecUsCm: 200 }) // { ok: true, value: { fractions: [0.25, 0.75] } }
 */
export function blend(waters: readonly BlendWater[], target: BlendTarget = {}, totalL?: number): Answer<Blend> {
	if (waters.length === 0) return refuse({ code: 'no-water', field: 'waters' });
	const wanted = (Object.keys(FIELDS) as Quantity[]).flatMap((q) => {
		const value = target[q];
		return value === undefined ? [] : [{ q, value }];
	});
	if (wanted.length === 0) {
		const volumes = waters.map((w) => w.volumeL ?? 0);
		const sum = volumes.reduce((a, b) => a + b, 0);
		if (!(sum > 0)) return refuse({ code: 'blend-of-nothing', field: 'waters' });
		return done(
			mixed(
				waters,
				volumes.map((v) => v / sum),
				totalL ?? sum,
			),
		);
	}
	for (const { q } of wanted) {
		const unknown = waters.findIndex((w) => measured(w, q) === undefined);
		if (unknown >= 0)
			return refuse({ code: 'water-not-measured', field: `waters.${unknown}`, what: q, water: unknown + 1 });
	}
	for (const { q, value } of wanted) {
		const values = waters.map((w) => measured(w, q)!);
		const [low, high] = [Math.min(...values), Math.max(...values)];
		if (value < low - TINY * Math.max(1, Math.abs(low)) || value > high + TINY * Math.max(1, Math.abs(high)))
			return refuse({ code: 'out-of-reach', field: FIELDS[q], what: q, value, low, high });
	}
	const fractions = cheapest(
		waters,
		wanted.map((t) => ({ of: waters.map((w) => measured(w, t.q)!), value: t.value })),
	);
	if (!fractions) return refuse({ code: 'targets-contradict', field: FIELDS[wanted[0]!.q], what: wanted.at(-1)!.q });
	const fixed = waters.flatMap((w, i) =>
		w.volumeL !== undefined && fractions[i]! > TINY ? [w.volumeL / fractions[i]!] : [],
	);
	// Litres at hand limit the blend; without any it is told for one litre.
	const total = totalL ?? (fixed.length > 0 ? Math.min(...fixed) : 1);
	return done(mixed(waters, fractions, total));
}

/**
 * Fractions that meet every target, cheapest first (then with most of the first water): a linear programme so small that
 * all its corners are tried. A corner uses as many waters as there are targets, and one more.
 */
function cheapest(waters: readonly BlendWater[], targets: readonly { of: number[]; value: number }[]): number[] | null {
	let best: { fractions: number[]; cost: number } | null = null;
	for (const chosen of subsets(waters.length, Math.min(targets.length + 1, waters.length))) {
		const parts = solveLeast(
			[chosen.map(() => 1), ...targets.map((t) => chosen.map((i) => t.of[i]!))],
			[1, ...targets.map((t) => t.value)],
		);
		if (!parts || parts.some((p) => p < -1e-9)) continue;
		const fractions = waters.map(() => 0);
		for (const [k, i] of chosen.entries()) fractions[i] = Math.max(parts[k]!, 0);
		const cost = waters.reduce((sum, w, i) => sum + fractions[i]! * (w.costPerL ?? 0), 0) - 1e-9 * fractions[0]!;
		if (!best || cost < best.cost) best = { fractions, cost };
	}
	return best?.fractions ?? null;
}

function* subsets(n: number, most: number, from = 0, head: number[] = []): Generator<number[]> {
	if (head.length > 0) yield head;
	if (head.length === most) return;
	for (let i = from; i < n; i++) yield* subsets(n, most, i + 1, [...head, i]);
}

/** Solves rows·x = right where it has exactly one solution; null for none or many. Gauss with pivots, scaled by row. */
function solveLeast(rows: readonly number[][], right: readonly number[]): number[] | null {
	const unknowns = rows[0]!.length;
	const m = rows.map((r, i) => {
		const scale = Math.max(...r.map(Math.abs), Math.abs(right[i]!), 1e-12);
		return [...r, right[i]!].map((v) => v / scale);
	});
	let row = 0;
	for (let col = 0; col < unknowns; col++) {
		let pivot = row;
		for (let r = row; r < m.length; r++) if (Math.abs(m[r]![col]!) > Math.abs(m[pivot]?.[col] ?? 0)) pivot = r;
		if (pivot >= m.length || Math.abs(m[pivot]![col]!) < 1e-12) return null;
		[m[row], m[pivot]] = [m[pivot]!, m[row]!];
		for (let r = 0; r < m.length; r++) {
			if (r === row) continue;
			const f = m[r]![col]! / m[row]![col]!;
			for (let k = col; k <= unknowns; k++) m[r]![k]! -= f * m[row]![k]!;
		}
		row++;
	}
	for (let r = row; r < m.length; r++) if (Math.abs(m[r]![unknowns]!) > 1e-9) return null;
	return m.slice(0, unknowns).map((r, i) => r[unknowns]! / r[i]!);
}
