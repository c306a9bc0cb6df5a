import type { Remark, RemarkCode, RemarkParams } from '@/core/remark';
import { IONS, TRACES } from '@/core/water/ions';
import type { AdvisedTrace } from '@/core/water/traces';

/** What an acid feeds, and what to use for part of it. */
const ADDS = {
	p_mg_l: ['phosphorus', 'nitric or sulfuric acid'],
	no3_n_mg_l: ['nitrogen', 'another acid, and count it in the recipe,'],
	so4_mg_l: ['sulfate', 'nitric or phosphoric acid'],
} as const;
const traceName = (of: AdvisedTrace): string => (of === 'f_mg_l' ? IONS[of] : TRACES[of]).name;
const mgLOf = (v: number): string => String(Number(v.toPrecision(2)));
const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
const amount = (left: number, unit: 'mL' | 'g'): string =>
	left >= 1000 ? `${(left / 1000).toFixed(1)} ${unit === 'g' ? 'kg' : 'L'}` : `${left.toFixed(0)} ${unit}`;

const WORDS: { [C in RemarkCode]: (p: RemarkParams<C>) => string } = {
	'acid-caution': () =>
		'Gloves and eye protection. Acid into water, never water into acid; never with bleach or base concentrate. The label and its safety data sheet come first.',
	'strong-acid': () =>
		'Acid of this strength may need a licence or be forbidden to private buyers where you are: local law.',
	'eaten-by-microbes': () => 'Microbes eat this acid within days: the pH climbs again and slime may follow.',
	'better-blended': () => 'So much alkalinity is better blended away with rain or RO water than fought with acid.',
	'adds-too-much': (p) =>
		`This adds ${Math.round(p.mgL)} mg/L of ${ADDS[p.of][0]}, more than a feed wants: use ${ADDS[p.of][1]} for part of it.`,
	'hardly-any-carbon-dioxide': (p) =>
		`pH ${p.ph} with this alkalinity would hold less than a tenth of the carbon dioxide that air gives it: measure both again before you dose by this.`,
	'base-caution': () =>
		'Gloves and eye protection. Base into water, never water onto base; never base concentrate on acid concentrate. The label and its safety data sheet come first.',
	caustic: () => 'Caustic: it burns skin and blinds eyes, and gets hot in water. Local law may ask for a licence.',
	'silicate-first': () =>
		'Silicate goes in first, into plain water and well stirred: with calcium or in an acid feed it turns to gel.',
	'too-much-sodium': (p) =>
		`This adds ${Math.round(p.mgL)} mg/L of sodium, more than a recirculating system bears: use a potassium base.`,
	'sodium-stays': () =>
		'Its sodium stays and builds up: for an emergency, not as a habit. A potassium base feeds instead.',
	'more-salt-out': () =>
		'More salt left than came in: that cannot last. Measure both volumes and both EC again, pooled over a whole day.',
	'salt-leaves': () =>
		'More salt runs off than is given: what had built up is leaving. Go on until the drain is near the feed, then water as usual.',
	'hardly-any-drain': () =>
		'Hardly any drain: water more often (every hour instead of every two), before anything else.',
	'water-more-often': () => 'Water more often, before anything else.',
	'run-until-drain': () => 'Then let each run last until one to two minutes of drain.',
	'feed-weaker': () => 'Only then feed weaker.',
	flush: () => 'If it stays, flush with weak feed. Where the drain may run is a matter of local rules.',
	'drain-says-little': () =>
		'Hardly any drain: its EC says little of the root zone. Water until it drains once, then read again.',
	'drain-weaker-than-feed': () =>
		'The drain is weaker than the feed: hungry plants, or too much water. Look at the plants, then feed stronger or water less.',
	'runs-away': () => 'Much of it runs away: shorter runs, if the drain’s EC allows.',
	'ph-falls-with-salt': () => 'pH falls while salt builds up: the two go together. Bring the salt down first.',
	'ph-falls-alone': () =>
		'pH falls while EC is steady: look at the roots; it may be disease, or much ammonium in the feed.',
	'ph-rises': () => 'pH rises gently as nitrate is taken up: usual in good growth. Watch that it stays in range.',
	'slope-below': (p) =>
		`Slope ${p.slopePct.toFixed(1)} % is below ${p.leastPct} %: clean, rehydrate and recheck; replace it if it stays.`,
	'slope-above': (p) =>
		`Slope ${p.slopePct.toFixed(1)} % is above ${p.mostPct} %: no electrode answers so strongly; a standard is off or mistaken.`,
	'slope-outside': (p) =>
		`Slope ${p.slopePct.toFixed(1)} % is outside ${p.leastPct}–${p.mostPct} %: clean, rehydrate and recheck.`,
	'wrong-way': () => 'The values run the wrong way: the standards are exchanged, or the probe is dead.',
	'offset-mv': (p) =>
		`Offset ${p.offsetMv.toFixed(1)} mV at pH 7 is beyond ±${p.mostMv} mV: the reference is fouled or drained. Clean and soak it.`,
	'reading-off': (p) =>
		`As found it was ${p.error.toFixed(2)} off: readings since the last calibration are in doubt by as much.`,
	'cell-factor': (p) =>
		`The cell factor is ${p.offPct.toFixed(1)} % off: clean the cell, free bubbles, check temperature and standard.`,
	slow: (p) =>
		`It took ${Math.round(p.settleS)} s to settle; over ${p.mostS} s is a sign of a dry or coated bulb. Clean and rehydrate it.`,
	'bottle-expired': (p) => `It expired on ${p.on}: use a fresh bottle, or titrate it in a jug first.`,
	'bottle-expires': (p) => `It expires on ${p.on}.`,
	'bottle-open-long': (p) =>
		`Open for ${p.days} days; it keeps ${p.keepsDays}. Titrate it in a jug, or open a fresh one.`,
	'bottle-empty': () => 'By what was logged the bottle is empty: count it again.',
	'bottle-low': (p) => `${amount(p.left, p.unit)} left: order some.`,
	'nitrogen-taken-as-nitrate': (p) =>
		`The label does not say in which form ${p.share > 0.99 ? 'its nitrogen' : `${Math.round(100 * p.share)} % of its nitrogen`} is: counted as nitrate, which most feeds for growing without soil hold.`,
	'label-leaves-out': (p) =>
		`What the label names does not balance: about ${Math.round(100 * p.share)} % of what carries current is not named, and is counted as a common ion. The first batch shows the true EC.`,
	'stock-falls-out': (p) =>
		`In stock tank ${p.tank} calcium (${p.calcium}) meets sulfate or phosphate (${p.against}): they fall out as a white sludge. Put them into two tanks.`,
	'stock-not-known': (p) =>
		`What is in ${p.product} is not known, so nobody can say whether it bears the others in stock tank ${p.tank}: ask the label, or give it a tank of its own.`,
	'stock-too-strong': (p) =>
		`${Math.round(p.gL)} g of ${p.product} for each litre of stock: ${p.gL > p.mostGL ? `more than dissolves (${p.mostGL} g/L at 20 °C)` : `close to what dissolves (${p.mostGL} g/L at 20 °C), and it falls out in the cold`}. Take a smaller ratio.`,
	'stock-over-full': (p) =>
		`Each litre of stock tank ${p.tank} would take ${p.litresForEach.toFixed(1)} L of product: the feed is too weak for this ratio. Take a smaller one.`,
	'no-anions': () => 'Only cations are given: neither the balance nor the alkalinity can be judged.',
	'no-cations': () => 'Only anions are given: neither the balance nor the hardness can be judged.',
	unbalanced: (p) =>
		`Cations ${p.cationsMeqL.toFixed(2)} and anions ${p.anionsMeqL.toFixed(2)} meq/L do not balance: an ion is missing or a unit is wrong. Ask the laboratory.`,
	'alkalinity-as-caco3': (p) =>
		`It balances if the ${p.givenMgL} mg/L are alkalinity as CaCO3 and not bicarbonate: then write ${Math.round(p.meantMgL)} mg/L HCO3.`,
	'meq-for-mg': (p) =>
		`It balances if ${IONS[p.ion].name} is ${p.given} meq/L and not mg/L: then write ${p.meantMgL.toPrecision(3)} mg/L.`,
	'sodium-missing': (p) => `Sodium is not given; about ${Math.round(p.mgL)} mg/L of it would close the balance.`,
	'ec-off': (p) =>
		`The ions make ${Math.round(p.calculatedUsCm)} µS/cm, measured are ${Math.round(p.measuredUsCm)}: ${p.missing ? 'something that conducts is missing from the report' : 'an ion is too high, or the measurement too low'}.`,
	'ec-unit': () => 'The conductivity looks like mS/cm written as µS/cm.',
	'trace-too-much': (p) =>
		`${capital(traceName(p.of))} ${mgLOf(p.mgL)} mg/L is more than the ${mgLOf(p.mostMgL)} that irrigation water should hold: blend it, or treat it. ${p.of === 'zn_mg_l' || p.of === 'cu_mg_l' ? 'Look for galvanised or copper pipe first.' : p.of === 'b_mg_l' ? 'Reverse osmosis holds boron back badly: ask for what the membrane lets through.' : ''}`.trim(),
	'trace-feeds': (p) =>
		`${capital(traceName(p.of))} ${mgLOf(p.mgL)} mg/L is ${Math.round(100 * p.share)} % of what a feed holds: leave as much out of the recipe.`,
	'trace-clogs': (p) =>
		`${capital(traceName(p.of))} ${mgLOf(p.mgL)} mg/L ${p.badly ? 'clogs drippers badly' : 'slowly clogs drippers'}: it falls out as slime and rust once air gets at it. Aerate and filter the water before it meets feed or acid.`,
	'concentrate-precipitation': () =>
		'Calcium beside sulfate or phosphate: never make a stock concentrate with this water undiluted, gypsum and calcium phosphate fall out.',
};

/** A remark in words. */
export const remarkWords = (r: Remark): string => (WORDS[r.code] as (p: Remark) => string)(r);
