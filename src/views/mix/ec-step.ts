import type { KnownWater } from '@/contract/pages';
import type { Product } from '@/contract/products';
import { dilute } from '@/core/mix/dilute';
import { bottleName } from '@/core/mix/feed/plan';
import { topFeed } from '@/core/mix/feed/top-feed';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { LEAST_DRAIN_L } from './CorrectEc';
import type { Pour } from './log-event';
import { volumeWithUnit } from './typed';
import { gainOf, poured, pouredAmount } from './words';

/** One step towards the middle of a tank’s EC range: fed where it is too low, thinned where it is too high. */
export interface EcStep {
	words: string;
	pours: Pour[];
	expectedEcUsCm: number;
	amount: number;
}

/** So much of each bottle of a feed. */
export const feedPours = (f: Product, amount: number): Pour[] =>
	Array.from({ length: f.parts }, (_, i) => ({
		kind: 'nutrient_added',
		amount,
		unit: f.unit,
		product: f.name,
		note: f.parts > 1 ? `part ${bottleName(i, f.parts)}` : '',
	}));

/** What to pour into a tank whose EC is outside its range; or why nothing can be said. */
export function ecStep(t: {
	ecUsCm: number;
	range: readonly [number, number];
	volumeL: number | undefined;
	/** Litres to the brim. */
	holdsL: number | null;
	feed: Product | undefined;
	water: KnownWater | undefined;
	units: DisplayUnits;
}): { ok: true; value: EcStep } | { ok: false; message: string } {
	const no = (message: string) => ({ ok: false, message }) as const;
	const targetEcUsCm = (t.range[0] + t.range[1]) / 2;
	const { volumeL, feed, water } = t;
	if (volumeL === undefined) return no('How many litres are in it?');
	if (t.ecUsCm < t.range[0]) {
		if (!feed) return no('Add a feed under products first.');
		const answer = topFeed({
			litres: volumeL,
			ecUsCm: t.ecUsCm,
			targetEcUsCm,
			gainUsCm: gainOf(feed) ?? null,
			rateMlL: feed.rate_ml_per_l,
			unit: feed.unit,
			learned: feed.learned_gain_us_cm_per_ml_l !== null,
		});
		if (!answer.ok) return no(problemWords(answer.problem));
		const { amount, expectedEcUsCm } = answer.value;
		const each = feed.parts > 1 ? `, of each of ${feed.parts} bottles, stirred in between` : '';
		return {
			ok: true,
			value: {
				words: `${poured(amount)} ${feed.unit} of ${feed.name}${each}`,
				pours: feedPours(feed, pouredAmount(amount)),
				expectedEcUsCm,
				amount: pouredAmount(amount),
			},
		};
	}
	if (!water) return no('Choose the water it is thinned with.');
	const answer = dilute({
		volumeL,
		ecUsCm: t.ecUsCm,
		targetEcUsCm,
		withEcUsCm: water.ecUsCm,
		capacityL: t.holdsL ?? undefined,
	});
	if (!answer.ok) return no(problemWords(answer.problem));
	const { drainL, addL } = answer.value;
	const drains = drainL > LEAST_DRAIN_L;
	return {
		ok: true,
		value: {
			words: `${drains ? `drain ${volumeWithUnit(drainL, t.units)} and add` : 'add'} ${volumeWithUnit(addL, t.units)} of ${water.name}`,
			pours: [
				...(drains ? [{ kind: 'drained', amount: pouredAmount(drainL), unit: 'L', product: '' } as const] : []),
				{ kind: 'water_added', amount: pouredAmount(addL), unit: 'L', product: water.name },
			],
			expectedEcUsCm: targetEcUsCm,
			amount: pouredAmount(addL),
		},
	};
}
