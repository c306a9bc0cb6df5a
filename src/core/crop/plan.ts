import { CROPS, SEEDLING_SHARE } from './presets';

/**
 * The stages of a system over its season, each with its days and targets. Days are calendar days of the site, as 2026-07-14. A stage begins
 * when somebody says so; until then it is planned, and counted from the stage before.
 */
export interface PlanStage {
	name: string;
	/** How long it is meant to last. */
	days: number;
	ecUsCm: readonly [low: number, high: number];
	ph: readonly [low: number, high: number];
	/** The day on which it began; null while it is planned, or where it was passed over. */
	begun: string | null;
}
/** A stage with the days that it takes or took. */
export interface StageSpan {
	index: number;
	from: string;
	/** The day after its last; null for the last stage. */
	until: string | null;
	begun: boolean;
}
export interface PlanNow {
	/** The stage that was begun last; null before the first. */
	current: number | null;
	/** The next one, with the day it is planned for; null after the last. */
	next: { index: number; on: string; inDays: number } | null;
}

const DAY = 86_400_000;
const at = (day: string): number => Date.parse(`${day}T00:00:00Z`);

/**
 * A day so many days later.
 * @example daysLater('2026-02-27', 3) // '2026-03-02'
 */
export const daysLater = (day: string, days: number): string =>
	new Date(at(day) + Math.round(days) * DAY).toISOString().slice(0, 10);
const daysBetween = (from: string, to: string): number => Math.round((at(to) - at(from)) / DAY);

/** The stages that were or will be, one after the other; those that were passed over are left out. */
export function planSpans(stages: readonly PlanStage[], today: string): StageSpan[] {
	const current = currentOf(stages);
	const spans: StageSpan[] = [];
	let open = today;
	for (const [index, s] of stages.entries()) {
		if (s.begun === null && index < current) continue;
		const begun = s.begun !== null;
		// Nothing that has not begun begins in the past.
		const from = s.begun ?? (open < today ? today : open);
		const last = spans.at(-1);
		if (last) last.until = from;
		spans.push({ index, from, until: null, begun });
		open = daysLater(from, s.days);
	}
	return spans;
}

const currentOf = (stages: readonly PlanStage[]): number => stages.findLastIndex((s) => s.begun !== null);

/** Where a plan stands today. A next day in the past is due: it is counted in days below nothing. */
export function planNow(stages: readonly PlanStage[], today: string): PlanNow {
	const current = currentOf(stages);
	if (current < 0) return { current: null, next: stages.length > 0 ? { index: 0, on: today, inDays: 0 } : null };
	const on = daysLater(stages[current]!.begun!, stages[current]!.days);
	return {
		current,
		next: current + 1 < stages.length ? { index: current + 1, on, inDays: daysBetween(today, on) } : null,
	};
}

/**
 * The plan once a stage begins on a day: later ones are planned again, one that began on that day or later is no longer begun.
 * @returns null where there is no such stage
 */
export function beginStage(stages: readonly PlanStage[], index: number, on: string): PlanStage[] | null {
	if (!stages[index]) return null;
	return stages.map((s, i) => {
		if (i === index) return { ...s, begun: on };
		if (i > index || (s.begun !== null && s.begun >= on)) return { ...s, begun: null };
		return s;
	});
}

/** Stages of a crop to start from, with how its feed is strengthened: lengths and shares common practice, no source. */
type Preset = readonly (readonly [name: string, days: number, share: readonly [low: number, high: number]])[];
const LEAFY: Preset = [
	['seedling', 14, [SEEDLING_SHARE, SEEDLING_SHARE]],
	['growing', 28, [1, 1]],
];
const FRUITING: Preset = [
	['seedling', 28, [SEEDLING_SHARE, SEEDLING_SHARE]],
	['growing', 35, [1, 0.85]],
	['flowering', 21, [1.1, 0.95]],
	['fruiting', 90, [1.15, 1]],
];
const OF_FRUIT: readonly string[] = ['strawberry', 'cucumber', 'tomato', 'pepper'];

/**
 * The stages of a crop to start from, none begun. Its ranges are those of the crop (presets.ts): seedlings take about half; as fruit sets
 * the lower end rises. All of it is meant to be changed.
 * @example stagesFor('lettuce').map((s) => s.ecUsCm[1]) // [900, 1800]
 */
export function stagesFor(crop: string): PlanStage[] {
	const preset = CROPS.find((c) => c.crop === crop) ?? CROPS.at(-1)!;
	const [low, high] = preset.ecUsCm;
	return (OF_FRUIT.includes(crop) ? FRUITING : LEAFY).map(([name, days, [l, h]]) => ({
		name,
		days,
		ecUsCm: [10 * Math.round((low * l) / 10), 10 * Math.round((high * h) / 10)],
		ph: [...preset.ph],
		begun: null,
	}));
}

/** Easing before harvest: water alone for some days. A habit that is argued about; offered, never taken for granted. */
export const EASING: PlanStage = { name: 'easing', days: 7, ecUsCm: [0, 500], ph: [5.5, 6.5], begun: null };
