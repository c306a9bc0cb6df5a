import type { WalkStop } from './StationList';

/** Where a round goes on: the next stop that is not done; outside of one the next number typed belongs here too. */
export function goesOn(order: readonly string[], station: string, finished: ReadonlySet<string>): string {
	const here = order.indexOf(station);
	const after = [...order.slice(here + 1), ...order.slice(0, here)];
	return after.find((s) => !finished.has(s)) ?? order[(here + 1) % order.length]!;
}

/** The walk Bench is on: a round and its stops in order. */
export interface BenchWalk {
	id: number;
	stops: WalkStop[];
}
