import { QUANTITIES, type Quantity } from '../quantity';
import { wallTime } from '../quantity/time';

/** One line of the sheet that is carried along the line and copied in afterwards. */
export interface SheetRow {
	station: string;
	name: string;
	due: Quantity[];
	/** Newest values, canonical. */
	last: Partial<Record<Quantity, number>>;
	lastAt: number | null;
}

/** What a sheet has a column for: what is dipped everywhere, and what is measured somewhere along the line beside it. */
export const sheetColumns = (measured: readonly (readonly Quantity[])[]): Quantity[] => {
	const asked = new Set(measured.flat());
	return QUANTITIES.filter((q) => q === 'ph' || q === 'ec' || q === 'temp' || (q !== 'tds' && asked.has(q)));
};

/** When a round is walked if nobody says so. Common practice, no source. */
const ROUND_BEGINS = '07:30';

/**
 * The day of the site, `yyyy-mm-dd`, of an instant in milliseconds since 1970, UTC.
 * @example sheetDay(Date.UTC(2026, 6, 1, 22, 15), 'Europe/Amsterdam') // '2026-07-02'
 */
export const sheetDay = (now: number, zone: string): string => new Date(wallTime(now, zone)).toISOString().slice(0, 10);

/**
 * The wall clock of the first line of a sheet that says none, `hh:mm`: when a round begins, or the present minute on a day on
 * which that hour is still to come.
 * @example sheetTime('2026-07-02', Date.UTC(2026, 6, 1, 22, 15), 'Europe/Amsterdam') // '00:15'
 * @example sheetTime('2026-07-01', Date.UTC(2026, 6, 1, 22, 15), 'Europe/Amsterdam') // '07:30'
 */
export function sheetTime(date: string, now: number, zone: string): string {
	const clock = new Date(wallTime(now, zone)).toISOString().slice(11, 16);
	return date === sheetDay(now, zone) && clock < ROUND_BEGINS ? clock : ROUND_BEGINS;
}
