/**
 * How much a pair is believed. One that misses by far waits: if the next of the same probes misses alike, it was no slip.
 */
/** What there is to learn from, in order of time. */
export type Happening =
	| { at: number; kind: 'set'; probe: number; variance: number; wander: number }
	| { at: number; kind: 'standard'; probe: number; value: number; variance: number }
	| { at: number; kind: 'pair'; a: number; b: number; value: number; noise: number; id: number };

/** Misses beyond this many standard deviations count the less the further they are. */
export const HUBER = 2;
/** And beyond this many they wait for another of their kind. */
export const FAR = 3.5;
/** As often as a probe is let loose at one time: what misses by more than that is no error of a probe. */
export const MOST_LOOSENED = 12;

/** A pair that missed by far, and waits for another to say the same. */
export interface Waiting {
	step: number;
	a: number;
	b: number;
	miss: number;
	noise: number;
}

/** Whether a pair is of the same two probes as one that waits. */
export const same = (w: { a: number; b: number }, h: { a: number; b: number }): boolean =>
	(w.a === h.a && w.b === h.b) || (w.a === h.b && w.b === h.a);

/** Whether a pair says of a probe what one that waits said of it: alike in direction and, as far as noise lets it, in size. */
export function consistent(w: Waiting, h: Happening & { kind: 'pair' }, miss: number): boolean {
	const room = FAR * Math.hypot(w.noise, h.noise) + 0.5 * Math.abs(w.miss);
	for (const p of [w.a, w.b]) {
		if (p !== h.a && p !== h.b) continue;
		const then = p === w.a ? w.miss : -w.miss;
		const now = p === h.a ? miss : -miss;
		if (Math.sign(then) === Math.sign(now) && Math.abs(then - now) <= room) return true;
	}
	return false;
}
