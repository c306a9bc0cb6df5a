import { CONSTANTS } from '../chem/constants';
/** What the numbers of a source say for each of the three schools: pure water, a hard-water feed, a blend. */
export interface SchoolAdvice {
	school: 'pure' | 'hard-water feed' | 'blend';
	fits: 'yes' | 'with care' | 'no';
	why: string;
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
	const part = used === null ? '' : ` It already uses ${Math.round(100 * used)} % of the target EC.`;
	const schools: SchoolAdvice[] = [];
	const pure = w.ecUsCm !== null && w.ecUsCm < 100;
	schools.push({
		school: 'pure',
		fits: pure ? 'yes' : 'no',
		why: pure
			? 'Hardly anything in it: a complete feed that brings its own calcium and magnesium.'
			: 'It holds too much for a feed made for pure water: calcium would be doubled.',
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
				? 'Its hardness is not known; send a sample to a laboratory before choosing the feed.'
				: hard < 100
					? 'Too soft: such a feed counts on calcium that is not there.'
					: saltKnown && salt > SALT_CLASS_3
						? 'Its sodium or chloride would build up to harm.'
						: `Its hardness (${Math.round(hard)} mg/L CaCO3) takes the place of part of the calcium.${part}${(w.alkalinityMgLCaco3 ?? 0) > 250 ? ' So much alkalinity wants much acid.' : ''}`,
	});
	const worth = (used !== null && used > 0.25) || salt > SALT_CLASS_1 || (w.alkalinityMgLCaco3 ?? 0) > 150;
	schools.push({
		school: 'blend',
		fits: pure ? 'no' : worth ? 'yes' : 'with care',
		why: pure
			? 'It is what others are blended with.'
			: worth
				? `Rain or RO water beside it brings down what is too much.${part}`
				: 'Not needed by its numbers; it would only save acid.',
	});
	return { used, schools };
}
