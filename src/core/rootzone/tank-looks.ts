import type { BelievedReading } from '../reading/believed';
import type { Stretch, TankLook } from './uptake';

/** What was done to a tank: filled up by so many litres, changed, or something else that moves its EC. */
export interface TankAct {
	at: number;
	kind: 'filled' | 'changed' | 'other';
	/** Of a filling, where somebody wrote them down. */
	litres: number | null;
}
/** Litres by the dipstick. */
export interface LevelLook {
	at: number;
	litres: number;
}
/** How the litres of stretches are known. */
export type Known = 'level' | 'mark';

const HOUR = 3_600_000;
/** A level is of the time of a reading within so long. */
const SAME_MS = 3 * HOUR;
/** A dipstick is read to so much of a full tank, and filled to the mark as well; an amount to 3 % (common practice, no source). */
const STICK = 0.005;
const MARK = 0.015;
const AMOUNT = 0.03;
/** Readings sooner after an addition than this are of water that is not mixed yet. */
const MIXED_MS = 0.5 * HOUR;
/** Closer together nothing to speak of was drunk between them. */
const APART_MS = 6 * HOUR;
/** Of what a meter shows so much is the display and the hand alone. */
const ALONE = 0.01;

/**
 * Stretches between what was done to a tank, each by its first and last reading. Litres come from the dipstick where it was read; else, where
 * the tank is filled up each time and the amount written down, from that it was filled to the same mark.
 * @param readings of one quantity, oldest first
 * @param fullL what it holds when full
 */
export function tankStretches(
	readings: readonly BelievedReading[],
	levels: readonly LevelLook[],
	acts: readonly TankAct[],
	fullL: number | null,
): { stretches: Stretch[]; known: Known | null } {
	const byLevel = between(readings, acts, (first, last) => {
		const [a, b] = [levelAt(levels, first.at), levelAt(levels, last.at)];
		const u = STICK * (fullL ?? Math.max(...levels.map((l) => l.litres), 0));
		return a === null || b === null ? null : [look(first, a, u), look(last, b, u)];
	});
	if (byLevel.length > 0) return { stretches: byLevel, known: 'level' };
	const byMark = between(readings, acts, (first, last, before, after) => {
		if (fullL === null || !before || before.kind === 'other' || after?.kind !== 'filled' || after.litres === null)
			return null;
		const days = after.at - before.at;
		const gone = (at: number) => (after.litres! * (at - before.at)) / days;
		const at = (r: BelievedReading) =>
			look(r, fullL - gone(r.at), Math.hypot(MARK * fullL, AMOUNT * gone(r.at)) / Math.SQRT2);
		return [at(first), at(last)];
	});
	return { stretches: byMark, known: byMark.length > 0 ? 'mark' : null };
}

function between(
	readings: readonly BelievedReading[],
	acts: readonly TankAct[],
	looks: (
		first: BelievedReading,
		last: BelievedReading,
		before: TankAct | undefined,
		after: TankAct | undefined,
	) => [TankLook, TankLook] | null,
): Stretch[] {
	const sorted = [...acts].sort((a, b) => a.at - b.at);
	const ends: (TankAct | undefined)[] = [undefined, ...sorted, undefined];
	return ends.slice(1).flatMap((after, i) => {
		const before = ends[i];
		const inside = readings.filter(
			(r) =>
				r.at > (before ? before.at + MIXED_MS : Number.NEGATIVE_INFINITY) &&
				r.at < (after?.at ?? Number.POSITIVE_INFINITY),
		);
		const [first, last] = [inside[0], inside.at(-1)];
		if (!first || !last || last.at - first.at < APART_MS) return [];
		const found = looks(first, last, before, after);
		return found ? [{ first: found[0], last: found[1] }] : [];
	});
}

function levelAt(levels: readonly LevelLook[], at: number): number | null {
	const near = levels.filter((l) => Math.abs(l.at - at) <= SAME_MS);
	if (near.length === 0) return null;
	return near.reduce((best, l) => (Math.abs(l.at - at) < Math.abs(best.at - at) ? l : best)).litres;
}

const look = (r: BelievedReading, litres: number, litresU: number): TankLook => ({
	at: r.at,
	value: r.value,
	u: ALONE * r.value,
	meterShare: Math.sqrt(Math.max(0, (r.u / Math.max(r.value, 1e-9)) ** 2 - ALONE ** 2)),
	litres,
	litresU,
});
