import { startOfDay, wallTime } from '../quantity/time';

const DAY = 86_400_000;

/**
 * The beginning of the day that a time lies in, by the calendar of a zone, ms; days that were asked for are remembered.
 * @example dayIn('Europe/Amsterdam')(Date.UTC(2026, 6, 2, 12)) // Date.UTC(2026, 6, 1, 22)
 */
export function dayIn(zone: string): (at: number) => number {
	const known = new Map<number, number>();
	return (at) => {
		const day = Math.floor(wallTime(at, zone) / DAY);
		let begins = known.get(day);
		if (begins === undefined) {
			begins = startOfDay(new Date(day * DAY).toISOString().slice(0, 10), zone) ?? day * DAY;
			known.set(day, begins);
		}
		return begins;
	};
}
