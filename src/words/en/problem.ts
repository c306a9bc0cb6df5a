import type { Blended, Problem, ProblemOf, ProblemParams } from '@/core/problem';

const BLENDED: Record<Blended, readonly [name: string, unit: string]> = {
	ecUsCm: ['EC', 'µS/cm'],
	alkalinityMgLCaco3: ['alkalinity', 'mg/L CaCO3'],
	naMgL: ['sodium', 'mg/L'],
	clMgL: ['chloride', 'mg/L'],
};
const digits = (v: number, n: number): string => String(Number(v.toPrecision(n)));
const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

const WORDS: { [C in ProblemOf]: (p: ProblemParams<C>) => string } = {
	'litres-now': () => 'How many litres are in the tank now? A dipstick tells.',
	'litres-to-add': () => 'How many litres are to be added?',
	'runs-over': (p) => `It would run over: there is room for ${digits(p.roomL, 3)} L.`,
	'less-than-in-it': (p) =>
		`The tank holds ${p.capacityL} L and there are ${p.volumeL} L in it: one of the two is wrong.`,
	'jug-litres': () => 'A jug holds up to some litres; how many were in it?',
	'jug-first-step': () => 'Enter the pH before the first drop, with 0 mL, and at least one step after it.',
	'jug-impossible': () => 'A pH lies between 0 and 14, and no step is less than nothing.',
	'jug-hardly-moved': () => 'The pH hardly moved yet: go on drop by drop, stir, and wait between.',
	'jug-went-back': (p) => `At ${p.ml} mL the pH went back: stir and wait before each reading.`,
	'water-does-not-raise': (p) =>
		`Adding water of ${p.withUsCm} µS/cm does not raise ${p.ecUsCm} to ${p.targetUsCm}: add nutrients instead.`,
	'water-too-salty': (p) =>
		`Water of ${p.withUsCm} µS/cm cannot bring it down to ${p.targetUsCm}: reachable is anything above ${p.withUsCm}. Use purer water.`,
	'only-by-replacing': () =>
		'Only replacing all of it reaches the EC of the water itself; give the tank’s capacity for that.',
	'gain-needed': () =>
		'A target needs the feed’s gain: µS/cm for each mL/L of each part. It is learned from the first batch.',
	'rate-or-target': () => 'Give either a rate or a target EC: two can contradict each other.',
	'rate-or-gain-needed': () => 'Give the label’s rate, or a target EC with the feed’s gain.',
	'water-over-target': (p) =>
		`The water alone has ${p.ecUsCm} µS/cm, more than the target: dilute it or choose another water.`,
	'no-such-feed': (p) =>
		`${digits(p.mlPerL, 3)} mL for each litre is no feed: litres written for millilitres, or a unit of the gain?`,
	'hardly-rose': () =>
		'EC has risen by less than half of what the feed should bring, so nothing more is advised on it: has everything been poured, has it mixed, is the meter right? Read again, or add a little and read.',
	'ec-high-enough': () => 'Its EC is there already: nothing is added.',
	'no-feed': () => 'Name at least one product to pour.',
	'gain-of-needed': (p) =>
		`A target needs to know what ${p.product} does to EC. Put its label’s analysis under products, or plan by the label: the first batch teaches it.`,
	'rate-of-needed': (p) =>
		`Of ${p.product} no rate is known: fill in how much goes into each litre, or its label’s rate under products.`,
	'nothing-scales': () =>
		'Everything keeps its rate, so nothing can be changed to reach a target: let one product follow the target.',
	'no-such-strength': () => 'Of the label’s rate: more than 0 %, and at most 300 %.',
	'label-form': () => 'Write the rate as the label does: 4 mL/L, 10 mL/gal, 2 tsp/gal, 6 drops/L, 1.5 g/L.',
	'unknown-measure': (p) => `“${p.text}” is no measure known here: mL, tsp, tbsp, cup, fl oz, drops, g, oz.`,
	'unknown-volume': (p) => `“${p.text}” is no volume known here: L, gal (US), imp gal.`,
	'rate-above-nothing': () => 'The rate is a number above nothing.',
	'rate-too-much': (p) => `${digits(p.perL, 3)} ${p.unit} for each litre is no feed: litres written for millilitres?`,
	'nothing-given': () => 'How much was given? Without it there is no fraction.',
	'more-drained-than-given': (p) =>
		`More ran off (${p.drainedL} L) than was given (${p.appliedL} L): rain, a second dripper, or one of the two is wrong.`,
	'outside-carbonate': (p) => `The carbonate constants hold for water from ${p.low} to ${p.high} °C.`,
	'bad-percent': () => 'The label’s percent by weight lies above 0 and up to 100.',
	'too-little-alkalinity': (p) =>
		`No water has pH ${p.ph} with so little alkalinity: one of the two is wrong. Measure both again.`,
	'too-much-carbon-dioxide': (p) =>
		`pH ${p.ph} with ${digits(p.alkalinityMgLCaco3, 3)} mg/L of alkalinity would hold ${Number(p.times.toPrecision(2)).toLocaleString('en')} times the carbon dioxide of air: one of the two is wrong, or they are of different waters. Measure both again, in the same sample.`,
	'acid-does-not-raise': (p) =>
		`Acid lowers pH; the target ${p.targetPh} must lie below the water’s ${p.ph}. Raising it takes a base.`,
	'base-does-not-lower': (p) =>
		`A base raises pH; the target ${p.targetPh} must lie above the water’s ${p.ph}. Lowering it takes an acid.`,
	'below-any-plant': (p) => `No plant lives in water below pH ${p.ph}; choose a higher target.`,
	'above-any-plant': (p) => `Above pH ${p.ph} iron and calcium fall out; choose a lower target.`,
	'bicarbonate-ends': (p) =>
		`${sentence(p.kind)} brings as much carbonic acid as it takes up near pH 8.3: it does not reach ${p.targetPh}. Use a hydroxide or a carbonate.`,
	'no-water': () => 'Give at least one water.',
	'blend-of-nothing': () => 'A blend of nothing: give the litres of each water, or a target.',
	'water-not-measured': (p) =>
		`The ${BLENDED[p.what][0]} of water ${p.water} is not known, so it cannot be blended to a target of it. Measure it first.`,
	'out-of-reach': (p) =>
		`No blend of these waters has ${BLENDED[p.what][0]} ${p.value}: reachable are ${digits(p.low, 4)} to ${digits(p.high, 4)} ${BLENDED[p.what][1]}.`,
	'targets-contradict': (p) =>
		`Each target alone is reachable, together they contradict each other with these waters: give up ${BLENDED[p.what][0]} or add a water.`,
};

/** What is wrong with what was asked, and what to do about it. */
export const problemWords = (p: Problem): string => (WORDS[p.code] as (p: Problem) => string)(p);
