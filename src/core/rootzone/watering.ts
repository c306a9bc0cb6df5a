import { DRAIN_LIMITS, type DrainPreset } from './drain-pair';
import { readRunTimes, runsOf, type SeasonShare, seasonShare } from './schedule';
import { cupsVolume, typedVolume, type Volume } from './volume';

/** How a system is watered, as far as somebody said. */
export interface Watering {
	/** Drippers of all its plants. */
	drippers?: number | undefined;
	/** Bags, slabs or pots that drain into trays of their own. */
	bags?: number | undefined;
	/** mL that one dripper gives in a minute. */
	dripperMlMin?: number | undefined;
	plants?: number | undefined;
	runsADay?: number | undefined;
	preset?: DrainPreset | undefined;
	/** Own limits, µS/cm over the feed. */
	watchUsCm?: number | undefined;
	actUsCm?: number | undefined;
	/** Percent of what is given that is to run off, from and to; by season where that is said. */
	drainPct?: [number, number] | undefined;
	drainSeasons?: SeasonShare[] | undefined;
	/** Minutes of one run. */
	minutes?: number | undefined;
	/** When it runs, as readRunTimes understands it. */
	runTimes?: string | undefined;
	/** Litres of solution that one bag, slab or pot holds. */
	heldL?: number | undefined;
}
/** A run as it was measured: typed volumes, or cups. */
export interface MeasuredRun {
	minutes: number | null;
	appliedL: number | null;
	appliedCups: readonly number[];
	drainedL: number | null;
	drainedCups: readonly number[];
}

/** Watered so often a day a medium is judged more tightly where nobody said otherwise (common practice, no source). */
const OFTEN = 4;
/** What a dripper gives by its rating and a clock, where nobody caught it: within a tenth (common practice, no source). */
const BY_CLOCK = 0.1;
const USUAL_DRAIN_PCT: readonly [number, number] = [15, 30];

/** What holds next to nothing follows its feed within the day; what holds salts itself stands above it (common practice, no source). */
const FOLLOWS_FEED =
	/\b(stone|rock|glass) ?wool\b|\bwool\b|\bperlite\b|\bpebbles?\b|\bclay balls?\b|\bslabs?\b|\bgravel\b|\bsand\b/i;
const HOLDS_SALT = /\bpeat\b|\bbark\b|\bcompost\b|\bsoil\b|\bpotting\b/i;

/** How a drain is judged in a medium that is watered so often, where nobody said it. */
function presetOf(w: Watering, medium: string): DrainPreset {
	const often = (runsADay(w) ?? 0) >= OFTEN;
	if (FOLLOWS_FEED.test(medium)) return often ? 'tight' : 'usual';
	if (HOLDS_SALT.test(medium)) return often ? 'usual' : 'loose';
	return often && (w.bags ?? 0) > 0 ? 'tight' : 'usual';
}

/**
 * The limits that a system’s drain is held against: its own, else those of its preset, else by its medium and how often it is watered.
 * @param medium in the grower’s words, as `coir bags`
 * @example limitsOf({ runsADay: 8, bags: 20 }, 'coir bags').preset // 'tight'
 */
export function limitsOf(w: Watering, medium: string): { preset: DrainPreset; watchUsCm: number; actUsCm: number } {
	const preset = w.preset ?? presetOf(w, medium);
	const { watchUsCm, actUsCm } = DRAIN_LIMITS[preset];
	return { preset, watchUsCm: w.watchUsCm ?? watchUsCm, actUsCm: w.actUsCm ?? actUsCm };
}

/**
 * The share of drain that is aimed at on a day, percent; common practice where nobody said (15 to 30, no source).
 * @param day as `2026-08-14`
 * @example drainTarget({}, '2026-08-14') // [15, 30]
 */
export const drainTarget = (w: Watering, day: string): readonly [number, number] =>
	seasonShare(w.drainSeasons ?? [], day) ?? w.drainPct ?? USUAL_DRAIN_PCT;

/**
 * How many runs a day: by its times, else as somebody said; null where neither is known.
 * @example runsADay({ runTimes: '7:00 12:00 17:00', runsADay: 9 }) // 3
 */
export function runsADay(w: Watering): number | null {
	const times = w.runTimes ? readRunTimes(w.runTimes) : null;
	return (times && runsOf(times)) ?? w.runsADay ?? null;
}

/**
 * Volumes of a run of which clearly more ran off than was given: no matter of how a cup is read. Null where it is possible.
 * @example drainsMoreThanGiven({ minutes: null, appliedL: 2, appliedCups: [], drainedL: 3, drainedCups: [] }, {}).drained.litres // 3
 */
export function drainsMoreThanGiven(run: MeasuredRun, w: Watering): { applied: Volume; drained: Volume } | null {
	const { applied, drained } = runVolumes(run, w);
	if (!applied || !drained) return null;
	return drained.litres - applied.litres > 3 * Math.hypot(applied.u, drained.u) ? { applied, drained } : null;
}

/**
 * What a run gave and what ran off, in all; null for what was not measured. Typed volumes come first, then cups, then the clock.
 * @example runVolumes({ minutes: 6, appliedL: null, appliedCups: [], drainedL: 1.5, drainedCups: [] }, { drippers: 60, dripperMlMin: 17 }).applied.litres // 6.12
 */
export function runVolumes(run: MeasuredRun, w: Watering): { applied: Volume | null; drained: Volume | null } {
	const byClock =
		run.minutes !== null && w.drippers && w.dripperMlMin ? (run.minutes * w.drippers * w.dripperMlMin) / 1000 : null;
	return {
		applied:
			run.appliedL !== null
				? typedVolume(run.appliedL)
				: (cupsVolume(run.appliedCups, w.drippers ?? 0) ??
					(byClock === null ? null : { litres: byClock, u: BY_CLOCK * byClock })),
		drained: run.drainedL !== null ? typedVolume(run.drainedL) : cupsVolume(run.drainedCups, w.bags ?? 0),
	};
}
