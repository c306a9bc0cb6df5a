import type { StoredBatch } from '@/contract/batches';
import type { Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { Stage } from '@/core/mix/strength';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ecShown, volumeShown } from './typed';
import { gainOf } from './words';

/** One product of a feed as it is typed. */
export interface PartDraft {
	product: string;
	/** In the words of a label; empty: the label’s own rate. */
	rate: string;
	scales: boolean;
	wait: string;
	/** Of an injector; empty: by its bottle, or by what is in it. */
	stockTank: string;
}
export const partOf = (product: string, more: Partial<PartDraft> = {}): PartDraft => ({
	product,
	rate: '',
	scales: true,
	wait: '5',
	stockTank: '',
	...more,
});

/** What a batch is to be, as it is typed: from nothing, from a recipe, or from a batch before. */
export interface BatchDraft {
	tank: string;
	litres: string;
	water: string;
	parts: PartDraft[];
	by: 'target' | 'label';
	target: string;
	percent: string;
	stage: Stage | '';
	targetPh: string;
	phFirst: boolean;
	recipe: string;
}

/** The feed a tank is usually given: that of its newest batch, else the one that most is known of. */
export const usualFeed = (
	products: readonly Product[],
	batches: readonly StoredBatch[],
	tank: string | undefined,
): Product | undefined => {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const newest = batches.find((b) => b.station === tank)?.plan.pours[0]?.product;
	return (
		feeds.find((p) => p.name === newest) ??
		[...feeds].sort((a, b) => b.learned_from_batches - a.learned_from_batches)[0]
	);
};

const middle = (r: [number, number] | null | undefined) => (r ? (r[0] + r[1]) / 2 : null);
export const rateText = (perL: number, unit: 'mL' | 'g'): string => `${Number(perL.toPrecision(4))} ${unit}/L`;

export const emptyBatch = (
	tank: Tank | undefined,
	feed: Product | undefined,
	water: string,
	units: DisplayUnits,
): BatchDraft => ({
	tank: tank?.code ?? '',
	litres: volumeShown(tank?.volumeL ?? 100, units),
	water,
	parts: feed ? [partOf(feed.name)] : [],
	by: feed && gainOf(feed) === undefined && feed.rate_ml_per_l !== null ? 'label' : 'target',
	...targetsOf(tank, units),
	percent: '100',
	stage: 'full',
	phFirst: false,
	recipe: '',
});

export function fromRecipe(
	d: BatchDraft,
	r: Recipe,
	units: DisplayUnits,
	products: readonly Pick<Product, 'name' | 'unit'>[],
	tank: Tank | undefined,
): BatchDraft {
	const unit = (name: string) => products.find((p) => p.name === name)?.unit ?? 'mL';
	const made: BatchDraft = {
		...d,
		recipe: r.name,
		parts: r.parts.map((p) =>
			partOf(p.product, {
				rate: p.per_l === null ? '' : rateText(p.per_l, unit(p.product)),
				scales: p.scales,
				wait: String(p.wait_min),
				stockTank: p.stock_tank,
			}),
		),
		water: r.water ?? d.water,
		by: r.target_ec_us_cm !== null ? 'target' : 'label',
		target: r.target_ec_us_cm !== null ? ecShown(r.target_ec_us_cm, units) : d.target,
		percent: r.strength !== null ? String(Math.round(100 * r.strength)) : d.percent,
		stage: Object.keys(r.stages).length > 0 ? 'full' : '',
		targetPh: r.target_ph !== null ? String(r.target_ph) : d.targetPh,
		phFirst: r.ph_first,
	};
	return atStage(made, tank, units);
}

/** Where a season has begun, its stage says what a batch comes to, whatever a recipe was made for. */
function atStage(d: BatchDraft, tank: Tank | undefined, units: DisplayUnits): BatchDraft {
	return tank?.stage ? { ...d, ...targetsOf(tank, units) } : d;
}
const targetsOf = (tank: Tank | undefined, units: DisplayUnits): Pick<BatchDraft, 'target' | 'targetPh'> => ({
	target: ecShown(middle(tank?.ecRange) ?? 1600, units),
	targetPh: (middle(tank?.phRange) ?? 5.8).toFixed(1),
});

/** For another tank: as much as it holds, and what its range or its stage asks for. */
export const forTank = (d: BatchDraft, tank: Tank | undefined, units: DisplayUnits): BatchDraft => ({
	...d,
	tank: tank?.code ?? d.tank,
	litres: volumeShown(tank?.volumeL ?? 100, units),
	...(d.recipe === '' || tank?.stage ? targetsOf(tank, units) : {}),
});

/** As a batch before was made: by its recipe where it has one, else by what was poured in it. */
export function fromBatch(d: BatchDraft, b: StoredBatch, recipe: Recipe | undefined, units: DisplayUnits): BatchDraft {
	const { plan } = b;
	const strength = plan.strength ?? null;
	const first = plan.pours.filter((p, i, all) => all.findIndex((x) => x.product === p.product) === i);
	const base = recipe
		? fromRecipe(
				d,
				recipe,
				units,
				plan.pours.map((p) => ({ name: p.product, unit: p.unit })),
				// It is made as it was.
				undefined,
			)
		: {
				...d,
				recipe: '',
				// One product goes by its own label; of several the proportions are those that were poured.
				parts: first.map((p) =>
					partOf(p.product, {
						rate: first.length === 1 ? '' : rateText(p.per_l / (strength ?? 1), p.unit),
						wait: String(p.wait_min),
					}),
				),
			};
	return {
		...base,
		tank: b.station,
		litres: volumeShown(plan.litres, units),
		water: plan.water ?? d.water,
		by: strength !== null ? 'label' : 'target',
		target: plan.target_ec_us_cm === null ? d.target : ecShown(plan.target_ec_us_cm, units),
		percent: strength !== null ? String(Math.round(100 * strength)) : d.percent,
		stage: '',
		targetPh: plan.target_ph === null ? d.targetPh : String(plan.target_ph),
		phFirst: plan.ph_first ?? false,
	};
}
