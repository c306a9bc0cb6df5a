/**
 * Fouling: what a cleaning took away, where the same water was read before it and after. It grew in a straight line since the last
 * adjustment, which would have taken it up, or the last cleaning. A check in between changed nothing, but what it found holds the
 * fouling grown until then (USGS TM 1–D3: fouling and drift are told apart and put right one after the other).
 */
export interface Cleaning {
	at: number;
	kind: string;
	/** The same water read before and after, pH or µS/cm. */
	before?: number | null | undefined;
	after?: number | null | undefined;
}

/** From when to when something grew on the probe, and how much in all: pH, or share of the reading for EC. */
export interface FoulingSpan {
	from: number;
	to: number;
	whole: number;
}

/** A cleaning with the same water read before it and after tells what it took away; every other one is a jump of unknown size. */
export const toldOfFouling = (c: Cleaning): boolean => c.before != null && c.after != null;

/**
 * What grew before each cleaning that was read before and after.
 * @param adjusted times of adjustments, ascending
 */
export function foulingSpans(
	quantity: 'ph' | 'ec',
	jumps: readonly Cleaning[],
	adjusted: readonly number[],
): FoulingSpan[] {
	return jumps.filter(toldOfFouling).flatMap((c) => {
		const from = Math.max(
			Number.NEGATIVE_INFINITY,
			...jumps.filter((j) => j.at < c.at && (j.kind === 'cleaned' || j.kind === 'new_probe')).map((j) => j.at),
			...adjusted.filter((at) => at < c.at),
		);
		const whole = quantity === 'ph' ? c.before! - c.after! : c.before! > 0 ? (c.before! - c.after!) / c.before! : 0;
		return Number.isFinite(from) ? [{ from, to: c.at, whole }] : [];
	});
}

/** Fouling at a time: pH, or share of the reading. A reading of the very time of the cleaning is one of before it. */
export function foulingAt(spans: readonly FoulingSpan[], at: number): number {
	let sum = 0;
	for (const s of spans) if (at > s.from && at <= s.to) sum += (s.whole * (at - s.from)) / (s.to - s.from);
	return sum;
}
