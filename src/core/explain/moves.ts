import { AERATION, UNKNOWN_AERATION } from '../chem/degassing';
import { median } from '../series/robust';
import { type Belief, type Row, ridge } from '../stats/ridge';
import type { Act, Book } from './book';
import { DIP } from './facts';

/**
 * What moved a water between readings, put down to what happened meanwhile: time itself, water poured in, carbon dioxide leaving after
 * acid, temperature, a step. pH in pH, EC as a share (ln). Each with its standard uncertainty.
 */
export type Mover = 'time' | 'water' | 'gas' | 'temperature' | 'step';
export interface Move {
	/** Of the whole movement, with its sign. */
	value: number;
	u: number;
	/** For each unit: a day, a filling as large as the tank, a dose, 1 °C; null where nothing of it happened. */
	rate: number | null;
}
export interface Moves {
	of: Record<Mover, Move>;
	/** Of all of it together. */
	whole: { value: number; u: number };
	/** What was poured in as water, in fillings as large as the tank. */
	filled: number;
	/** Days between readings that could be compared. */
	days: number;
	/** Scatter of one reading, as far as nothing explains it. */
	noise: number;
	/** When the largest step was, and what was done then. */
	stepAt: number | null;
	stepAct: Act['kind'] | null;
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** What a dose of acid is meant to lower, and how doses differ (common practice, no source). */
const DOSE = { mean: -0.6, sd: 0.25, differs: 0.25 } as const;
/** Likewise what a feed does: to pH, and to EC as a share. */
const FED = { ph: { mean: -0.05, sd: 0.15, differs: 0.08 }, ec: { mean: 0.05, sd: 0.1, differs: 0.04 } } as const;
/** Readings further apart say nothing about what happened between them. */
const LONGEST_DAYS = 8;
/** How far pH climbs as what a dose of acid set free leaves, and what never happens to EC for that (common practice, no source). */
const REBOUND = { mean: 0.3, sd: 0.6 } as const;
const NEVER = { mean: 0, sd: 1e-6 } as const;
/** Half of what swings with the day: pH, and share of EC (common practice, no source). */
const SWING = { ph: 0.1, ec: 0.02 } as const;
/** What movement is put down to: the columns of the regression. */
const COLUMNS = ['time', 'water', 'gas', 'temperature', 'sine', 'cosine', 'dose', 'feed'] as const;
type Column = (typeof COLUMNS)[number];
/** Beliefs about the slow movement of a day: pH, and share of EC (common practice, no source). */
export const SLOW = { ph: 0.06, ec: 0.02 } as const;
/** What the water does by itself from day to day, by chance: pH, and share of EC, for each √day (common practice, no source). */
const WALK = { ph: 0.02, ec: 0.004 } as const;
/** A step of which so much at least came back since was mended. */
const MENDED = 0.6;
/** How far a pen scatters at least: pH, and share of EC. */
const LEAST_NOISE = { ph: 0.015, ec: 0.006 } as const;
/** Acts that move it at once by an amount nobody knows: no slope is taken across. */
const CUTS: Record<Book['quantity'], readonly Act['kind'][]> = {
	ph: ['base', 'changed'],
	ec: ['changed'],
};
/** A tank whose volume nobody said is taken for so many of its usual fillings. */
const FILLINGS = 8;

interface Looked {
	at: number;
	/** pH, or the logarithm of EC. */
	y: number;
}

/** Readings as they were shown, on the scale on which they are compared. */
const looked = (b: Pick<Book, 'quantity' | 'readings'>): Looked[] =>
	b.readings.map((r) => ({ at: r.at, y: b.quantity === 'ph' ? r.value : Math.log(Math.max(r.value, 1)) }));

/**
 * @param book readings as shown, oldest first
 * @param strays what the pen strays by in a day
 * @returns null with fewer than six readings
 */
export function movesOf(book: Book, strays: { value: number; u: number }): Moves | null {
	const seen = looked(book);
	if (seen.length < 6) return null;
	const q = book.quantity;
	const right = looked({ ...book, readings: book.readings.map((r) => ({ ...r, value: r.value - r.off })) }).map(
		(p) => p.y,
	);
	const noise = Math.max(LEAST_NOISE[q], scatterOf(book, seen));
	const usualL = median(book.acts.flatMap((a) => (a.kind === 'water' && a.litres ? [a.litres] : []))) || 1;
	const wholeL = book.volumeL ?? FILLINGS * usualL;
	const gasPerHour = (book.aeration ? AERATION[book.aeration] : UNKNOWN_AERATION).perHour;
	const acids = book.acts.filter((a) => a.kind === 'acid').map((a) => a.at);
	/** How much of what acid set free has left by a time, of all doses together. */
	const gone = (at: number) =>
		acids.reduce((n, t) => n + (t < at ? 1 - Math.exp((-gasPerHour * (at - t)) / HOUR) : 0), 0);
	const swings = { mean: 0, sd: SWING[q] };
	const believed: Record<Column, Belief> = {
		time: { mean: strays.value, sd: Math.hypot(SLOW[q], strays.u) },
		water: waterBelief(book, seen),
		gas: q === 'ph' ? REBOUND : NEVER,
		temperature: temperatureBelief(book),
		sine: swings,
		cosine: swings,
		dose: DOSE,
		feed: FED[q],
	};
	const beliefs = COLUMNS.map((c) => believed[c]);
	const rows: Change[] = [];
	const sums = beliefs.map(() => 0);
	let compared = 0;
	const step = largestStep(book, seen, noise);
	for (let i = 1; i < seen.length; i++) {
		const [a, b] = [seen[i - 1]!, seen[i]!];
		const days = (b.at - a.at) / DAY;
		if (days > LONGEST_DAYS || days <= 0 || step?.at === b.at) continue;
		const between = actsBetween(book, a.at, b.at);
		if (between.some((x) => CUTS[q].includes(x.kind))) continue;
		const adjusted = book.calibrated.some((t) => t > a.at && t <= b.at);
		const many = (kind: Act['kind']) => between.filter((x) => x.kind === kind).length;
		const [doses, feeds] = [q === 'ph' ? many('acid') : 0, many('feed')];
		const filled = between.reduce((n, x) => n + (x.kind === 'water' ? (x.litres ?? usualL) : 0), 0) / wholeL;
		const happened: Record<Column, number> = {
			time: days,
			water: filled,
			gas: gone(b.at) - gone(a.at),
			temperature: differenceOf(book.temps, a.at, b.at),
			sine: turn(b.at, Math.sin) - turn(a.at, Math.sin),
			cosine: turn(b.at, Math.cos) - turn(a.at, Math.cos),
			dose: doses,
			feed: feeds,
		};
		const x = COLUMNS.map((c) => happened[c]);
		// Across an adjustment what it found is taken off: the jump is the pen’s.
		const y = adjusted ? right[i]! - right[i - 1]! : b.y - a.y;
		const own =
			WALK[q] ** 2 * days + doses * DOSE.differs ** 2 + feeds * FED[q].differs ** 2 + (adjusted ? DIP[q] ** 2 : 0);
		rows.push({ y, x, own, from: i - 1 });
		for (const [j, v] of x.entries()) sums[j]! += v;
		compared += days;
	}
	if (rows.length < 3) return null;
	const fit = ridge(alone(rows, noise), beliefs);
	/** What some of it made together: it shares what it is uncertain of. */
	const made = (columns: readonly Column[]): { value: number; u: number } => {
		const of = sums.map((s, j) => (columns.includes(COLUMNS[j]!) ? s : 0));
		return {
			value: of.reduce((n, s, j) => n + s * fit.coefficients[j]!, 0),
			u: Math.sqrt(of.reduce((n, s, i) => n + of.reduce((m, r, j) => m + s * r * fit.covariance[i]![j]!, 0), 0)),
		};
	};
	const of = (column: Column, ...others: Column[]): Move => {
		const j = COLUMNS.indexOf(column);
		return { ...made([column, ...others]), rate: sums[j] === 0 ? null : fit.coefficients[j]! };
	};
	// What was seen, less what doses were meant to do.
	const dosed = made(['dose']);
	const runs = 1 + rows.filter((r, i) => i > 0 && rows[i - 1]!.from !== r.from - 1).length;
	const rest = rows.reduce((n, r) => n + r.y, 0) - dosed.value;
	// A step that was mended since is what there is to explain.
	const whole = {
		value:
			step && step.size * rest < 0 && Math.abs(step.size) > MENDED * Math.abs(rest)
				? step.size
				: rest + (step?.size ?? 0),
		u: Math.hypot(noise * Math.min(1, fit.scale) * Math.sqrt(2 * runs), dosed.u),
	};
	return {
		of: {
			time: of('time'),
			// Water and the feed that goes in with it.
			water: of('water', 'feed'),
			gas: of('gas'),
			temperature: of('temperature'),
			step: { value: step?.size ?? 0, u: 1.5 * noise, rate: null },
		},
		whole,
		filled: sums[COLUMNS.indexOf('water')]!,
		days: compared,
		noise: noise * fit.scale,
		stepAt: step?.at ?? null,
		stepAct: step?.kind ?? null,
	};
}

/** From one reading to the next. */
interface Change {
	y: number;
	x: readonly number[];
	/** Variance that has nothing to do with the readings. */
	own: number;
	/** Index of the reading it begins with. */
	from: number;
}

/** Two changes share the reading between them, and with it its error: what each tells beside the one before (Cholesky). */
function alone(changes: readonly Change[], noise: number): Row[] {
	const rows: Row[] = [];
	let before = 0;
	for (const [i, c] of changes.entries()) {
		const tied = i > 0 && changes[i - 1]!.from === c.from - 1;
		const share = tied ? -(noise ** 2) / before : 0;
		const last = rows.at(-1);
		const variance = 2 * noise ** 2 + c.own - (tied ? noise ** 4 / before : 0);
		rows.push({
			y: c.y - (last ? share * last.y : 0),
			x: c.x.map((v, j) => v - (last ? share * last.x[j]! : 0)),
			sigma: Math.sqrt(variance),
		});
		before = variance;
	}
	return rows;
}

/** From how far readings lie off the middle of their neighbours. */
function scatterOf(book: Book, seen: readonly Looked[]): number {
	const off = seen.slice(2).flatMap((c, i) => {
		const [a, b] = [seen[i]!, seen[i + 1]!];
		// What was poured in meanwhile is no scatter.
		if (actsBetween(book, a.at, c.at).length > 0 || book.calibrated.some((t) => t > a.at && t <= c.at)) return [];
		const share = (b.at - a.at) / Math.max(1, c.at - a.at);
		return [Math.abs(b.y - (a.y + share * (c.y - a.y)))];
	});
	return off.length < 3 ? 2 * LEAST_NOISE[book.quantity] : (1.4826 * median(off)) / Math.sqrt(1.5);
}

const turn = (at: number, f: (x: number) => number): number => f((2 * Math.PI * (at % DAY)) / DAY);

function nearest(list: readonly { at: number; value: number }[], at: number): number | null {
	let best: { at: number; value: number } | null = null;
	for (const x of list)
		if (Math.abs(x.at - at) <= DAY / 2 && (!best || Math.abs(x.at - at) < Math.abs(best.at - at))) best = x;
	return best?.value ?? null;
}
function differenceOf(list: readonly { at: number; value: number }[], from: number, to: number): number {
	const [a, b] = [nearest(list, from), nearest(list, to)];
	return a === null || b === null ? 0 : b - a;
}

/** A filling with the water: its alkalinity against what a feed buffers (about 0.5 meq/L for each pH), or its EC against the tank’s. */
function waterBelief({ quantity, water }: Book, seen: readonly Looked[]): Belief {
	if (quantity === 'ph')
		return water.alkalinityMeqL === null
			? { mean: 1, sd: 2.5 }
			: { mean: 1.5 * water.alkalinityMeqL, sd: 0.8 * water.alkalinityMeqL + 0.4 };
	const ec = Math.exp(median(seen.map((s) => s.y)));
	return { mean: (water.ecUsCm ?? 300) / ec - 1, sd: water.ecUsCm === null ? 0.3 : 0.2 };
}
function temperatureBelief({ quantity, compensates }: Book): Belief {
	if (quantity === 'ph') return { mean: 0, sd: 0.005 };
	// Either it does or it does not: by 2 % for each °C.
	if (compensates === null) return { mean: 0.01, sd: 0.01 };
	return compensates ? { mean: 0, sd: 0.002 } : { mean: 0.02, sd: 0.004 };
}

const actsBetween = ({ acts }: Book, from: number, to: number): Act[] => acts.filter((x) => x.at > from && x.at <= to);

/** The one place where the level changed and stayed: beside what was done, or beside nothing. */
function largestStep(
	book: Book,
	seen: readonly Looked[],
	noise: number,
): { at: number; kind: Act['kind'] | null; size: number } | null {
	if (book.quantity !== 'ec' || book.kind === 'drain') return null;
	const sizes = seen.flatMap(({ at, y }, i) => {
		const before = seen.slice(Math.max(0, i - 3), i);
		const after = seen.slice(i, i + 3);
		if (before.length < 2 || after.length < 2) return [];
		const done = actsBetween(book, before.at(-1)!.at, at);
		const kind = done.find((x) => x.kind === 'changed' || x.kind === 'feed')?.kind ?? null;
		// Water thins: that is no mistake in a feed.
		if (kind === null && done.length > 0) return [];
		if (book.calibrated.some((t) => t > before.at(-1)!.at && t <= at)) return [];
		const mid = (list: readonly Looked[]) => median(list.map((s) => s.y));
		const one = y - before.at(-1)!.y;
		const size = mid(after) - mid(before);
		// It happened here, not a reading sooner or later.
		return Math.sign(one) === Math.sign(size) && Math.abs(one) > 0.5 * Math.abs(size)
			? [{ at, kind, size, after: mid(after) }]
			: [];
	});
	const usual = (kind: Act['kind'] | null) => {
		const alike = sizes.filter((s) => s.kind === kind).map((s) => s.size);
		return alike.length >= 3 ? median(alike) : 0;
	};
	const start = median(seen.slice(0, 3).map((s) => s.y));
	const off = sizes.map((s) => {
		const size = s.size - usual(s.kind);
		if (s.kind === null) return { ...s, size };
		// A feed that brings it back to where feeds usually bring it is right, however far that is.
		const others = sizes.filter((o) => o !== s && o.kind !== null).map((o) => o.after);
		const beyond = s.after - median([start, ...others]);
		return { ...s, size: beyond * size > 0 ? Math.sign(size) * Math.min(Math.abs(size), Math.abs(beyond)) : 0 };
	});
	const best = off.reduce<(typeof off)[number] | null>(
		(m, s) => (m && Math.abs(m.size) >= Math.abs(s.size) ? m : s),
		null,
	);
	return best && Math.abs(best.size) > Math.max(0.1, 5 * noise) ? best : null;
}
