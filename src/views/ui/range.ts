import { decimal } from '@/core/quantity';

/** A target range as it is typed, in another unit by a factor; empty for none. */
export const showRange = (r: [number, number] | undefined, factor: number): string =>
	r ? `${r[0] / factor} to ${r[1] / factor}` : '';

/** The two ends of a range as they are typed; more or fewer where it is none. */
export const rangeEnds = (text: string): string[] => text.split(/\s*(?:to|–|-|\.\.|;)\s*/).map((t) => t.trim());

/**
 * A typed range; undefined where nothing stands there, null where it is none.
 * @example readRange('5,5 to 6,5', 1) // [5.5, 6.5]
 */
export function readRange(text: string, factor: number): [number, number] | undefined | null {
	if (text.trim() === '') return undefined;
	const ends = rangeEnds(text).map((t) => decimal(t));
	if (ends.length !== 2 || ends[0] === undefined || ends[1] === undefined || !(ends[0] < ends[1])) return null;
	return [ends[0] * factor, ends[1] * factor];
}
