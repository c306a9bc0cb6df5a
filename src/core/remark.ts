import type { Grade } from './probe/calibration';
import type { IonKey } from './water/ions';
import type { AdvisedTrace } from './water/traces';

type Nothing = Record<never, never>;

/** What is to be said beside an answer: cautions, steps in their order, what is odd. By code; the words are in src/words. */
interface Remarks {
	// Acids and bases.
	'acid-caution': Nothing;
	'strong-acid': Nothing;
	'eaten-by-microbes': Nothing;
	'better-blended': Nothing;
	'adds-too-much': { of: 'p_mg_l' | 'no3_n_mg_l' | 'so4_mg_l'; mgL: number };
	'hardly-any-carbon-dioxide': { ph: number };
	'base-caution': Nothing;
	caustic: Nothing;
	'silicate-first': Nothing;
	'too-much-sodium': { mgL: number };
	'sodium-stays': Nothing;
	// Drain against feed.
	'more-salt-out': Nothing;
	'salt-leaves': Nothing;
	'hardly-any-drain': Nothing;
	'water-more-often': Nothing;
	'run-until-drain': Nothing;
	'feed-weaker': Nothing;
	flush: Nothing;
	'drain-says-little': Nothing;
	'drain-weaker-than-feed': Nothing;
	'runs-away': Nothing;
	'ph-falls-with-salt': Nothing;
	'ph-falls-alone': Nothing;
	'ph-rises': Nothing;
	// A calibration.
	'slope-below': { slopePct: number; leastPct: number };
	'slope-above': { slopePct: number; mostPct: number };
	'slope-outside': { slopePct: number; leastPct: number; mostPct: number };
	'wrong-way': Nothing;
	'offset-mv': { offsetMv: number; mostMv: number };
	'reading-off': { error: number };
	'cell-factor': { offPct: number };
	slow: { settleS: number; mostS: number };
	// A bottle.
	'bottle-expired': { on: string };
	'bottle-expires': { on: string };
	'bottle-open-long': { days: number; keepsDays: number };
	'bottle-empty': Nothing;
	'bottle-low': { left: number; unit: 'mL' | 'g' };
	// What a label says is in a feed, and its concentrates.
	'nitrogen-taken-as-nitrate': { share: number };
	'label-leaves-out': { share: number };
	'stock-falls-out': { tank: string; calcium: string; against: string };
	'stock-not-known': { tank: string; product: string };
	'stock-too-strong': { product: string; gL: number; mostGL: number };
	'stock-over-full': { tank: string; litresForEach: number };
	// A laboratory report.
	'no-anions': Nothing;
	'no-cations': Nothing;
	unbalanced: { cationsMeqL: number; anionsMeqL: number };
	'alkalinity-as-caco3': { givenMgL: number; meantMgL: number };
	'meq-for-mg': { ion: IonKey; given: number; meantMgL: number };
	'sodium-missing': { mgL: number };
	'ec-off': { calculatedUsCm: number; measuredUsCm: number; missing: boolean };
	'ec-unit': Nothing;
	'concentrate-precipitation': Nothing;
	'trace-too-much': { of: AdvisedTrace; mgL: number; mostMgL: number };
	'trace-feeds': { of: AdvisedTrace; mgL: number; share: number };
	'trace-clogs': { of: AdvisedTrace; mgL: number; badly: boolean };
}
export type RemarkCode = keyof Remarks;
export type RemarkParams<C extends RemarkCode> = Remarks[C];
export type Remark = { [C in RemarkCode]: { code: C } & Remarks[C] }[RemarkCode];
/** One that counts for or against a probe. */
export type Reason = Remark & { grade: Grade };
