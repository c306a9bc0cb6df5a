import type { System } from '@/contract/site';
import { decimal } from '@/core/quantity';
import { readSeasons, showSeasons } from '@/core/rootzone/schedule';
import { readNumber, showNumber } from './numbers';

type Watering = NonNullable<System['watering']>;

/** The fields of a system's form, as they are typed. */
export const systemValues = (y: System) => ({
	name: y.name ?? y.code,
	kind: y.kind as string,
	volume: showNumber(y.volume_l),
	medium: y.medium ?? '',
	crop: y.crop ?? '',
	stage: y.stage ?? '',
	aeration: y.aeration ?? '',
	plants: showNumber(y.watering?.plants),
	drippers: showNumber(y.watering?.drippers),
	bags: showNumber(y.watering?.bags),
	dripper_ml_min: showNumber(y.watering?.dripper_ml_min),
	runs_a_day: showNumber(y.watering?.runs_a_day),
	minutes: showNumber(y.watering?.minutes),
	run_times: y.watering?.run_times ?? '',
	held_l: showNumber(y.watering?.held_l),
	preset: y.watering?.preset ?? '',
	drain_pct: y.watering?.drain_seasons
		? showSeasons(y.watering.drain_seasons)
		: (y.watering?.drain_pct?.join(' to ') ?? ''),
});
export type SystemValues = ReturnType<typeof systemValues>;

/** Two percentages with the smaller first, as `15 to 30`. */
export function readShare(text: string): [number, number] | undefined {
	const m = /^(\d{1,2})\D+(\d{1,2})\s*%?$/.exec(text.trim());
	return m && Number(m[1]) < Number(m[2]) ? [Number(m[1]), Number(m[2])] : undefined;
}

/** A whole number above nothing, or a number above nothing. */
export const isCount = (text: string) => Number.isInteger(decimal(text.trim()) ?? 0.5) && decimal(text.trim())! > 0;
export const isPositive = (text: string) => (decimal(text.trim()) ?? 0) > 0;

/** Where what is sent stands in the form, where it is not called the same. */
export const SYSTEM_FIELDS = {
	volume_l: 'volume',
	'watering.plants': 'plants',
	'watering.drippers': 'drippers',
	'watering.bags': 'bags',
	'watering.dripper_ml_min': 'dripper_ml_min',
	'watering.runs_a_day': 'runs_a_day',
	'watering.minutes': 'minutes',
	'watering.run_times': 'run_times',
	'watering.held_l': 'held_l',
	'watering.drain_pct': 'drain_pct',
} as const;

/** The system as its checked form says it; what the form does not show stays. */
export function readSystem(y: System, v: SystemValues): System {
	const watering: Watering = Object.fromEntries(
		Object.entries({
			...y.watering,
			plants: readNumber(v.plants) ?? undefined,
			drippers: readNumber(v.drippers) ?? undefined,
			bags: readNumber(v.bags) ?? undefined,
			dripper_ml_min: readNumber(v.dripper_ml_min) ?? undefined,
			runs_a_day: readNumber(v.runs_a_day) ?? undefined,
			minutes: readNumber(v.minutes) ?? undefined,
			run_times: v.run_times.trim() || undefined,
			held_l: readNumber(v.held_l) ?? undefined,
			preset: v.preset || undefined,
			drain_pct: readShare(v.drain_pct),
			drain_seasons: v.drain_pct.trim() === '' ? undefined : (readSeasons(v.drain_pct) ?? undefined),
		}).filter(([, value]) => value !== undefined),
	);
	return {
		...y,
		name: v.name.trim() || y.name || y.code,
		kind: v.kind as System['kind'],
		volume_l: readNumber(v.volume),
		medium: v.medium,
		crop: v.crop,
		stage: v.stage,
		aeration: (v.aeration || null) as System['aeration'],
		watering: Object.keys(watering).length === 0 ? null : watering,
	};
}
