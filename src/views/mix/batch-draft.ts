import type { StoredBatch } from '@/contract/batches';
import type { Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { Stage } from '@/core/mix/strength';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ecShown } from './typed';
import { gainOf } from './words';

/** What a batch is to be, as it is typed: from nothing, from a recipe, or from a batch before. */
export interface BatchDraft {
	tank: string;
	litres: string;
	water: string;
	feed: string;
	by: 'target' | 'label';
	target: string;
	percent: string;
	stage: Stage | '';
	targetPh: string;
	phFirst: boolean;
	recipe: string;
}

const middle = (r: [number, number] | null | undefined) => (r ? (r[0] + r[1]) / 2 : null);

export const emptyBatch = (
	tank: Tank | undefined,
	feed: Product | undefined,
	water: string,
	units: DisplayUnits,
): BatchDraft => ({
	tank: tank?.code ?? '',
	litres: String(tank?.volumeL ?? 100),
	water,
	feed: feed?.name ?? '',
	by: feed && gainOf(feed) === undefined && feed.rate_ml_per_l !== null ? 'label' : 'target',
	target: ecShown(middle(tank?.ecRange) ?? 1600, units),
	percent: '100',
	stage: 'full',
	targetPh: (middle(tank?.phRange) ?? 5.8).toFixed(1),
	phFirst: false,
	recipe: '',
});

export function fromRecipe(d: BatchDraft, r: Recipe, units: DisplayUnits): BatchDraft {
	return {
		...d,
		recipe: r.name,
		feed: r.product,
		water: r.water ?? d.water,
		by: r.target_ec_us_cm !== null ? 'target' : 'label',
		target: r.target_ec_us_cm !== null ? ecShown(r.target_ec_us_cm, units) : d.target,
		percent: r.strength !== null ? String(Math.round(100 * r.strength)) : d.percent,
		stage: '',
		targetPh: r.target_ph !== null ? String(r.target_ph) : d.targetPh,
		phFirst: r.ph_first,
	};
}

export function fromBatch(d: BatchDraft, b: StoredBatch, units: DisplayUnits): BatchDraft {
	const { plan } = b;
	return {
		...d,
		tank: b.station,
		litres: String(plan.litres),
		water: plan.water ?? d.water,
		feed: plan.product,
		by: plan.strength != null ? 'label' : 'target',
		target: plan.target_ec_us_cm === null ? d.target : ecShown(plan.target_ec_us_cm, units),
		percent: plan.strength != null ? String(Math.round(100 * plan.strength)) : d.percent,
		stage: '',
		targetPh: plan.target_ph === null ? d.targetPh : String(plan.target_ph),
		phFirst: plan.ph_first ?? false,
		recipe: plan.recipe ?? '',
	};
}
