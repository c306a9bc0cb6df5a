import { alkalinityClosed, carbonateConstants, totalCarbonate } from '../water/carbonate';

/**
 * How a solution answers a product, learned from every dose. A dose of y mL per litre that moves pH from a to b satisfies
 * y = θ₁·ΔC(a, b) + θ₂·ΔP(a, b), where C and P are what one meq/L of carbonate alkalinity and one mmol/L of phosphate hold
 * at a pH (Stumm and Morgan, Aquatic Chemistry). θ is learned by Bayesian linear regression from a wide prior (Gelman and
 * others, Bayesian Data Analysis, chapter 14): the label or a jug gives its scale, the doses the rest, and the interval of
 * a prediction comes with it.
 */
export interface Solution {
	volumeL: number;
	tempC?: number | undefined;
	/** Of the mixed solution's water, where known. */
	alkalinityMeqL?: number | undefined;
	/** Phosphorus of the feed as mmol/L, where known. */
	phosphateMmolL?: number | undefined;
}

export interface PastDose {
	volumeL: number;
	ml: number;
	phBefore: number;
	phAfter: number;
}

/** Assumed where nobody knows: a tap water half used up, and a usual feed. */
const ASSUMED_ALKALINITY = 1;
const ASSUMED_PHOSPHATE = 1;
const PK2_PHOSPHORIC = 7.198;
/** Tap water meets the feed at about this pH. */
const MET_PH = 7.5;
/** Standard uncertainty of one pH reading of a kept pen, and of a cylinder as a share. */
const U_PH = 0.02;
const U_POUR = 0.04;
/** What the curve leaves out, and what changes from week to week, as a share of a dose. */
const U_MODEL = 0.06;
/** Relative standard deviations of the prior: alkalinity and feed vary by factors. */
const PRIOR_UNKNOWN = 1;
const PRIOR_KNOWN = 0.35;
const REMEMBERS = 30;

type Pair = readonly [number, number];

/** What one meq/L of alkalinity and one mmol/L of phosphate hold at a pH, meq/L. */
function held(ph: number, tempC: number): Pair {
	const c = carbonateConstants(tempC);
	return [alkalinityClosed(ph, totalCarbonate(1, MET_PH, c) ?? 1, c), 1 / (1 + 10 ** (PK2_PHOSPHORIC - ph))];
}

const moved = (from: number, to: number, tempC: number): Pair => {
	const a = held(from, tempC);
	const b = held(to, tempC);
	return [Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1])];
};

/** Normal in two unknowns: mean and covariance. */
interface Belief {
	mean: [number, number];
	cov: [number, number, number];
}

const priorOf = (s: Solution, strengthMeqMl: number): Belief => {
	const a = (s.alkalinityMeqL ?? ASSUMED_ALKALINITY) / strengthMeqMl;
	const p = (s.phosphateMmolL ?? ASSUMED_PHOSPHATE) / strengthMeqMl;
	const sd = (known: boolean) => (known ? PRIOR_KNOWN : PRIOR_UNKNOWN);
	return {
		mean: [a, p],
		cov: [(sd(s.alkalinityMeqL !== undefined) * a) ** 2, 0, (sd(s.phosphateMmolL !== undefined) * p) ** 2],
	};
};

const variance = (b: Belief, x: Pair): number =>
	x[0] ** 2 * b.cov[0] + 2 * x[0] * x[1] * b.cov[1] + x[1] ** 2 * b.cov[2];
const expected = (b: Belief, x: Pair): number => x[0] * b.mean[0] + x[1] * b.mean[1];

/** One dose taken in: the Kalman form of the regression. Neither part is ever negative. */
function update(b: Belief, x: Pair, y: number, noise: number): Belief {
	const total = variance(b, x) + noise;
	const gain: Pair = [(b.cov[0] * x[0] + b.cov[1] * x[1]) / total, (b.cov[1] * x[0] + b.cov[2] * x[1]) / total];
	const miss = y - expected(b, x);
	const next: Belief = {
		mean: [b.mean[0] + gain[0] * miss, b.mean[1] + gain[1] * miss],
		cov: [
			b.cov[0] - gain[0] * (b.cov[0] * x[0] + b.cov[1] * x[1]),
			b.cov[1] - gain[0] * (b.cov[1] * x[0] + b.cov[2] * x[1]),
			b.cov[2] - gain[1] * (b.cov[1] * x[0] + b.cov[2] * x[1]),
		],
	};
	return keptPositive(next);
}

/** Neither part is ever negative: one that would be is set to nothing, and the other follows as the two hang together. */
function keptPositive(b: Belief): Belief {
	const [c0, c1, c2] = b.cov;
	let [m0, m1] = b.mean;
	if (m0 < 0) {
		m1 += c0 > 0 ? (c1 / c0) * -m0 : 0;
		m0 = 0;
	}
	if (m1 < 0) {
		m0 += c2 > 0 ? (c1 / c2) * -m1 : 0;
		m1 = 0;
	}
	return { mean: [Math.max(m0, 0), Math.max(m1, 0)], cov: b.cov };
}

/** A trace of product, or a change within the noise of a pen, teaches nothing. */
const LEAST_ML_PER_L = 1e-3;
const tells = (d: PastDose): boolean =>
	d.volumeL > 0 && d.ml / d.volumeL >= LEAST_ML_PER_L && Math.abs(d.phBefore - d.phAfter) >= U_PH / 2;

export interface Learned {
	belief: Belief;
	doses: number;
	/** Whether each prediction held, newest last: within a fifth of the change, or within what two pH readings tell. */
	held: boolean[];
	tempC: number;
}

/** @param past doses of one product in one kind of solution, oldest first */
export function learnResponse(past: readonly PastDose[], s: Solution, strengthMeqMl: number): Learned {
	const tempC = s.tempC ?? 20;
	let belief = priorOf(s, strengthMeqMl);
	const list: boolean[] = [];
	const telling = past.filter(tells).slice(-REMEMBERS);
	for (const [i, d] of telling.entries()) {
		const change = Math.abs(d.phBefore - d.phAfter);
		const perLitre = d.ml / d.volumeL;
		if (i > 0) {
			const predicted = Math.abs(
				phAfterDose(d.phBefore, perLitre, Math.sign(d.phAfter - d.phBefore), belief, tempC) - d.phBefore,
			);
			list.push(Math.abs(predicted - change) <= Math.max(0.2 * change, 2 * Math.SQRT2 * U_PH));
		}
		const slope = perLitre / Math.max(change, U_PH);
		const noise = (U_POUR * perLitre) ** 2 + (U_MODEL * perLitre) ** 2 + (slope * Math.SQRT2 * U_PH) ** 2;
		belief = update(belief, moved(d.phBefore, d.phAfter, tempC), perLitre, noise);
	}
	return { belief, doses: telling.length, held: list.slice(-5), tempC };
}

/** pH after so many mL per litre of acid (direction −1) or base (1). */
function phAfterDose(ph: number, mlPerL: number, direction: number, b: Belief, tempC: number): number {
	let [near, far] = [ph, direction < 0 ? 2 : 12];
	for (let i = 0; i < 40; i++) {
		const middle = (near + far) / 2;
		if (expected(b, moved(ph, middle, tempC)) < mlPerL) near = middle;
		else far = middle;
	}
	return (near + far) / 2;
}

export interface DoseQuestion {
	solution: Solution;
	ph: number;
	targetPh: number;
	past: readonly PastDose[];
	/** From the label or a jug, meq/mL; null where nobody knows. */
	strengthMeqMl: number | null;
	/** A reading that the checks doubt is not dosed on: why. */
	doubtful?: string | null | undefined;
	kind: 'acid' | 'base';
	tolerance?: number | undefined;
}

export type DoseAdvice =
	| { do: 'nothing' | 'refuse' | 'titrate'; message: string }
	| {
			do: 'dose';
			ml: number;
			/** What the whole way would take, by the estimate. */
			mlToTarget: number;
			predictedPh: number;
			/** 95 % interval of the pH after it. */
			low: number;
			high: number;
			/** Share of the whole way that is advised. */
			part: number;
			message: string;
	  };

/** With nothing known of how this solution answers, a step is at most this many equivalents. */
export const FIRST_STEP_MEQ_L = 0.1;
/** A solution may buffer more further on, but not without bound. */
const MOST_TIMES = 2;
const ON_TARGET = 0.05;
/** Relative uncertainty of the whole way below which nearly all of it, or three quarters, is advised. */
const SURE = 0.13;
const FAIRLY_SURE = 0.4;
/**
 * The sharp side, so many standard deviations off, must not pass the target by more than this. A new solution is stepped
 * into by small doses, so its guard may be lighter.
 */
const GUARD_SD = 1.5;
/** Not even the sharp end of the 95 % interval: a solution that buffers little falls off a cliff below pH 5.5. */
const NEVER_PASSES_BY = 1.0;
const NEW_GUARD_SD = 0.5;
const NEW_DOSES = 5;
const PASSES_BY = 0.1;
const MESSAGES: Record<string, string> = {
	'0.5': 'Half of the way by what is known; the rest after measuring.',
	'0.75': 'The last three predictions held: three quarters of the way.',
	'0.95': 'Many doses agree: nearly the whole way.',
};

export function adviseDose(q: DoseQuestion): DoseAdvice {
	const { solution: s, ph, targetPh } = q;
	if (!(s.volumeL > 0 && Number.isFinite(s.volumeL)))
		return { do: 'refuse', message: 'How many litres are in the tank? Without that no dose can be said.' };
	if (!(ph >= 0 && ph <= 14 && targetPh >= 3 && targetPh <= 10))
		return { do: 'refuse', message: 'The pH lies between 0 and 14, and a target for plants between 3 and 10.' };
	if (q.doubtful) return { do: 'refuse', message: `${q.doubtful} Read again before dosing.` };
	if (Math.abs(ph - targetPh) <= (q.tolerance ?? ON_TARGET))
		return { do: 'nothing', message: `pH ${ph.toFixed(2)} is on target. Leave it.` };
	const direction = targetPh < ph ? -1 : 1;
	if (direction < 0 !== (q.kind === 'acid'))
		return {
			do: 'refuse',
			message:
				direction < 0
					? 'The target lies lower: that takes an acid.'
					: 'The target lies higher: that takes a base, or the patience to let it climb by itself.',
		};
	if (q.strengthMeqMl === null || !(q.strengthMeqMl > 0))
		return {
			do: 'titrate',
			message:
				'The strength of this product is not known. Try it on one litre in a jug first, drop by drop, and enter what it took; no volume is said before.',
		};
	const learned = learnResponse(q.past, s, q.strengthMeqMl);
	const { belief, tempC } = learned;
	const way = moved(ph, targetPh, tempC);
	const perLitre = expected(belief, way);
	if (!(perLitre > 0 && Number.isFinite(perLitre)))
		return {
			do: 'refuse',
			message:
				'What earlier doses here did contradicts itself; look at their volumes and readings in the Ledger before dosing.',
		};
	const scatter = Math.hypot(Math.sqrt(variance(belief, way)) / perLitre, U_POUR, U_MODEL);
	const recent = learned.held.slice(-3);
	const good = recent.length === 3 && recent.every(Boolean);
	// What counts is how surely the next step is known: by predictions that held, or by the interval of this one.
	const part = scatter < SURE && (good || learned.doses >= 2) ? 0.95 : good || scatter < FAIRLY_SURE ? 0.75 : 0.5;
	const after = (mlPerL: number) => phAfterDose(ph, mlPerL, direction, belief, tempC);
	const sharp = 1 / Math.max(1 - 1.96 * scatter, 0.25);
	// Whatever the curve says: never far beyond what doses here have shown a step of pH to take.
	const shown = q.past.flatMap((d) => {
		const change = Math.abs(d.phBefore - d.phAfter);
		return tells(d) && change > 3 * U_PH ? [d.ml / d.volumeL / change] : [];
	});
	const most =
		shown.length === 0 ? Number.POSITIVE_INFINITY : MOST_TIMES * Math.max(...shown) * Math.abs(ph - targetPh);
	let mlPerL = Math.min(part * perLitre, most);
	if (learned.doses === 0) mlPerL = Math.min(mlPerL, FIRST_STEP_MEQ_L / q.strengthMeqMl);
	const sd = learned.doses < NEW_DOSES ? NEW_GUARD_SD : GUARD_SD;
	const guard = 1 / Math.max(1 - sd * scatter, 0.25);
	const passes = (by: number) => (after(mlPerL * by) - targetPh) * direction;
	for (let i = 0; i < 80 && (passes(guard) > PASSES_BY || passes(sharp) > NEVER_PASSES_BY); i++) mlPerL *= 0.95;
	const ends = [after(mlPerL / (1 + 1.96 * scatter)), after(mlPerL * sharp)].sort((a, b) => a - b);
	return {
		do: 'dose',
		ml: mlPerL * s.volumeL,
		mlToTarget: perLitre * s.volumeL,
		predictedPh: after(mlPerL),
		low: ends[0]!,
		high: ends[1]!,
		part: mlPerL / perLitre,
		message:
			learned.doses === 0
				? 'The first dose here: a small step, to see how this solution answers.'
				: MESSAGES[String(part)]!,
	};
}

/** Where the newest dose answered unlike those before it: how many times as strongly. Other water, a weaker bottle, a wrong volume. */
export function responseChanged(
	past: readonly PastDose[],
	s: Solution,
	strengthMeqMl: number,
): { factor: number } | null {
	if (past.length < 5) return null;
	const { belief, tempC } = learnResponse(past.slice(0, -1), s, strengthMeqMl);
	const d = past.at(-1)!;
	const way = moved(d.phBefore, d.phAfter, tempC);
	const change = Math.abs(d.phBefore - d.phAfter);
	if (!(d.ml > 0) || change < 2 * U_PH) return null;
	const predicted = expected(belief, way);
	const seen = d.ml / d.volumeL;
	const reach = 3 * Math.hypot(Math.sqrt(variance(belief, way)) / predicted, U_POUR, (Math.SQRT2 * U_PH) / change);
	return Math.abs(Math.log(predicted / seen)) > Math.log(1 + Math.max(reach, 0.5))
		? { factor: predicted / seen }
		: null;
}

/** meq per mL that a titration shows in a solution of known or assumed make-up. */
export const strengthFrom = (from: number, to: number, mlPerL: number, s: Omit<Solution, 'volumeL'>): number => {
	const way = moved(from, to, s.tempC ?? 20);
	return (
		(way[0] * (s.alkalinityMeqL ?? ASSUMED_ALKALINITY) + way[1] * (s.phosphateMmolL ?? ASSUMED_PHOSPHATE)) / mlPerL
	);
};
