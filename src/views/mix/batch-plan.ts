import type { BatchPlan, StoredBatch } from '@/contract/batches';
import { camelKeys } from '@/contract/names';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { batchFigures } from '@/core/mix/compare-batches';
import { type Content, sumOf } from '@/core/mix/feed/content';
import { type FeedPart, type FeedPlan, feedParts, learnedRise, type Pour, planFeed } from '@/core/mix/feed/plan';
import { labelRate } from '@/core/mix/label-rate';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import type { BatchDraft, PartDraft } from './batch-draft';
import { ecTyped, litresTyped, volumeWithUnit } from './typed';

/** What a draft is planned with. */
export interface Shelf {
	units: DisplayUnits;
	tanks: readonly Tank[];
	products: readonly Product[];
	waters: readonly KnownWater[];
	batches: readonly StoredBatch[];
}

/** A plan as the core knows it. */
export const planOf = (plan: BatchPlan) => ({ ...camelKeys(plan), pours: plan.pours.map((p) => camelKeys(p)) });

export const figuresOf = (b: StoredBatch) =>
	batchFigures(
		planOf(b.plan),
		b.log,
		Date.parse(b.started_at),
		b.finished_at === null ? null : Date.parse(b.finished_at),
	);

/** The products of a feed with what is known of them, and what batches of these proportions have shown. */
export function feedOf(
	parts: readonly { product: string; perL: number | null; scales: boolean; waitMin: number }[],
	shelf: Pick<Shelf, 'products' | 'batches'>,
) {
	const known = shelf.products.map((p) => ({
		name: p.name,
		unit: p.unit,
		parts: p.parts,
		rateMlL: p.rate_ml_per_l,
		learnedGainUsCm: p.learned_gain_us_cm_per_ml_l,
		gainUsCm: p.gain_us_cm_per_ml_l,
		gainByLabelUsCm: p.gain_by_label_us_cm_per_ml_l,
	}));
	const feed = feedParts(parts, known);
	// One product's gain is on its shelf; what several do together only their own batches have shown.
	const learned =
		feed.length > 1
			? learnedRise(
					feed,
					shelf.batches.map((b) => ({
						pours: b.plan.pours.map((p) => ({ product: p.product, bottle: p.bottle, perL: p.per_l })),
						waterEcUsCm: b.plan.water_ec_us_cm,
						firstEcUsCm: figuresOf(b).firstEcUsCm,
					})),
				)
			: null;
	return { feed, learned };
}

export const recipeFeed = (r: Recipe, shelf: Pick<Shelf, 'products' | 'batches'>) =>
	feedOf(
		r.parts.map((p) => ({ product: p.product, perL: p.per_l, scales: p.scales, waitMin: p.wait_min })),
		shelf,
	);

/** What each litre holds of the feed; null where a product’s label is not known. */
export function contentOf(pours: readonly Pour[], products: readonly Product[]): Content | null {
	const list: [Content, number][] = [];
	for (const name of new Set(pours.map((p) => p.product))) {
		const content = products.find((p) => p.name === name)?.contains;
		if (!content) return null;
		list.push([content, pours.find((p) => p.product === name)!.perL]);
	}
	return sumOf(list);
}

export interface Planned {
	feed: FeedPart[];
	learned: { riseUsCm: number; batches: number } | null;
	tank: Tank | undefined;
	water: KnownWater | undefined;
	litres: number | undefined;
	strength: number | undefined;
	targetPh: number | undefined;
	targetEcUsCm: number | undefined;
	plan: FeedPlan | null;
	/** What stands against it, in sentences. */
	wrong: string[];
}

/** How a part was typed: its rate in the words of a label. */
export function typedPart(d: PartDraft): { perL: number | null; wrong: string } {
	if (d.rate.trim() === '') return { perL: null, wrong: '' };
	const rate = labelRate(d.rate);
	return rate.ok ? { perL: rate.value.perL, wrong: '' } : { perL: null, wrong: problemWords(rate.problem) };
}
const MOST_WAIT_MIN = 240;
const waitTyped = (text: string): number => {
	const n = decimal(text.trim());
	return n !== undefined && n >= 0 && n <= MOST_WAIT_MIN ? Math.round(n) : 0;
};

/** What a draft comes to. */
export function planDraft(d: BatchDraft, shelf: Shelf): Planned {
	const wrong: string[] = [];
	const typed = d.parts.map((p) => ({ ...p, ...typedPart(p), waitMin: waitTyped(p.wait) }));
	for (const p of typed) if (p.wrong) wrong.push(`${p.product}: ${p.wrong}`);
	const { feed, learned } = feedOf(typed, shelf);
	const tank = shelf.tanks.find((t) => t.code === d.tank);
	const water = shelf.waters.find((w) => w.code === d.water);
	const litres = litresTyped(d.litres, shelf.units);
	const percent = decimal(d.percent.trim());
	const strength = d.by === 'label' ? (percent ?? Number.NaN) / 100 : undefined;
	const targetEcUsCm = d.by === 'target' ? ecTyped(d.target, shelf.units) : undefined;
	if (tank?.volumeL != null && litres !== undefined && litres > tank.volumeL)
		wrong.push(
			`${tank.name} holds ${volumeWithUnit(tank.volumeL, shelf.units)}; ${volumeWithUnit(litres, shelf.units)} would run over.`,
		);
	let plan: FeedPlan | null = null;
	if (water && litres !== undefined && litres > 0 && (d.by === 'label' || targetEcUsCm !== undefined)) {
		const answer = planFeed(feed, { waterEcUsCm: water.ecUsCm, targetEcUsCm, strength }, learned?.riseUsCm ?? null);
		if (answer.ok) plan = answer.value;
		else wrong.push(problemWords(answer.problem));
	}
	return {
		feed,
		learned,
		tank,
		water,
		litres,
		strength,
		targetPh: decimal(d.targetPh.trim()),
		targetEcUsCm,
		plan: wrong.length === 0 ? plan : null,
		wrong,
	};
}

/** The plan as a batch keeps it. */
export const asBatchPlan = (d: BatchDraft, p: Planned): BatchPlan => ({
	litres: p.litres!,
	water: p.water!.code,
	water_ec_us_cm: p.water!.ecUsCm,
	pours: p.plan!.pours.map((x) => ({
		product: x.product,
		bottle: x.bottle,
		per_l: x.perL,
		unit: x.unit,
		wait_min: x.waitMin,
		scales: x.scales,
	})),
	// By the label the EC is what comes of it; where nobody knows that, the tank's own range says what is right.
	target_ec_us_cm: p.targetEcUsCm ?? p.plan!.expectedEcUsCm,
	expected_ec_us_cm: p.plan!.expectedEcUsCm,
	ec_range_us_cm: (p.targetEcUsCm ?? p.plan!.expectedEcUsCm) === null ? (p.tank?.ecRange ?? null) : null,
	target_ph: p.targetPh ?? null,
	recipe: d.recipe || null,
	strength: p.strength ?? null,
	ph_first: d.phFirst,
});

/** The draft as a recipe under a name. */
export const asRecipe = (
	name: string,
	d: BatchDraft,
	p: Planned,
	more: Pick<Recipe, 'stages' | 'injector'>,
): Recipe => ({
	name,
	parts: d.parts.map((x) => ({
		product: x.product,
		per_l: typedPart(x).perL,
		scales: x.scales,
		wait_min: waitTyped(x.wait),
		stock_tank: x.stockTank,
	})),
	...more,
	water: d.water || null,
	target_ec_us_cm: p.targetEcUsCm ?? null,
	strength: p.strength ?? null,
	target_ph: p.targetPh ?? null,
	ph_first: d.phFirst,
	note: '',
});
