import { Refusal } from './refusal';

const YEAR_MS = 366 * 86_400_000;
export const AHEAD = 'lies more than a year ahead: is the year right?';

/** A clock may be wrong, which the checks say; a year that is still to come is a slip of whoever wrote it. */
export const isFarAhead = (at: number, now: number): boolean => at > now + YEAR_MS;

/** @throws Refusal where a time is more than a year ahead */
export function requireTime(at: number, now: number, path: string): void {
	if (isFarAhead(at, now)) throw new Refusal('bad-time', [{ path, message: `The time ${AHEAD}` }]);
}
