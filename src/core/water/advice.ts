import { CONSTANTS } from '../chem/constants';

/** Why a school fits a water or does not; `used` is its share of the target EC, 1 = all. */
export type SchoolWhy =
	| { code: 'hardly-anything' }
	| { code: 'holds-too-much' }
	| { code: 'hardness-not-known' }
	| { code: 'too-soft' }
	| { code: 'salt-builds-up' }
	| { code: 'brings-calcium'; hardnessMgLCaco3: number; used: number | null; muchAlkalinity: boolean }
	| { code: 'is-blended-with' }
	| { code: 'brings-down'; used: number | null }
	| { code: 'saves-acid' };

/** What the numbers of a source say for each of the three schools: pure water, a hard-water feed, a blend. */
export interface SchoolAdvice {
	school: 'pure' | 'hard-water feed' | 'blend';
	fits: 'yes' | 'with care' | 'no';
	why: SchoolWhy;
}

export interface SourceNumbers {
	ecUsCm: number | null;
	alkalinityMgLCaco3: number | null;
	hardnessMgLCaco3: number | null;
	naMgL: number | null;
	clMgL: number | null;
}

/** Sodium and chloride that recirculating systems still bear: class 1 of Dutch substrate growing (from memory). */
const SALT_CLASS_1 = 1.5;
const SALT_CLASS_3 = 4.5;

/** @param targetEcUsCm of the feed it is to become */
export function schoolAdvice(w: SourceNumbers, targetEcUsCm: number): { used: number | null; schools: SchoolAdvice[] } {
	const used = w.ecUsCm === null ? null : w.ecUsCm / targetEcUsCm;
	const salt = Math.max((w.naMgL ?? 0) / CONSTANTS.sodium.value, (w.clMgL ?? 0) / CONSTANTS.chlorine.value);
	const saltKnown = w.naMgL !== null || w.clMgL !== null;
	const hard = w.hardnessMgLCaco3 ?? w.alkalinityMgLCaco3;
	const schools: SchoolAdvice[] = [];
	const pure = w.ecUsCm !== null && w.ecUsCm < 100;
	schools.push({
		school: 'pure',
		fits: pure ? 'yes' : 'no',
		why: { code: pure ? 'hardly-anything' : 'holds-too-much' },
	});
	schools.push({
		school: 'hard-water feed',
		fits:
			hard === null
				? 'with care'
				: saltKnown && salt > SALT_CLASS_3
					? 'no'
					: hard >= 100
						? salt > SALT_CLASS_1 || (w.alkalinityMgLCaco3 ?? 0) > 250
							? 'with care'
							: 'yes'
						: 'no',
		why:
			hard === null
				? { code: 'hardness-not-known' }
				: hard < 100
					? { code: 'too-soft' }
					: saltKnown && salt > SALT_CLASS_3
						? { code: 'salt-builds-up' }
						: {
								code: 'brings-calcium',
								hardnessMgLCaco3: hard,
								used,
								muchAlkalinity: (w.alkalinityMgLCaco3 ?? 0) > 250,
							},
	});
	const worth = (used !== null && used > 0.25) || salt > SALT_CLASS_1 || (w.alkalinityMgLCaco3 ?? 0) > 150;
	schools.push({
		school: 'blend',
		fits: pure ? 'no' : worth ? 'yes' : 'with care',
		why: pure ? { code: 'is-blended-with' } : worth ? { code: 'brings-down', used } : { code: 'saves-acid' },
	});
	return { used, schools };
}
