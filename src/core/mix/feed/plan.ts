import { done } from '../../outcome';
import { type Answer, refuse } from '../../problem';
import type { DoseUnit } from '../label-rate';

/**
 * A feed of one product or of several: what is poured, in which order, how much of each, and what EC comes of it. All that scales is
 * scaled together, so that the proportions stay; what does not (a silicate, a calcium supplement for soft water) keeps its rate.
 */
export interface FeedPart {
	product: string;
	unit: DoseUnit;
	/** Bottles that the product comes in, A and B and so on: so much of each. */
	bottles: number;
	/** mL or g of each bottle for each litre, at full strength; null where no label says it. */
	perL: number | null;
	/** EC that one of them for each litre brings, of all bottles together, µS/cm; null where nobody knows. */
	gainUsCm: number | null;
	scales: boolean;
	/** Minutes to stir and wait before the next. */
	waitMin: number;
}
/** One pouring: a bottle of a product. */
export interface Pour {
	product: string;
	/** A, B, …; empty where a product comes in one bottle. */
	bottle: string;
	perL: number;
	unit: DoseUnit;
	waitMin: number;
	scales: boolean;
}
export interface FeedPlan {
	/** Share of full strength. */
	strength: number;
	pours: Pour[];
	/** Null where a gain is not known. */
	expectedEcUsCm: number | null;
	/** The share that the target would take by what is believed of the gain, where no more than `strength` of it is poured at once. */
	heldFrom: number | null;
}

/** A thousandfold slip is litres written for millilitres: no feed is poured by the tenth of a litre to the litre. */
const MOST_PER_L = 100;
const MOST_STRENGTH = 3;
/**
 * A target is followed to one and a half times the labels’ rates and no further before EC was measured: a gain that a wrong pen or an
 * unstirred tank taught too small would ask for many times as much (common practice: feed to the label and measure, no source).
 */
const MOST_BY_GAIN = 1.5;
/** Where no label names a rate, mL or g for each litre (common practice: labels run from 0.5 to 5 mL, stock solutions to 10; no source). */
const MOST_UNLABELLED: Record<DoseUnit, number> = { mL: 20, g: 5 };

/** A, B, … of a product in several bottles; empty where it is one. */
export const bottleName = (i: number, of: number): string => (of > 1 ? String.fromCharCode(65 + i) : '');

/** A product as a feed is planned with it. */
export interface FeedProduct {
	name: string;
	unit: DoseUnit;
	parts: number;
	rateMlL: number | null;
	learnedGainUsCm: number | null;
	gainUsCm: number | null;
	gainByLabelUsCm: number | null;
}

/** The gain a feed is planned with: what its batches have shown, else what was typed, else what its label leads to. */
export const plannedGain = (p: Pick<FeedProduct, 'learnedGainUsCm' | 'gainUsCm' | 'gainByLabelUsCm'>): number | null =>
	p.learnedGainUsCm ?? p.gainUsCm ?? p.gainByLabelUsCm;

/** The parts of a recipe with what is known of their products; a product that is no longer there is left out. */
export const feedParts = (
	parts: readonly { product: string; perL: number | null; scales: boolean; waitMin: number }[],
	products: readonly FeedProduct[],
): FeedPart[] =>
	parts.flatMap((part) => {
		const p = products.find((x) => x.name === part.product);
		return p
			? [
					{
						product: p.name,
						unit: p.unit,
						bottles: p.parts,
						perL: part.perL ?? p.rateMlL,
						gainUsCm: plannedGain(p),
						scales: part.scales,
						waitMin: part.waitMin,
					},
				]
			: [];
	});

/** One product whose rate nobody knows still reaches a target by its gain; of several the proportions would be guessed. */
function withRates(parts: readonly FeedPart[], byTarget: boolean): Answer<RatedPart[]> {
	const unknown = parts.find((p) => p.perL === null);
	const alone = byTarget && unknown?.scales && parts.filter((p) => p.scales).length === 1;
	if (unknown && !alone) return refuse({ code: 'rate-of-needed', field: 'per_l', product: unknown.product });
	return done(parts.map((p) => ({ ...p, perL: p.perL ?? 1, labelled: p.perL !== null })));
}
type RatedPart = FeedPart & { perL: number; labelled: boolean };

/** What full strength raises EC by: what scales, and what keeps its rate; null where a gain is not known. */
export function riseOf(
	parts: readonly (FeedPart & { perL: number })[],
	learnedUsCm: number | null = null,
): { scaled: number; fixed: number } | null {
	const of = (scales: boolean) =>
		parts
			.filter((p) => p.scales === scales)
			.reduce<number | null>((sum, p) => (sum === null || p.gainUsCm === null ? null : sum + p.gainUsCm * p.perL), 0);
	const fixed = of(false);
	const scaled = learnedUsCm ?? of(true);
	return fixed === null || scaled === null ? null : { scaled, fixed };
}

/**
 * What to pour for each litre: at a share of full strength, or towards a target EC (µS/cm), then no more at once than one and a half
 * times the labels’ rates, whatever gain was taught.
 * @param learnedUsCm what batches of these very proportions raised EC by at full strength, where they were measured
 * @example planFeed([{ product: 'feed', unit: 'mL', bottles: 1, perL: 2, gainUsCm: 400, scales: true, waitMin: 0 }], { waterEcUsCm: 300, targetEcUsCm: 1500 }).value.pours[0].perL // 3
 */
export function planFeed(
	asked: readonly FeedPart[],
	aim: { waterEcUsCm: number; targetEcUsCm?: number | undefined; strength?: number | undefined },
	learnedUsCm: number | null = null,
): Answer<FeedPlan> {
	if (asked.length === 0) return refuse({ code: 'no-feed', field: 'parts' });
	const rated = withRates(asked, aim.targetEcUsCm !== undefined);
	if (!rated.ok) return rated;
	const parts = rated.value;
	const rise = riseOf(parts, learnedUsCm);
	let strength = aim.strength ?? 1;
	let heldFrom: number | null = null;
	if (aim.targetEcUsCm !== undefined) {
		if (rise === null) {
			const unknown = parts.find((p) => p.gainUsCm === null)!;
			return refuse({ code: 'gain-of-needed', field: 'gain_us_cm_per_ml_l', product: unknown.product });
		}
		if (!(rise.scaled > 0)) return refuse({ code: 'nothing-scales', field: 'parts' });
		const least = aim.waterEcUsCm + rise.fixed;
		if (aim.targetEcUsCm < least) return refuse({ code: 'water-over-target', field: 'target_ec_us_cm', ecUsCm: least });
		strength = (aim.targetEcUsCm - least) / rise.scaled;
		if (strength > MOST_BY_GAIN && parts.every((p) => p.labelled)) {
			heldFrom = strength;
			strength = MOST_BY_GAIN;
		}
	} else if (!(strength > 0 && strength <= MOST_STRENGTH))
		return refuse({ code: 'no-such-strength', field: 'strength' });
	const pours = parts.flatMap((p) =>
		Array.from({ length: p.bottles }, (_, i) => ({
			product: p.product,
			bottle: bottleName(i, p.bottles),
			perL: p.scales ? p.perL * strength : p.perL,
			unit: p.unit,
			waitMin: p.waitMin,
			scales: p.scales,
		})),
	);
	const most = Math.max(...pours.map((p) => p.perL));
	const labelled = parts.every((p) => p.labelled);
	if (pours.some((p) => p.perL > (labelled ? MOST_PER_L : MOST_UNLABELLED[p.unit])))
		return refuse({
			code: 'no-such-feed',
			field: aim.targetEcUsCm !== undefined ? 'gain_us_cm_per_ml_l' : 'rate_ml_per_l',
			mlPerL: most,
		});
	return done({
		strength,
		pours,
		expectedEcUsCm: rise === null ? null : aim.waterEcUsCm + rise.scaled * strength + rise.fixed,
		heldFrom,
	});
}

/** What a batch poured for each litre, and what it did to EC. */
export interface FedBatch {
	pours: readonly Pick<Pour, 'product' | 'bottle' | 'perL'>[];
	waterEcUsCm: number;
	firstEcUsCm: number | null;
}

/** Proportions may differ by so much and still be the same mixture. */
const ALIKE = 0.05;
const LEARN_FROM = 12;

/**
 * What the mixture raises EC by at full strength, µS/cm, by batches of the same products in the same proportions: the median of the
 * newest; null where there are none, and where something in it keeps its rate, because then proportions change.
 * @param batches newest first
 */
export function learnedRise(
	parts: readonly FeedPart[],
	batches: readonly FedBatch[],
): { riseUsCm: number; batches: number } | null {
	if (parts.length === 0 || parts.some((p) => !p.scales || p.perL === null)) return null;
	const full = new Map(
		parts.flatMap((p) =>
			Array.from({ length: p.bottles }, (_, i) => [`${p.product}\n${bottleName(i, p.bottles)}`, p.perL!]),
		),
	);
	const rises = batches.flatMap((b) => {
		if (b.firstEcUsCm === null || b.pours.length !== full.size) return [];
		const shares = b.pours.map((p) => p.perL / (full.get(`${p.product}\n${p.bottle}`) ?? Number.NaN));
		const mean = shares.reduce((s, x) => s + x, 0) / shares.length;
		const same = shares.every((s) => Math.abs(s - mean) <= ALIKE * mean);
		const rise = (b.firstEcUsCm - b.waterEcUsCm) / mean;
		return same && mean > 0 && rise > 0 ? [rise] : [];
	});
	const newest = rises.slice(0, LEARN_FROM).sort((a, b) => a - b);
	if (newest.length === 0) return null;
	const half = newest.length >> 1;
	return {
		riseUsCm: newest.length % 2 === 1 ? newest[half]! : (newest[half - 1]! + newest[half]!) / 2,
		batches: newest.length,
	};
}

/** What a feed is called where it has no name: its products. */
export const feedName = (pours: readonly { product: string }[]): string =>
	[...new Set(pours.map((p) => p.product))].join(' + ');
