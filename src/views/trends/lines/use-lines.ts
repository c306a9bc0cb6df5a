import { useMemo } from 'react';
import { formatTime } from '@/core/quantity/time';
import type { SeriesPoint } from '@/core/series/point';
import { pointsOf } from '../../data/points';
import { useAskedAll } from '../../data/queries';
import type { Line } from './line';
import type { Span } from './use-span';

/** A line with what is known of it in the time that is looked at. */
export interface DrawnLine extends Line {
	/** What its sensor tells; empty where hands alone read it. */
	sensor: readonly SeriesPoint[];
	hands: readonly SeriesPoint[];
	doubts: readonly { id: number; since: number; until: number; cause: string; decision: string | null }[];
	/** ms between two points of the sensor, as they are drawn. */
	stepMs: number;
}

/** Fifty-two weeks: the same day of the week, a year before. */
export const YEAR_MS = 364 * 86_400_000;
const STEPS_MS = { raw: 0, '5min': 300_000, hour: 3_600_000, day: 86_400_000 } as const;
/** All lines together have fewer points than this, so that a year is drawn as fast as a day. */
const POINTS = 1800;
const LEAST_POINTS = 120;

/** Asks for every line, what sensors tell and what hands read. */
export function useLines(
	lines: readonly Line[],
	{ from, to }: Span,
): { drawn: DrawnLine[]; pending: boolean; problem: string } {
	const span = { from: formatTime(from), to: formatTime(to) };
	// One alone has its band beside it.
	const points = Math.max(Math.floor(POINTS / Math.max(lines.length, 2)), LEAST_POINTS);
	const sensors = useAskedAll(
		'GET /stations/:code/series',
		lines.map(({ station, quantity }) => ({
			params: { code: station },
			query: { quantity, of: 'sensor' as const, points, ...span },
		})),
	);
	const hands = useAskedAll(
		'GET /stations/:code/series',
		lines.map(({ station, quantity }) => ({
			params: { code: station },
			query: { quantity, of: 'hands' as const, points, ...span },
		})),
	);
	const answers = [...sensors.map((s) => s.data), ...hands.map((h) => h.data)];
	// biome-ignore lint/correctness/useExhaustiveDependencies: the answers are what changes
	const drawn = useMemo(
		() =>
			lines.map((line, i): DrawnLine => {
				const told = sensors[i]?.data;
				return {
					...line,
					sensor: pointsOf(told),
					hands: pointsOf(hands[i]?.data),
					doubts: (told?.doubts ?? []).map((d) => ({ ...d, since: Date.parse(d.since), until: Date.parse(d.until) })),
					stepMs: Math.max((told?.usual_s ?? 0) * 1000, STEPS_MS[told?.rollup ?? 'raw'], (to - from) / points),
				};
			}),
		[lines, points, ...answers],
	);
	return {
		drawn,
		pending: [...sensors, ...hands].some((a) => a.isPending),
		problem: [...sensors, ...hands].find((a) => a.error)?.error?.message ?? '',
	};
}
