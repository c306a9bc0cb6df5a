/**
 * How many at the beginning of a list have a property that none has after the first without it; by halves.
 * @example countWhile([1, 3, 3, 7], (t) => t <= 3) // 3
 */
export function countWhile<T>(list: readonly T[], holds: (x: T) => boolean): number {
	let low = 0;
	let high = list.length;
	while (low < high) {
		const middle = (low + high) >> 1;
		if (holds(list[middle]!)) low = middle + 1;
		else high = middle;
	}
	return low;
}

/**
 * Those of a list, ascending in time, from a time on and before another.
 * @example within([1, 3, 3, 7], 3, 7, (t) => t) // [3, 3]
 */
export const within = <T>(list: readonly T[], from: number, to: number, timeOf: (x: T) => number): T[] =>
	list.slice(
		countWhile(list, (x) => timeOf(x) < from),
		countWhile(list, (x) => timeOf(x) < to),
	);
