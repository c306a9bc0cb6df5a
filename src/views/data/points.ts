import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import type { SeriesPoint } from '@/core/series/point';

type Answered = Got<Contract['GET /stations/:code/series']>;
const NONE: readonly SeriesPoint[] = [];
const understood = new WeakMap<Answered, readonly SeriesPoint[]>();

/** The points of an answer as charts take them, what was put right in its place; of one answer the same list each time. */
export function pointsOf(answer: Answered | undefined): readonly SeriesPoint[] {
	if (!answer) return NONE;
	const before = understood.get(answer);
	if (before) return before;
	const points = answer.points.map(({ at, worst_flag, least, greatest, restated, believed, ...p }) => ({
		...p,
		at: Date.parse(at),
		low: restated !== null && p.count === 1 ? restated : least,
		high: restated !== null && p.count === 1 ? restated : greatest,
		flag: worst_flag,
		value: restated ?? p.value,
		was: restated === null ? null : p.value,
		believed,
	}));
	understood.set(answer, points);
	return points;
}
