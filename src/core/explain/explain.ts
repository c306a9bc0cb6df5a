import type { Book } from './book';
import { type Facts, factsOf } from './facts';
import { type Mover, type Moves, movesOf, SLOW } from './moves';

export const CAUSES = [
	'probe',
	'temperature',
	'feed_wrong',
	'alkaline_water',
	'degassing',
	'diluted',
	'salts',
	'hungry',
	'nitrate',
	'ammonium',
	'roots',
] as const;
/** What may move pH or EC, in the order in which it is looked into: the probe, the water, the plant. */
export type Cause = (typeof CAUSES)[number];

/** A number that speaks for a cause or against it. */
export interface Evidence {
	says: EvidenceCode;
	value: number;
	/** Natural logarithm of how much likelier it makes the cause; below nothing it speaks against it. */
	weight: number;
}
export const EVIDENCE = [
	'moved',
	'strays',
	'not-adjusted',
	'ammonium-share',
	'other-falls',
	'other-rises',
	'other-steady',
	'alkalinity',
	'brings',
	'rebounds',
	'temperature',
	'oxygen',
	'drinks',
	'began',
	'share',
	'over-feed',
	'step',
	'feed-changed',
	'not-compensated',
	'between',
] as const;
export type EvidenceCode = (typeof EVIDENCE)[number];

export interface Explanation {
	cause: Cause;
	/** Among those named here and what nobody thought of; 0 to 1. */
	chance: number;
	/** Of the whole movement: pH, or share of EC; with its standard uncertainty. */
	moved: { value: number; u: number };
	evidence: Evidence[];
}
export interface Explained {
	/** `steady`: nothing to explain; `unknown`: too few readings; `cannot-tell`: more than one cause would do. */
	says: 'explained' | 'cannot-tell' | 'steady' | 'unknown';
	way: 'up' | 'down' | null;
	/** Whole movement between what was done to it: pH, or share of EC. */
	moved: { value: number; u: number } | null;
	days: number;
	/** Likeliest first. */
	causes: Explanation[];
}

/** Less than this is not worth a word: pH, or share of EC. */
const LEAST = { ph: 0.25, ec: 0.05 } as const;
/** Nobody thought of it: the share of chance that is always left. */
const UNTHOUGHT = 0.1;
/** What there is to explain stands so many times above what it is uncertain by. */
const SURE = 2.5;
const CLEAR = 0.5;
/** A feed buffers about 0.5 to 0.7 meq/L for each pH (common practice, no source). */
const PH_PER_MEQ = 1.5;

type Weighed = [says: EvidenceCode, value: number, weight: number];

/**
 * What would explain that a water wanders, likeliest first, with what speaks for and against each. It ranks; it proves nothing.
 * @param book of two to eight weeks
 */
export function explain(book: Book): Explained {
	const facts = factsOf(book);
	const moves = movesOf(book, facts.strays);
	if (!moves) return { says: 'unknown', way: null, moved: null, days: 0, causes: [] };
	const shares = sharesOf(book, moves, facts);
	const all = Object.values(shares);
	const { whole } = moves;
	const way = Math.sign(whole.value);
	const shown = { moved: whole, days: moves.days };
	if (Math.abs(whole.value) < Math.max(LEAST[book.quantity], whole.u))
		return { says: 'steady', way: null, ...shown, causes: [] };
	const pull = (s: { value: number; u: number }) => expectedAbove(way * s.value, s.u);
	const total = all.reduce((n, s) => n + pull(s), 0);
	const scored = causesFor(book, way).map((cause) => {
		const moved = shares[moverOf(cause, book)] ?? { value: 0, u: 0 };
		const evidence: Weighed[] = [
			['moved', moved.value, Math.log((pull(moved) / total + 0.02) / 0.3)],
			...evidenceFor(cause, book, facts, moves),
		];
		return { cause, moved, evidence, score: Math.exp(evidence.reduce((n, [, , w]) => n + w, 0)) };
	});
	const sum = scored.reduce((n, s) => n + s.score, 0);
	const causes = scored
		.map(({ score, evidence, ...s }) => ({
			...s,
			chance: (score / (sum + 0.3)) * (1 - UNTHOUGHT),
			evidence: evidence
				.map(([says, value, weight]) => ({ says, value, weight }))
				.sort((a, b) => Math.abs(b.weight) - Math.abs(a.weight)),
		}))
		.sort((a, b) => b.chance - a.chance);
	return {
		says: isSure(whole) && (causes[0]?.chance ?? 0) >= CLEAR ? 'explained' : 'cannot-tell',
		way: way > 0 ? 'up' : 'down',
		...shown,
		causes,
	};
}

/**
 * Whether a movement stands well above what it is uncertain by.
 * @example isSure({ value: 0.3, u: 0.2 }) // false
 */
export const isSure = (moved: { value: number; u: number }): boolean => Math.abs(moved.value) >= SURE * moved.u;

/** Which movement a cause would show itself in. */
function moverOf(cause: Cause, { quantity, kind }: Book): string {
	if (cause === 'probe') return 'probe';
	if (cause === 'temperature') return 'temperature';
	if (cause === 'degassing') return 'gas';
	if (cause === 'alkaline_water') return 'water';
	if (cause === 'feed_wrong') return kind === 'drain' && quantity === 'ec' ? 'feed' : 'step';
	if (cause === 'diluted' && kind === 'tank') return 'water';
	return 'slow';
}

function causesFor({ quantity }: Book, way: number): Cause[] {
	if (quantity === 'ph')
		return way > 0 ? ['probe', 'alkaline_water', 'degassing', 'nitrate'] : ['probe', 'ammonium', 'roots', 'salts'];
	const always: Cause[] = ['probe', 'temperature', 'feed_wrong'];
	return way > 0 ? [...always, 'salts'] : [...always, 'diluted', 'hungry'];
}

/** The movement by what made it: what time made is shared between the pen, as far as it strays, and what goes on in the water. */
function sharesOf(book: Book, moves: Moves, facts: Facts): Record<string, { value: number; u: number }> {
	const { time, ...rest } = moves.of;
	const q = book.quantity;
	const perDay = moves.days > 0 ? time.value / moves.days : 0;
	const perDayU = moves.days > 0 ? time.u / moves.days : SLOW[q];
	// Pen and water add up to what was seen.
	const s2 = SLOW[q] ** 2;
	const r2 = facts.strays.u ** 2;
	const gain = r2 / (r2 + s2 + perDayU ** 2);
	const pen = facts.strays.value + gain * (perDay - facts.strays.value);
	const penU = Math.sqrt(r2 * (1 - gain));
	const slow = {
		value: (perDay - pen) * moves.days,
		u: Math.hypot(penU, perDayU) * moves.days,
	};
	// A pen that does not allow for a temperature that nobody read: one would do as well as the other.
	const unread = q === 'ec' && book.compensates === false && book.temps.length < 4 ? 0.5 : 0;
	const fed = book.kind === 'drain' ? facts.fedBy : 0;
	return {
		...(rest satisfies Record<Exclude<Mover, 'time'>, { value: number; u: number }>),
		probe: { value: pen * moves.days, u: penU * moves.days },
		feed: { value: fed, u: 0.02 + 0.3 * Math.abs(fed) },
		slow: { value: (1 - unread) * slow.value - fed, u: Math.hypot(slow.u, 0.3 * fed) },
		...(unread > 0 && { temperature: { value: unread * slow.value, u: slow.u } }),
	};
}

/** Mean of what lies above nothing of a normal distribution. */
function expectedAbove(value: number, u: number): number {
	if (!(u > 0)) return Math.max(0, value);
	const z = value / u;
	// Logistic for the normal distribution: right to 0.01.
	const above = 1 / (1 + Math.exp(-1.702 * z));
	return value * above + u * 0.3989 * Math.exp((-z * z) / 2);
}

/** Between what was poured in: water that only thins a tank leaves it steady there. */
function between(m: Moves, say: (says: EvidenceCode, value: number | null, weight: number) => void): void {
	const { value, u, rate } = m.of.time;
	say('between', rate, value < -2 * u ? -1.5 : Math.abs(value) < 2 * u ? 0.5 : 0);
}

const surely = (r: Facts['other'], way: number): boolean => r !== null && way * r.value > 2 * r.u;

function evidenceFor(cause: Cause, book: Book, f: Facts, m: Moves): Weighed[] {
	const { quantity, water, ammoniumShare } = book;
	const e: Weighed[] = [];
	const say = (says: EvidenceCode, value: number | null, weight: number) => {
		if (value !== null && weight !== 0) e.push([says, value, weight]);
	};
	const steady = f.other !== null && Math.abs(f.other.value) < 0.006 && f.other.u < 0.006;
	switch (cause) {
		case 'probe':
			if (f.strays.calibrations === 0 && f.strays.pairs < 3) say('not-adjusted', m.days, 0.6);
			else say('strays', f.strays.value, 0.0001);
			break;
		case 'temperature':
			if (book.compensates === false) say('not-compensated', f.tempC ?? 0, 0.5);
			break;
		case 'feed_wrong':
			if (book.kind === 'drain' && book.feed.length > 3)
				say('feed-changed', f.fedBy, Math.abs(f.fedBy) > 0.12 ? 0.9 : Math.abs(f.fedBy) < 0.05 ? -0.8 : 0);
			if (m.stepAt !== null) say('step', m.of.step.value, m.stepAct === null ? 0.2 : 1);
			break;
		case 'alkaline_water':
			if (water.alkalinityMeqL !== null) {
				say('alkalinity', water.alkalinityMeqL, water.alkalinityMeqL > 1.5 ? 0.6 : water.alkalinityMeqL < 0.6 ? -2 : 0);
				const brings = (PH_PER_MEQ * water.alkalinityMeqL * m.filled) / Math.abs(m.whole.value);
				say('brings', brings, brings > 0.5 ? 0.8 : brings < 0.15 ? -1 : 0);
			}
			break;
		case 'degassing':
			if (f.acids > 0)
				say('rebounds', f.rebounds / f.acids, f.rebounds > 0.5 * f.acids ? 1 : f.rebounds === 0 ? -0.3 : 0.3);
			else say('rebounds', 0, -2.5);
			break;
		case 'nitrate':
			if (ammoniumShare !== null)
				say('ammonium-share', ammoniumShare, ammoniumShare < 0.08 ? 0.6 : ammoniumShare > 0.12 ? -1.5 : 0);
			if (surely(f.other, -1)) say('other-falls', f.other!.value, 0.4);
			if (water.alkalinityMeqL !== null && water.alkalinityMeqL < 0.6) say('alkalinity', water.alkalinityMeqL, 0.3);
			break;
		case 'ammonium':
			if (ammoniumShare !== null)
				say('ammonium-share', ammoniumShare, ammoniumShare > 0.1 ? 1.2 : ammoniumShare < 0.06 ? -2 : -0.4);
			if (surely(f.other, -1)) say('other-falls', f.other!.value, 0.3);
			break;
		case 'roots':
			if (f.tempC !== null) say('temperature', f.tempC, f.tempC > 24 ? 1 : f.tempC < 21.5 ? -0.5 : 0);
			if (f.oxygen !== null) say('oxygen', f.oxygen, f.oxygen < 5.5 ? 1.5 : f.oxygen > 6.5 ? -1.5 : 0);
			if (steady) say('other-steady', f.other!.value, 0.5);
			else if (f.other && (surely(f.other, 1) || surely(f.other, -1)))
				say(f.other.value > 0 ? 'other-rises' : 'other-falls', f.other.value, -0.7);
			if (f.drinks !== null) say('drinks', f.drinks, f.drinks < 0.7 ? 1.2 : f.drinks > 0.9 ? -0.8 : 0);
			if (f.began !== null) say('began', f.began, f.began < 0.4 ? 0.9 : f.began > 0.8 ? -0.7 : 0);
			if (ammoniumShare !== null && ammoniumShare < 0.06) say('ammonium-share', ammoniumShare, 0.4);
			break;
		case 'salts':
			if (quantity === 'ph') say('other-rises', f.other?.value ?? null, surely(f.other, 1) ? 1 : -2);
			if (f.share !== null) say('share', f.share, f.share < 0.12 ? 1 : f.share > 0.3 ? -1 : 0);
			if (f.overFeed !== null) say('over-feed', f.overFeed, f.overFeed > 1.3 ? 0.5 : f.overFeed < 1 ? -1 : 0);
			break;
		case 'diluted':
			if (f.share !== null) say('share', f.share, f.share > 0.45 ? 1.5 : f.share < 0.35 ? -1.5 : 0);
			if (book.kind === 'tank') between(m, say);
			break;
		case 'hungry':
			if (f.share !== null) say('share', f.share, f.share > 0.45 ? -1 : 0.3);
			if (f.overFeed !== null) say('over-feed', f.overFeed, f.overFeed < 0.95 ? 1 : -0.5);
			break;
	}
	return e;
}
