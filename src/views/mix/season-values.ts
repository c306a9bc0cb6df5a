import type { PlanShown } from '@/contract/plans';
import { decimal } from '@/core/quantity';
import { parseDay } from '@/core/quantity/when';
import type { DisplayUnits, SiteView } from '@/core/reading/site-view';
import type { ReadForm } from '../ui/checked-form';
import { shortDay } from '../ui/format';
import { rangeEnds, readRange } from '../ui/range';
import { ecShown, ecTyped } from './typed';

type Stage = PlanShown['stages'][number];

/** A plan as it is typed. */
export interface SeasonValues {
	stages: { name: string; days: string; ec: string; ph: string; begun: string }[];
}

export const ecRange = ([low, high]: readonly [number, number], units: DisplayUnits): string =>
	`${ecShown(low, units)} to ${ecShown(high, units)}`;
/** A day of the plan as people write it; noon is that day in every zone but two. */
export const dayShown = (day: string, site: Pick<SiteView, 'timezone'>): string =>
	shortDay(Date.parse(`${day}T12:00:00Z`), site.timezone);
export const phRange = ([low, high]: readonly [number, number]): string => `${low} to ${high}`;

export const stageValues = (s: Stage, units: DisplayUnits): SeasonValues['stages'][number] => ({
	name: s.name,
	days: String(s.days),
	ec: ecRange(s.ec_us_cm, units),
	ph: phRange(s.ph),
	begun: s.begun ?? '',
});

/** Where what is sent stands in the form. */
export const seasonField = (path: string): `stages.${number}.${'name' | 'days' | 'ec' | 'ph' | 'begun'}` => {
	const [, index = '0', member = 'name'] = path.split('.');
	const named = member === 'ec_us_cm' ? 'ec' : (member as 'name' | 'days' | 'ph' | 'begun');
	return `stages.${Number(index)}.${named}`;
};

/** What was typed, as it is kept; or the field that cannot be understood. */
export function readSeason(
	plan: { system: string; version: number; stages: readonly Stage[] },
	v: SeasonValues,
	units: DisplayUnits,
	at: { now: number; zone: string },
): ReadForm<SeasonValues> & { body?: { system: string; version: number; stages: Stage[] } } {
	const stages: Stage[] = [];
	for (const [i, s] of v.stages.entries()) {
		const no = (field: 'days' | 'ec' | 'ph' | 'begun', message: string) =>
			({ ok: false, field: `stages.${i}.${field}`, message }) as const;
		const days = decimal(s.days.trim());
		if (days === undefined) return no('days', 'Write how many days.');
		// What nobody touched stays as it was, however it is shown.
		const ec =
			plan.stages.find((x) => ecRange(x.ec_us_cm, units) === s.ec)?.ec_us_cm ??
			rangeEnds(s.ec).map((x) => ecTyped(x, units));
		if (ec.length !== 2 || ec[0] === undefined || ec[1] === undefined)
			return no('ec', `Write a range, as ${ecRange([1000, 1600], units)}.`);
		const ph = readRange(s.ph, 1);
		if (!ph) return no('ph', 'Write a range, as 5.5 to 6.2.');
		const begun = s.begun.trim() === '' ? null : parseDay(s.begun.trim(), at.now, at.zone);
		if (begun === null && s.begun.trim() !== '') return no('begun', 'Write a day: 14 Jul, yesterday, 2026-07-14.');
		stages.push({ name: s.name.trim(), days, ec_us_cm: [ec[0], ec[1]], ph, begun });
	}
	return { ok: true, body: { system: plan.system, version: plan.version, stages } };
}
