import type { DoseUnit } from './mix/label-rate';
import { type Outcome, refused } from './outcome';

/** Why a question cannot be answered: by code, what is needed to say it. The words are in src/words. */
interface Problems {
	// How much is in a tank or a jug.
	'litres-now': Record<never, never>;
	'litres-to-add': Record<never, never>;
	'runs-over': { roomL: number };
	'less-than-in-it': { capacityL: number; volumeL: number };
	// Steps of a jug titration.
	'jug-litres': Record<never, never>;
	'jug-first-step': Record<never, never>;
	'jug-impossible': Record<never, never>;
	'jug-hardly-moved': Record<never, never>;
	'jug-went-back': { ml: number };
	// An EC to be reached.
	'water-does-not-raise': { withUsCm: number; ecUsCm: number; targetUsCm: number };
	'water-too-salty': { withUsCm: number; targetUsCm: number };
	'only-by-replacing': Record<never, never>;
	'gain-needed': Record<never, never>;
	'rate-or-target': Record<never, never>;
	'rate-or-gain-needed': Record<never, never>;
	'water-over-target': { ecUsCm: number };
	'no-such-feed': { mlPerL: number };
	'hardly-rose': { waterEcUsCm: number; seenEcUsCm: number; targetEcUsCm: number };
	'ec-high-enough': Record<never, never>;
	'no-feed': Record<never, never>;
	'gain-of-needed': { product: string };
	'rate-of-needed': { product: string };
	'nothing-scales': Record<never, never>;
	'no-such-strength': Record<never, never>;
	// A label.
	'label-form': Record<never, never>;
	'unknown-measure': { text: string };
	'unknown-volume': { text: string };
	'rate-above-nothing': Record<never, never>;
	'rate-too-much': { perL: number; unit: DoseUnit };
	// A drain sample.
	'nothing-given': Record<never, never>;
	'more-drained-than-given': { drainedL: number; appliedL: number };
	// A pH to be reached.
	'outside-carbonate': { low: number; high: number };
	'bad-percent': Record<never, never>;
	'too-little-alkalinity': { ph: number };
	'too-much-carbon-dioxide': { ph: number; alkalinityMgLCaco3: number; times: number };
	'acid-does-not-raise': { targetPh: number; ph: number };
	'base-does-not-lower': { targetPh: number; ph: number };
	'below-any-plant': { ph: number };
	'above-any-plant': { ph: number };
	'bicarbonate-ends': { kind: string; targetPh: number };
	// A blend.
	'no-water': Record<never, never>;
	'blend-of-nothing': Record<never, never>;
	'water-not-measured': { what: Blended; water: number };
	'out-of-reach': { what: Blended; value: number; low: number; high: number };
	'targets-contradict': { what: Blended };
}
/** What a blend may be aimed at. */
export type Blended = 'ecUsCm' | 'alkalinityMgLCaco3' | 'naMgL' | 'clMgL';
export type ProblemOf = keyof Problems;
export type ProblemParams<C extends ProblemOf> = Problems[C];
/** One of them, with the input it is about as the API calls it. */
export type Problem = { [C in ProblemOf]: { code: C; field: string } & Problems[C] }[ProblemOf];

/** An answer, or the problem with what was asked. */
export type Answer<T> = Outcome<T, Problem>;
/** A question that cannot be answered, with the problem. */
export const refuse = (problem: Problem): { ok: false; problem: Problem } => refused(problem);
