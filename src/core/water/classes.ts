import { CONSTANTS } from '../chem/constants';
/** Classes and limits of a water, each with its source. Those of soil irrigation are gentler than growing without soil. */
export interface Grade {
	of: string;
	grade: string;
	value: number;
	unit: string;
	source: string;
}

const USGS = 'USGS Water Science School';
const FAO = 'FAO 29, Ayers and Westcot 1985 (from memory)';
const SUBSTRATE = 'Dutch substrate growing (from memory)';

/** Up to here boron restricts nothing, mg/L (FAO 29, from memory). */
export const BORON_MG_L = 0.7;

const band = (value: number, limits: readonly [number, string][], last: string): string =>
	limits.find(([most]) => value <= most)?.[1] ?? last;

/**
 * A water by published classes, each with its value, unit and source.
 * @example gradeWater({ hardnessMgLCaco3: 150 })[0].grade // 'hard'
 */
export function gradeWater(w: {
	hardnessMgLCaco3?: number | null | undefined;
	ecUsCm?: number | null | undefined;
	naMgL?: number | undefined;
	clMgL?: number | undefined;
	hco3MgL?: number | undefined;
	sar?: number | null | undefined;
	boronMgL?: number | undefined;
}): Grade[] {
	const list: Grade[] = [];
	const put = (
		of: string,
		value: number | null | undefined,
		unit: string,
		source: string,
		grade: (v: number) => string,
	) => {
		if (value != null) list.push({ of, grade: grade(value), value, unit, source });
	};
	const restriction = (some: number, severe: number) => (v: number) =>
		band(
			v,
			[
				[some, 'none'],
				[severe, 'slight to moderate'],
			],
			'severe',
		);
	put('hardness', w.hardnessMgLCaco3, 'mg/L CaCO3', USGS, (v) =>
		band(
			v,
			[
				[60, 'soft'],
				[120, 'moderately hard'],
				[180, 'hard'],
			],
			'very hard',
		),
	);
	put('salinity for irrigation', w.ecUsCm == null ? null : w.ecUsCm / 1000, 'mS/cm', FAO, restriction(0.7, 3));
	put(
		'bicarbonate',
		w.hco3MgL === undefined ? null : w.hco3MgL / CONSTANTS.bicarbonate.value,
		'meq/L',
		FAO,
		restriction(1.5, 8.5),
	);
	put('chloride', w.clMgL === undefined ? null : w.clMgL / CONSTANTS.chlorine.value, 'meq/L', FAO, restriction(4, 10));
	put('sodium hazard (SAR)', w.sar, '', FAO, restriction(3, 9));
	put('boron', w.boronMgL, 'mg/L', FAO, restriction(BORON_MG_L, 3));
	const ec = w.ecUsCm == null ? null : w.ecUsCm / 1000;
	if (ec !== null || w.naMgL !== undefined || w.clMgL !== undefined) {
		const salt = Math.max((w.naMgL ?? 0) / CONSTANTS.sodium.value, (w.clMgL ?? 0) / CONSTANTS.chlorine.value);
		const of = (ecMost: number, saltMost: number) => (ec ?? 0) < ecMost && salt < saltMost;
		list.push({
			of: 'substrate class',
			grade: of(0.5, 1.5)
				? 'class 1: also for recirculating'
				: of(1, 3)
					? 'class 2: drain to waste or large drain'
					: of(1.5, 4.5)
						? 'class 3: only with much drain'
						: 'unfit without treatment or blending',
			...(w.naMgL === undefined && w.clMgL === undefined
				? { value: ec ?? 0, unit: 'mS/cm; sodium and chloride are not known' }
				: { value: salt, unit: 'mmol/L sodium or chloride' }),
			source: SUBSTRATE,
		});
	}
	return list;
}
