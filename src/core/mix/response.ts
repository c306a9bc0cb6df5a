import { median } from '../series/robust';
import { moved } from './buffer-curve';
import { type Belief, learnDose, phAfter, priorBelief, takesQuantile } from './response-belief';

/**
 * How a solution answers a product, learned from every dose (response-belief.ts), and the next dose from it: few steps that
 * undershoot by design, each with the pH it should lead to and its interval.
 */
export interface Solution {
	volumeL: number;
	tempC?: number | undefined;
	/** Of the mixed solution's water, where known. */
	alkalinityMeqL?: number | undefined;
	/** Phosphorus of the feed as mmol/L, where known. */
	phosphateMmolL?: number | undefined;
	/** Its EC now and that of its water alone: the difference is feed, and feed brings phosphate. */
	ecUsCm?: number | undefined;
	waterEcUsCm?: number | undefined;
}

export interface PastDose {
	volumeL: number;
	ml: number;
	phBefore: number;
	phAfter: number;
	/** Of the solution then, where it was read. */
	ecUsCm?: number | undefined;
	/** The tank held another water then, or the source has changed since: nothing is concluded from it. */
	otherWater?: boolean | undefined;
	/** A step of a jug titration: drops are an estimate of their volume. */
	jug?: boolean | undefined;
	/** Before and after were read by different instruments, whose errors differ. */
	otherInstrument?: boolean | undefined;
}

/** Assumed where nobody knows, as median and spread: a tap water half used up, and a usual feed. */
const ASSUMED_ALKALINITY = 1;
const ASSUMED_PHOSPHATE = 1;
const SPREAD_ALKALINITY = 0.9;
const SPREAD_PHOSPHATE = 0.6;
/** Of a measured one, with a label that may be a quarter wrong. */
const SPREAD_KNOWN = 0.3;
/** EC that a feed with the assumed phosphate brings. */
const FEED_EC_US_CM = 1500;
const LEAST_PHOSPHATE = 0.03;
/** Standard uncertainty of one pH reading of a kept pen, and of a cylinder as a share. */
const U_PH = 0.02;
/** Of the difference between two instruments, each checked within weeks. */
const U_OTHER_PH = 0.15;
const U_POUR = 0.04;
/** What the curve leaves out, and what changes from week to week, as a share of a dose. */
const U_MODEL = 0.06;
/** A drop is 0.05 mL more or less, and all drops of one bottle alike. */
const U_DROP = 0.25;
const REMEMBERS = 30;

function priorOf(s: Solution, strengthMeqMl: number): Belief {
	const fed = s.ecUsCm === undefined ? undefined : Math.max(s.ecUsCm - (s.waterEcUsCm ?? 0), 0) / FEED_EC_US_CM;
	const phosphate = Math.max(s.phosphateMmolL ?? ASSUMED_PHOSPHATE * (fed ?? 1), LEAST_PHOSPHATE);
	return priorBelief(
		{
			median: Math.max(s.alkalinityMeqL ?? ASSUMED_ALKALINITY, 0.02) / strengthMeqMl,
			sdLn: s.alkalinityMeqL === undefined ? SPREAD_ALKALINITY : SPREAD_KNOWN,
		},
		{ median: phosphate / strengthMeqMl, sdLn: s.phosphateMmolL === undefined ? SPREAD_PHOSPHATE : SPREAD_KNOWN },
		s.tempC ?? 20,
	);
}

/** Feed in the tank at a dose, as a share of what is in it now; 1 where EC was not read. */
function phosphateShare(d: PastDose, s: Solution): number {
	const water = s.waterEcUsCm ?? 0;
	if (d.ecUsCm === undefined || s.ecUsCm === undefined || s.ecUsCm - water < 50) return 1;
	return Math.min(Math.max((d.ecUsCm - water) / (s.ecUsCm - water), 0), 5);
}

/** A trace of product, or a change within the noise of a pen, teaches nothing. */
const LEAST_ML_PER_L = 1e-3;
const tells = (d: PastDose): boolean =>
	d.volumeL > 0 && d.ml / d.volumeL >= LEAST_ML_PER_L && Math.abs(d.phBefore - d.phAfter) >= U_PH / 2;

export interface Learned {
	belief: Belief;
	/** In this water. */
	doses: number;
	/** Whether each prediction held, newest last: within a fifth of the change, or within what two pH readings tell. */
	held: boolean[];
}

const seenIn = (d: PastDose, s: Solution, u: number) => ({
	mlPerL: d.ml / d.volumeL,
	phBefore: d.phBefore,
	phAfter: d.phAfter,
	u: Math.hypot(U_POUR, U_MODEL, u),
	uPh: d.otherInstrument ? U_OTHER_PH : U_PH,
	phosphateShare: phosphateShare(d, s),
});

/**
 * Doses in another water are left out: from well to rain the alkalinity falls twentyfold, and what a hard water took is a
 * dangerous place to begin from.
 * @param past doses of one product, oldest first
 */
export function learnResponse(past: readonly PastDose[], s: Solution, strengthMeqMl: number): Learned {
	const here = past.filter((d) => tells(d) && !d.otherWater).slice(-REMEMBERS);
	let belief = priorOf(s, strengthMeqMl);
	const list: boolean[] = [];
	// The size of a drop is one error common to all steps of a jug: together they must not seem surer than it.
	const uDrop = U_DROP * Math.sqrt(here.filter((d) => d.jug).length);
	for (const [i, d] of here.entries()) {
		const change = d.phAfter - d.phBefore;
		// Only the newest predictions are asked for: each costs as much as a dose.
		if (i > 0 && i >= here.length - 5) {
			const predicted = phAfter(belief, d.phBefore, d.ml / d.volumeL, Math.sign(change), 0.5) - d.phBefore;
			list.push(Math.abs(predicted - change) <= Math.max(0.2 * Math.abs(change), 2 * Math.SQRT2 * U_PH));
		}
		belief = learnDose(belief, seenIn(d, s, d.jug ? uDrop : 0));
	}
	return { belief, doses: here.length, held: list };
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
const MOST_TIMES = 2.5;
const ON_TARGET = 0.05;
/** Relative uncertainty of the whole way below which nearly all of it, or three quarters, is advised. */
const SURE = 0.15;
const FAIRLY_SURE = 0.4;
/** A dose passes the target by so much in at most so many cases: a solution that buffers little falls off a cliff. */
const PASSES: readonly { by: number; chance: number }[] = [
	{ by: 0.08, chance: 0.08 },
	{ by: 0.3, chance: 0.005 },
];
const MESSAGES: Record<string, string> = {
	'0.5': 'Half of the way by what is known; the rest after measuring.',
	'0.75': 'This is known fairly well: three quarters of the way.',
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
	const strengthMeqMl = q.strengthMeqMl ?? strengthOfDoses(q.past, s);
	if (strengthMeqMl === null || !(strengthMeqMl > 0))
		return {
			do: 'titrate',
			message:
				'The strength of this product is not known. Try it on one litre in a jug first, drop by drop, and enter what it took; no volume is said before.',
		};
	const learned = learnResponse(q.past, s, strengthMeqMl);
	const { belief } = learned;
	const way = moved(ph, targetPh, belief.tempC);
	const perLitre = takesQuantile(belief, way, 0.5);
	const spread = (takesQuantile(belief, way, 0.84) - takesQuantile(belief, way, 0.16)) / (2 * perLitre);
	const scatter = Math.hypot(spread, U_POUR, U_MODEL);
	const recent = learned.held.slice(-3);
	const good = recent.length === 3 && recent.every(Boolean);
	// What counts is how surely the next step is known: by predictions that held, or by the interval of this one.
	const part = scatter < SURE && (good || learned.doses >= 2) ? 0.95 : good || scatter < FAIRLY_SURE ? 0.75 : 0.5;
	// Whatever the curve says: never far beyond what doses here have shown a step of pH to take.
	const shown = q.past.flatMap((d) => {
		const change = Math.abs(d.phBefore - d.phAfter);
		return tells(d) && !d.otherInstrument && !d.otherWater && change > 3 * U_PH ? [d.ml / d.volumeL / change] : [];
	});
	const most =
		shown.length === 0 ? Number.POSITIVE_INFINITY : MOST_TIMES * Math.max(...shown) * Math.abs(ph - targetPh);
	const safe = PASSES.map(
		({ by, chance }) =>
			takesQuantile(belief, moved(ph, targetPh + direction * by, belief.tempC), chance) / (1 + 2 * U_POUR),
	);
	let mlPerL = Math.min(part * perLitre, most, ...safe);
	if (learned.doses === 0) mlPerL = Math.min(mlPerL, FIRST_STEP_MEQ_L / strengthMeqMl);
	const predictedPh = phAfter(belief, ph, mlPerL, direction, 0.5);
	const reach = (chance: number) => Math.hypot(phAfter(belief, ph, mlPerL, direction, chance) - predictedPh, 2 * U_PH);
	const [sharp, blunt] = [reach(0.025), reach(0.975)];
	return {
		do: 'dose',
		ml: mlPerL * s.volumeL,
		mlToTarget: perLitre * s.volumeL,
		predictedPh,
		low: predictedPh - (direction < 0 ? sharp : blunt),
		high: predictedPh + (direction < 0 ? blunt : sharp),
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
	if (past.filter((d) => !d.otherWater).length < 5) return null;
	const { belief } = learnResponse(past.slice(0, -1), s, strengthMeqMl);
	const d = past.at(-1)!;
	// Two instruments that differ look like a changed response, and so do drops of another size.
	if (d.otherInstrument || d.otherWater || d.jug) return null;
	const way = moved(d.phBefore, d.phAfter, belief.tempC);
	const change = Math.abs(d.phBefore - d.phAfter);
	if (!(d.ml > 0) || change < 2 * U_PH) return null;
	const predicted = takesQuantile(belief, way, 0.5);
	const spread = (takesQuantile(belief, way, 0.84) - takesQuantile(belief, way, 0.16)) / (2 * predicted);
	const seen = d.ml / d.volumeL;
	const reach = 3 * Math.hypot(spread, U_POUR, (Math.SQRT2 * U_PH) / change);
	return Math.abs(Math.log(predicted / seen)) > Math.log(1 + Math.max(reach, 0.5))
		? { factor: predicted / seen }
		: null;
}

/** What a product does to a solution, drawn from a pH: mL per litre against pH with its 95 % band. */
export function responseCurve(
	learned: Learned,
	ph: number,
	direction: -1 | 1,
	endPh: number,
	points = 24,
): { mlPerL: number; ph: number; low: number; high: number }[] {
	const most = takesQuantile(learned.belief, moved(ph, endPh, learned.belief.tempC), 0.5);
	return Array.from({ length: points + 1 }, (_, i) => {
		const mlPerL = (most * i) / points;
		const ends = [0.025, 0.975].map((chance) => phAfter(learned.belief, ph, mlPerL, direction, chance));
		return {
			mlPerL,
			ph: phAfter(learned.belief, ph, mlPerL, direction, 0.5),
			low: Math.min(...ends),
			high: Math.max(...ends),
		};
	});
}

const DOSES_THAT_TELL = 3;

/**
 * What the doses themselves say of a product whose label says nothing, meq/mL: their median, in a solution as known or as
 * assumed. Only its ratio to the solution counts for the next dose, and that they have shown. Null below three doses.
 */
export function strengthOfDoses(past: readonly PastDose[], s: Solution): number | null {
	const list = past
		.filter((d) => tells(d) && !d.otherWater && !d.otherInstrument && Math.abs(d.phBefore - d.phAfter) > 3 * U_PH)
		.map((d) => strengthFrom(d.phBefore, d.phAfter, d.ml / d.volumeL, s))
		.filter((v) => Number.isFinite(v) && v > 0);
	return list.length < DOSES_THAT_TELL ? null : median(list);
}

/** A dose from nearly the same start in the same water: what was done then. Newest first found. */
export const sameStart = <D extends PastDose>(past: readonly D[], ph: number, volumeL: number): D | null =>
	past.findLast(
		(d) =>
			!d.otherWater &&
			!d.otherInstrument &&
			!d.jug &&
			Math.abs(d.phBefore - ph) <= SAME_PH &&
			Math.abs(d.volumeL - volumeL) <= SAME_VOLUME * volumeL,
	) ?? null;
const SAME_PH = 0.12;
const SAME_VOLUME = 0.05;

/** meq per mL that a titration shows in a solution of known or assumed make-up. */
export const strengthFrom = (from: number, to: number, mlPerL: number, s: Omit<Solution, 'volumeL'>): number => {
	const way = moved(from, to, s.tempC ?? 20);
	return (
		(way[0] * (s.alkalinityMeqL ?? ASSUMED_ALKALINITY) + way[1] * (s.phosphateMmolL ?? ASSUMED_PHOSPHATE)) / mlPerL
	);
};
