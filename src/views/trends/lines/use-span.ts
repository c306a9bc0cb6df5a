import { useState } from 'react';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
export const SPANS = [
	[1, 'day'],
	[7, 'week'],
	[91, 'season'],
	[365, 'year'],
] as const;
/** Nothing is drawn closer than this, nor wider. */
const CLOSEST_MS = 10 * 60_000;
const WIDEST_MS = 10 * 366 * DAY;
/** A step along the time, as a share of what is shown; and how much closer one look is than another. */
const STEP = 0.4;
const TIMES = 2;

export interface Span {
	from: number;
	to: number;
}
/** Whole minutes, so that the same look is the same question. */
const whole = ({ from, to }: Span): Span => ({
	from: Math.floor(from / 60_000) * 60_000,
	to: Math.ceil(to / 60_000) * 60_000,
});

/** The stretch of time that is looked at, and how it is moved. */
export function useSpan(now: number, days: number) {
	const end = Math.ceil(now / (5 * 60_000)) * 5 * 60_000;
	const [span, setSpan] = useState<Span>({ from: end - days * DAY, to: end });
	const width = span.to - span.from;
	const show = (next: Span) => {
		const middle = (next.from + next.to) / 2;
		const half = Math.min(Math.max(next.to - next.from, CLOSEST_MS), WIDEST_MS) / 2;
		// What lies ahead is empty.
		const to = Math.min(middle + half, Math.max(end, middle + half - width));
		setSpan(whole({ from: to - 2 * half, to }));
	};
	const zoom = (times: number) => {
		const middle = (span.from + span.to) / 2;
		show({ from: middle - (width * times) / 2, to: middle + (width * times) / 2 });
	};
	return {
		span,
		days: Math.round(width / DAY),
		show,
		last: (n: number) => setSpan({ from: end - n * DAY, to: end }),
		earlier: () => show({ from: span.from - STEP * width, to: span.to - STEP * width }),
		later: () => {
			const by = Math.min(STEP * width, Math.max(end - span.to, 0));
			show({ from: span.from + by, to: span.to + by });
		},
		closer: () => zoom(1 / TIMES),
		wider: () => zoom(TIMES),
	};
}
export type Spans = ReturnType<typeof useSpan>;
