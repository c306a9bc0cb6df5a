import { tzOffset } from '@date-fns/tz';
import type { Quantity } from '../quantity';
import type { StationKind } from '../reading/model';

/** How often a quantity is measured at a station, and whether it is due (common practice; all editable). */
export const RHYTHMS = ['visit', 'daily', 'weekly', 'monthly', 'never'] as const;
export type Rhythm = (typeof RHYTHMS)[number];
export type Rhythms = Partial<Record<Quantity, Rhythm>>;

/** What is measured at a kind of station until somebody says otherwise. pH of pure water is not telling. */
export function usualRhythms(kind: StationKind, fewMinerals: boolean): Rhythms {
	switch (kind) {
		case 'source':
			return fewMinerals
				? { ec: 'monthly', temp: 'monthly' }
				: { ph: 'monthly', ec: 'monthly', temp: 'monthly', alkalinity: 'monthly' };
		case 'blend':
		case 'mix':
			return { ph: 'visit', ec: 'visit', temp: 'visit' };
		case 'reservoir':
			return { ph: 'daily', ec: 'daily', temp: 'daily' };
		case 'root_zone':
		case 'drain':
			return { ph: 'weekly', ec: 'weekly' };
		default:
			return {};
	}
}

/** Below this water has few minerals: salt that leaks from a pH electrode shows in it, so its EC is dipped first (common practice, no source). */
const FEW_MINERALS_US_CM = 100;
/** Whether water of an EC has few minerals; not where nothing is known of it. */
export const hasFewMinerals = (ecUsCm: number | null): boolean => ecUsCm !== null && ecUsCm < FEW_MINERALS_US_CM;

/**
 * What is measured at a station, in the order of its rhythms.
 * @param own its own rhythms; null: the usual of its kind
 */
export const measuredHere = (own: Rhythms | null, kind: StationKind, ecUsCm: number | null): Quantity[] =>
	Object.entries(own ?? usualRhythms(kind, hasFewMinerals(ecUsCm))).flatMap(([q, rhythm]) =>
		rhythm === 'never' ? [] : [q as Quantity],
	);

const DAY = 86_400_000;
/** A visit ends when nothing was read for so long. */
const VISIT_MS = 4 * 3_600_000;
const LENGTH_DAYS: Record<Exclude<Rhythm, 'visit' | 'never'>, number> = { daily: 1, weekly: 7, monthly: 30 };

/** The number of the calendar day in a zone, so that "daily" means each day and not each 24 hours. */
const dayNumber = (at: number, zone: string): number => Math.floor((at + tzOffset(zone, new Date(at)) * 60_000) / DAY);

export type Due =
	| { due: false; inDays: number | null }
	/** `since` in days: 0 when it became due today, null when it was never done. */
	| { due: true; sinceDays: number | null };

/**
 * @param lastAt when it was last done; null for never
 * @param visitFrom when this visit began, where a round is under way
 */
export function dueNow(
	rhythm: Rhythm,
	lastAt: number | null,
	now: number,
	zone: string,
	visitFrom: number | null = null,
): Due {
	if (rhythm === 'never') return { due: false, inDays: null };
	if (lastAt === null) return { due: true, sinceDays: null };
	const days = dayNumber(now, zone) - dayNumber(lastAt, zone);
	if (rhythm === 'visit')
		return lastAt < (visitFrom ?? now - VISIT_MS) ? { due: true, sinceDays: 0 } : { due: false, inDays: 0 };
	const over = days - LENGTH_DAYS[rhythm];
	return over >= 0 ? { due: true, sinceDays: over } : { due: false, inDays: -over };
}
