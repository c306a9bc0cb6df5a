import type { Bounded } from './balance';
import type { DrainVerdict } from './drain-pair';

/**
 * Other ways to look into a medium than its drain. Each thins the solution in it in its own way, so their figures never stand on one axis:
 * what one says is brought to the solution that the roots stand in by a factor of the method, with how far that goes.
 */
export const EXTRACT_METHODS = [
	'press',
	'pour-through',
	'saturated-paste',
	'extract-1-1.5',
	'extract-1-2',
	'sensor',
] as const;
export type ExtractMethod = (typeof EXTRACT_METHODS)[number];

/**
 * Times what the method reads is the solution in the medium, and the share by which that is uncertain (standard deviation). The ratios of
 * pour-through, saturated paste and 1:2 are those of their usual bands (North Carolina State University, Horticulture Information Leaflet
 * 590, from memory: normal 2.6–4.6, 2.0–3.5 and 0.76–1.25 mS/cm), 1:1.5 by volume after Sonneveld (from memory); press and sensor as they
 * read (common practice, no source).
 */
export const EXTRACTS: Readonly<
	Record<ExtractMethod, { factor: number; spread: number; normalUsCm: [number, number] }>
> = {
	press: { factor: 1, spread: 0.08, normalUsCm: [2000, 4000] },
	'pour-through': { factor: 1, spread: 0.15, normalUsCm: [2600, 4600] },
	'saturated-paste': { factor: 1.3, spread: 0.15, normalUsCm: [2000, 3500] },
	'extract-1-1.5': { factor: 2.6, spread: 0.25, normalUsCm: [800, 1500] },
	'extract-1-2': { factor: 3.6, spread: 0.25, normalUsCm: [760, 1250] },
	sensor: { factor: 1, spread: 0.2, normalUsCm: [2000, 4000] },
};

export interface Looked {
	/** Of the solution in the medium, µS/cm, with the bounds that hold 95 of 100. */
	rootUsCm: Bounded;
	/** Over the feed; null without one. */
	riseUsCm: Bounded | null;
	/** Against the limits of the drain; `check` where the bounds reach over more than one limit. */
	verdict: DrainVerdict | null;
	/** Against the usual band of the method itself, for crops of usual hunger. */
	band: 'below' | 'within' | 'above';
}

/**
 * What a reading by a method says of the solution that the roots stand in.
 * @param readUsCm as the method reads it, µS/cm at 25 °C
 * @param feedUsCm null where it was not read
 * @example lookInto('extract-1-2', 1000, 1500, { watchUsCm: 500, actUsCm: 1000 }).rootUsCm.value // 3600
 */
export function lookInto(
	method: ExtractMethod,
	readUsCm: number,
	feedUsCm: number | null,
	limits: { watchUsCm: number; actUsCm: number },
): Looked {
	const { factor, spread, normalUsCm } = EXTRACTS[method];
	const value = factor * readUsCm;
	const rootUsCm = { value, low: value * Math.exp(-1.96 * spread), high: value * Math.exp(1.96 * spread) };
	const riseUsCm =
		feedUsCm === null
			? null
			: { value: value - feedUsCm, low: rootUsCm.low - feedUsCm, high: rootUsCm.high - feedUsCm };
	const by = (rise: number): DrainVerdict =>
		rise > limits.actUsCm ? 'act' : rise > limits.watchUsCm ? 'watch' : 'good';
	return {
		rootUsCm,
		riseUsCm,
		// Sure of more than a neighbour is not asked: from good to act is too far to say anything.
		verdict: riseUsCm && (by(riseUsCm.low) === 'good' && by(riseUsCm.high) === 'act' ? 'check' : by(riseUsCm.value)),
		band: readUsCm < normalUsCm[0] ? 'below' : readUsCm > normalUsCm[1] ? 'above' : 'within',
	};
}
