/** A seeded source of chance: the same seed gives the same world on every machine (mulberry32). */
export interface Random {
	/** Uniform in [0, 1). */
	next(): number;
	/** Normal with mean 0 and standard deviation 1 (Box–Muller). */
	normal(): number;
	between(low: number, high: number): number;
	chance(p: number): boolean;
	pick<T>(list: readonly T[]): T;
}

export function seeded(seed: number): Random {
	let state = seed >>> 0;
	const next = (): number => {
		state = (state + 0x6d2b79f5) >>> 0;
		let t = state;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
	return {
		next,
		normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
		between: (low, high) => low + (high - low) * next(),
		chance: (p) => next() < p,
		pick: (list) => list[Math.floor(next() * list.length)]!,
	};
}
