/**
 * What a restatement would have changed: "you read 5.8 and left it; it was 5.3". A decision is turned when the value
 * as read and the value as restated lie on different sides of the range. Doses given before the next reading there go
 * with it, since they were given on the wrong number.
 */
export interface RestatedReading {
	id: number;
	at: number;
	station: string;
	value: number;
	restated: number;
	range: { low: number; high: number } | null;
	/** When this station was read next. */
	nextAt: number | null;
}
export interface DoseEvent {
	at: number;
	station: string;
	kind: string;
	words: string;
}
export interface TurnedDecision {
	id: number;
	at: number;
	station: string;
	value: number;
	restated: number;
	was: 'in range' | 'too low' | 'too high';
	truly: 'in range' | 'too low' | 'too high';
	doses: DoseEvent[];
}

const place = (v: number, r: { low: number; high: number }): TurnedDecision['was'] =>
	v < r.low ? 'too low' : v > r.high ? 'too high' : 'in range';
const DAY = 86_400_000;

/** Decisions that a restatement would have turned, with the doses given on them. */
export function turnedDecisions(readings: readonly RestatedReading[], doses: readonly DoseEvent[]): TurnedDecision[] {
	return readings.flatMap((r) => {
		if (!r.range) return [];
		const was = place(r.value, r.range);
		const truly = place(r.restated, r.range);
		if (was === truly) return [];
		const until = Math.min(r.nextAt ?? Number.POSITIVE_INFINITY, r.at + DAY);
		return [
			{
				id: r.id,
				at: r.at,
				station: r.station,
				value: r.value,
				restated: r.restated,
				was,
				truly,
				doses: doses.filter((d) => d.station === r.station && d.at >= r.at && d.at < until),
			},
		];
	});
}
