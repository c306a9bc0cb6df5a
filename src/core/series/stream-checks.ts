import { countRest, countStep, isCoarse, restLimit } from '../judge/rests';
import { compareWith, noDrift } from '../judge/second-instrument';
import { fromTable, STANDARDS } from '../probe/standards';
import { QUANTITY, type SeriesQuantity } from '../quantity';
import { numberOf } from './findings';
import { MANNERS } from './manner';
import { noteNewest, type StreamMemory } from './stream-memory';

/**
 * Judges a stream of samples as they come: gross range, out of the water, in the cap or a buffer, flat line, jumps, and steps that
 * stay (IOOS QARTOD manuals: gross range, rate of change, spike, flat line, timing). One pass over plain arrays; what is known of a
 * series is a fixed number of values.
 *
 * Level: follows what is believed with a time constant of a quarter of an hour. Spread: exponentially weighted mean square of the
 * misses, each clipped at three standard deviations, never below what the manner of the quantity says. A sample misses beyond six
 * standard deviations, widened by the square root of the time since the last as a random walk is. What agrees for half an hour
 * with the one that missed first is a new level, and that is told of all its samples. Limits are common practice, no source.
 */
export interface Samples {
	/** Ascending, ms. */
	at: ArrayLike<number>;
	/** Canonical. */
	value: ArrayLike<number>;
	count: number;
}
/** Stretches of time, ascending, as [from, to) one after the other. */
export type Stretches = readonly (readonly [number, number])[];

export interface Surroundings {
	quantity: SeriesQuantity;
	/** When something was poured, cleaned or calibrated here, and for as long as it mixes. */
	disturbed: Stretches;
	/** What a person looked at and said was so. */
	kept: Stretches;
	/** What hands read here with other instruments, and when the probe was put right; ascending. For pH and EC. */
	hands: readonly Beside[];
	/** What the conductivity of the same probe was found to be, for pH: its times and causes, ascending. */
	beside?: { at: ArrayLike<number>; cause: ArrayLike<number>; count: number } | undefined;
}
export interface Judged {
	/** By number (findings), one for each sample. */
	cause: Uint8Array;
	/** Samples before the first of these that are now known to be otherwise: from a time on and before another, where they were found to be `over`. */
	earlier: { from: number; to: number; cause: number; over: number }[];
	/** Holes in the record: the sample before and the sample after. */
	gaps: { from: number; to: number }[];
}

const OUT_OF_RANGE = numberOf('out-of-range');
const SPIKE = numberOf('spike');
const STUCK = numberOf('stuck');
const AIR = numberOf('probe-in-air');
const STORAGE = numberOf('probe-in-storage');
const MIXING = numberOf('mixing');
const ADDITION = numberOf('unlogged-addition');
const CALIBRATION = numberOf('calibration-step');
const CHANGED = numberOf('unexpected-change');
const DRIFT = numberOf('drift');

const MINUTE = 60_000;
const FOLLOWS_MS = 15 * MINUTE;
/** However often it is read, so much of the way is followed at once. */
const FOLLOWS_LEAST = 0.2;
const LIMIT = 6;
const CLIP = 3;
const SPREAD_OF = 20;
/** Before so many were believed nothing is a jump. */
const KNOWN_AFTER = 3;
/** A spike is over within this time. */
const SPIKE_MS = 30 * MINUTE;
const AGREE = { least: 2, most: 6 } as const;
/** In water that is being stirred a new level stands as soon as it is seen this often. */
const MIXED = 3;
/** A hole in the record: this many usual whiles and this long. */
const GAP_TIMES = 6;
const GAP_LEAST_MS = 10 * MINUTE;
/** Wider than this many times the step nothing grows while a sensor is silent. */
const WIDEST = 8;
const AIR_SHARE = 0.08;
const AIR_US_CM = 60;
const WET_US_CM = 300;
const STORAGE_US_CM = 20_000;
const NEAR_PH = 0.12;
const FAR_PH = 0.8;
const BUFFERS = STANDARDS.filter((s) => s.quantity === 'ph').flatMap(({ table }) => {
	const at25 = fromTable(table, 25);
	return at25.ok ? [at25.value] : [];
});
const isBuffer = (ph: number): boolean => BUFFERS.some((b) => Math.abs(ph - b) <= NEAR_PH);

/** Whether a time lies in one of the stretches; asked in ascending order. */
class Within {
	private i = 0;
	constructor(private readonly stretches: Stretches) {}
	has(at: number): boolean {
		const { stretches } = this;
		while (this.i < stretches.length && stretches[this.i]![1] <= at) this.i++;
		return this.i < stretches.length && stretches[this.i]![0] <= at;
	}
}

/** A hand reading beside a sensor; or, without a value, what puts a probe right. */
export interface Beside {
	at: number;
	value: number | null;
	by: string;
}
/** Read this close together it is the same water. */
const SAME_WATER_MS = 15 * MINUTE;

/** Holds what is remembered against a hand reading (tabular CUSUM, judge/second-instrument). */
function besideHand(m: StreamMemory, quantity: SeriesQuantity, { at, value, by }: Beside): void {
	if (quantity !== 'ph' && quantity !== 'ec') return;
	if (value === null) m.drift = null;
	else if (m.at !== null && at - m.at <= SAME_WATER_MS && (m.cause === 0 || m.cause === DRIFT)) {
		m.drift ??= noDrift(at);
		compareWith(m.drift, quantity, at, m.value, value, by);
	}
}

/** What the conductivity beside was found to be at a time; asked in ascending order. */
class Conducts {
	private i = 0;
	constructor(private readonly of: NonNullable<Surroundings['beside']>) {}
	at(time: number, within: number): number {
		const { at, cause, count } = this.of;
		while (this.i + 1 < count && at[this.i + 1]! <= time) this.i++;
		return count > 0 && Math.abs(time - at[this.i]!) <= within ? cause[this.i]! : 0;
	}
}

/** What a new level is, by quantity, where nothing is logged that explains it. */
const newLevel = (quantity: SeriesQuantity): number =>
	quantity === 'ec' || quantity === 'volume' || quantity === 'level'
		? ADDITION
		: quantity === 'ph'
			? CALIBRATION
			: CHANGED;

/**
 * Judges samples that follow what is remembered, and remembers them: in place. Samples are newer than the memory, in order.
 * @returns what each was found to be
 */
export function judgeStream(memory: StreamMemory, samples: Samples, around: Surroundings): Judged {
	const { at, value, count } = samples;
	const { quantity } = around;
	const manner = MANNERS[quantity];
	const [low, high] = QUANTITY[quantity].span;
	const conducts = quantity === 'ec' || quantity === 'substrate_ec';
	const cause = new Uint8Array(count);
	const result: Judged = { cause, earlier: [], gaps: [] };
	const disturbed = new Within(around.disturbed);
	const kept = new Within(around.kept);
	const beside = around.beside && quantity === 'ph' ? new Conducts(around.beside) : null;
	const m = memory;
	const { hands } = around;
	let h = 0;
	let [apart, follows] = [Number.NaN, 1];
	if (m.seen === 0 && m.spread === 0) m.spread = manner.least;
	// What changes with every sample is held here meanwhile, and in no closure: an object that is written to each time is half as fast.
	let { value: before, usualMs: usual, seen, level, spread, cause: lastCause } = m;
	let first = m.at === null;
	let last = m.at ?? 0;
	const [stirs, keeps] = [around.disturbed.length > 0, around.kept.length > 0];
	/** Tells a stretch of samples what they were, here and before. */
	const tell = (from: number, upTo: number, found: number, over: number) => {
		for (let i = upTo; i >= 0 && at[i]! >= from; i--) if (cause[i] === over) cause[i] = found;
		if (from < at[0]!) result.earlier.push({ from, to: at[0]!, cause: found, over });
	};
	for (let i = 0; i < count; i++) {
		const t = at[i]!;
		const v = value[i]!;
		if (h < hands.length && hands[h]!.at <= t) {
			noteNewest(m, first ? null : last, before, usual, seen, level, spread, lastCause);
			while (h < hands.length && hands[h]!.at <= t) besideHand(m, quantity, hands[h++]!);
		}
		const isFirst = first;
		const dt = isFirst ? 0 : t - last;
		if (!isFirst && usual > 0 && dt >= GAP_TIMES * usual && dt >= GAP_LEAST_MS) result.gaps.push({ from: last, to: t });
		let found = 0;
		if (!(v >= low && v <= high)) found = OUT_OF_RANGE;
		const was = before;
		const usualBefore = usual;
		const same = !isFirst && v === was;
		if (!isFirst) {
			const whole = Math.min(dt, 3 * usual || dt);
			usual = usual === 0 ? dt : usual + 0.1 * (whole - usual);
			if (manner.moves) {
				// What moves has no rest to be held against anything.
				const rests = same || m.rests.since !== null;
				const kind = rests && isCoarse(m.steps) ? 'coarse' : 'fine';
				const limit = rests ? restLimit(m.rests, kind, usualBefore || null, t) : Number.POSITIVE_INFINITY;
				const since = m.rests.since ?? t;
				countRest(m.rests, last, t, same && dt < GAP_TIMES * (usualBefore || dt), limit);
				if (same && t - since >= limit && found === 0) {
					found = STUCK;
					if (last - since < limit && kind === 'fine') tell(since, i - 1, STUCK, 0);
				}
			}
		}
		first = false;
		last = t;
		before = v;
		if (found === OUT_OF_RANGE) {
			cause[i] = found;
			lastCause = found;
			continue;
		}
		const known = seen >= KNOWN_AFTER;
		const holds = keeps && kept.has(t);
		const stirred = stirs && disturbed.has(t);
		if (!holds && conducts) {
			if (known && level > WET_US_CM && v < Math.max(AIR_SHARE * level, AIR_US_CM)) found = AIR;
			else if (quantity === 'ec' && v > STORAGE_US_CM && (!known || level < STORAGE_US_CM / 3)) found = STORAGE;
		} else if (!holds && beside) {
			const there = beside.at(t, Math.max(2 * usual, MINUTE));
			if (there === AIR || there === STORAGE) found = there;
		}
		if (found === AIR || found === STORAGE) {
			cause[i] = found;
			lastCause = found;
			continue;
		}
		const size = manner.share ? Math.max(Math.abs(level), manner.floor) : 1;
		const miss = (v - level) / size;
		const wide = Math.max(spread, manner.least);
		const walk = usualBefore > 0 && dt > usualBefore ? Math.min(Math.sqrt(dt / usualBefore), WIDEST) : 1;
		const limit = LIMIT * wide * walk;
		if (!known || holds || !manner.steady || Math.abs(miss) <= limit) {
			// Most samples come as far apart as those before them.
			if (dt !== apart) {
				apart = dt;
				follows = Math.max(1 - Math.exp(-dt / FOLLOWS_MS), FOLLOWS_LEAST);
			}
			const gain = known && !holds ? follows : 1;
			level += gain * (v - level);
			if (known) {
				const clipped = Math.min(Math.abs(miss) / walk, CLIP * wide);
				const square = spread * spread;
				spread = Math.sqrt(Math.max(square + (clipped * clipped - square) / SPREAD_OF, 0));
			}
			if (!isFirst && !same && found === 0 && lastCause === 0) countStep(m.steps, was, v);
			seen++;
			if (m.pending !== null) m.pending = null;
			if (found === 0 && m.drift?.alarmed && !holds) found = DRIFT;
			if (found !== 0) cause[i] = found;
			lastCause = found;
			continue;
		}
		// It jumped: a spike until it has stayed.
		const near = limit * size * 0.5;
		const p = m.pending;
		if (p && Math.abs(v - p.level) <= near) {
			p.agreed++;
			p.level += (v - p.level) / 2;
		} else m.pending = { since: t, level: v, agreed: 1 };
		const pending = m.pending!;
		const inBuffer = quantity === 'ph' && pending.agreed >= 2 && Math.abs(miss) > FAR_PH && !stirred && isBuffer(v);
		found = stirred ? MIXING : inBuffer ? STORAGE : found || SPIKE;
		cause[i] = found;
		if (inBuffer && pending.agreed === 2) tell(pending.since, i - 1, STORAGE, SPIKE);
		const needed = stirred
			? MIXED
			: Math.min(Math.max(Math.ceil(SPIKE_MS / Math.max(usual, 1)), AGREE.least), AGREE.most);
		if (
			!inBuffer &&
			pending.agreed >= needed &&
			t - pending.since >= (stirred ? 0 : Math.min(SPIKE_MS, needed * usual) - usual)
		) {
			if (!stirred) {
				const named = newLevel(quantity);
				cause[i] = named;
				tell(pending.since, i, named, SPIKE);
			}
			level = pending.level;
			m.pending = null;
			seen++;
		}
		lastCause = cause[i]!;
	}
	noteNewest(m, first ? null : last, before, usual, seen, level, spread, lastCause);
	return result;
}
