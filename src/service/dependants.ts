import type { Dependant } from '@/contract/pages';
import { feedParts, learnedRise } from '@/core/mix/feed/plan';
import { recipeMeans } from '@/core/water/depends';
import type { BatchRow } from '@/store/batches';
import type { RecipeRow } from '@/store/recipes';
import { fedBatches } from './gains';
import type { ProductView } from './products';
import type { SiteContext } from './site';

function ofRecipe(
	r: RecipeRow,
	shift: { from: number; to: number },
	{ products, batches }: { products: readonly ProductView[]; batches: readonly BatchRow[] },
): Dependant {
	const parts = feedParts(r.parts, products);
	const learned = learnedRise(parts, fedBatches(batches));
	return {
		kind: 'recipe',
		name: r.name,
		means: recipeMeans(r, shift, parts, learned?.riseUsCm ?? null),
		path: `/mix?part=batch&recipe=${encodeURIComponent(r.name)}`,
	};
}

/** Stations below one in the line. */
function below(context: SiteContext, code: string): SiteContext['stations'] {
	const found = new Set<string>([code]);
	for (let grew = true; grew; ) {
		grew = false;
		for (const s of context.stations)
			if (!found.has(s.code) && s.fedBy.some((f) => found.has(f))) {
				found.add(s.code);
				grew = true;
			}
	}
	return context.stations.filter((s) => s.code !== code && found.has(s.code));
}

/**
 * What depends on a water that has changed: recipes made with it, tanks whose solution still holds the old water, doses that
 * were learned with it, and what it feeds.
 */
export function dependantsOf(
	context: SiteContext,
	source: string,
	shift: { from: number; to: number; since: number },
	known: { recipes: readonly RecipeRow[]; products: readonly ProductView[]; batches: readonly BatchRow[] },
): Dependant[] {
	const list = known.recipes.filter((r) => r.water === source).map((r) => ofRecipe(r, shift, known));
	const tanks = new Set(known.batches.map((b) => b.station));
	for (const tank of tanks) {
		const batches = known.batches.filter((b) => b.station === tank && b.plan.water === source);
		const newest = known.batches.find((b) => b.station === tank);
		const name = context.stations.find((s) => s.code === tank)?.name ?? tank;
		if (newest && newest.plan.water === source && newest.startedAt < shift.since)
			list.push({
				kind: 'batch',
				name,
				means: { code: 'holds-old-water' },
				path: `/ledger?station=${encodeURIComponent(tank)}`,
			});
		const doses = batches
			.filter((b) => b.startedAt < shift.since)
			.reduce((sum, b) => sum + b.log.filter((s) => s.step === 'dosed').length, 0);
		if (doses > 0)
			list.push({
				kind: 'doses',
				name,
				means: { code: 'learned-before', doses },
				path: '/mix?part=dose',
			});
	}
	const fed = below(context, source);
	if (fed.length > 0)
		list.push({
			kind: 'station',
			name: fed.map((s) => s.name).join(', '),
			means: { code: 'runs-on' },
			path: '/',
		});
	return list;
}
