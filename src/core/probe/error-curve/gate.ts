import type { Told } from './slope';

/**
 * How much a pair is believed. One that misses by far waits: if the next of the same probes misses alike, it was no slip.
 */
/** What there is to learn from, in order of time. */
export type Happening =
	/** Known anew: what it deviates by at a lever, its slope too where that is told, and how it wanders from now on. */
	| { at: number; kind: 'set'; probe: number; variance: number; told: Told; wander: number }
	/** What standards show of it at a lever, and of its slope where two of them do. */
	| { at: number; kind: 'standard'; probe: number; value: number; variance: number; lever: number; slope: Seen | null }
	| { at: number; kind: 'pair'; a: Dipped; b: Dipped; value: number; noise: number; id: number };

/** What something was seen to be, and with what variance. */
export interface Seen {
	value: number;
	variance: number;
}
/** A probe, and how far from the usual value it was dipped. */
export interface Dipped {
	probe: number;
	lever: number;
}

/** Misses beyond this many standard deviations count the less the further they are. */
export const HUBER = 2;
/** Beyond this many they are remembered: another of their kind is no chance. */
export const SUSPECT = 2.5;
/** And beyond this many they count for nothing until then. */
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
	/** Who of the two may have moved: not one that a visit showed to be right meanwhile. */
	accused: readonly number[];
}

/** Whether a pair is of the same two probes as one that waits. */
export const same = (w: { a: number; b: number }, { a, b }: Happening & { kind: 'pair' }): boolean =>
	(w.a === a.probe && w.b === b.probe) || (w.a === b.probe && w.b === a.probe);

/** Whether a pair says of a probe what one that waits said of it: alike in direction and, as far as noise lets it, in size. */
export function consistent(w: Waiting, h: Happening & { kind: 'pair' }, miss: number): boolean {
	const room = FAR * Math.hypot(w.noise, h.noise) + 0.5 * Math.abs(w.miss);
	for (const p of w.accused) {
		if (p !== h.a.probe && p !== h.b.probe) continue;
		const then = p === w.a ? w.miss : -w.miss;
		const now = p === h.a.probe ? miss : -miss;
		if (Math.sign(then) === Math.sign(now) && Math.abs(then - now) <= room) return true;
	}
	return false;
}

/** What waits once a visit has shown of a probe whether it had moved: if not, it was the other; if so, it was this one, and that is known now. */
export const afterVisit = (waiting: readonly Waiting[], probe: number, wasRight: boolean): readonly Waiting[] =>
	waiting.some((w) => w.a === probe || w.b === probe)
		? waiting.flatMap((w) => {
				if (w.a !== probe && w.b !== probe) return [w];
				const accused = w.accused.filter((p) => p !== probe);
				return wasRight && accused.length > 0 ? [{ ...w, accused }] : [];
			})
		: waiting;
