/** A point of a chart: one reading, or a bucket of many with its extremes kept. */
export interface SeriesPoint {
	at: number;
	value: number;
	low: number;
	high: number;
	u: number;
	count: number;
	flag: number;
	decision: string | null;
	id: number | null;
	message: string;
	instrument: string | null;
	/** As it was read, where a calibration put it right. */
	was: number | null;
	/** The share of its samples that is believed. */
	believed: number;
}
