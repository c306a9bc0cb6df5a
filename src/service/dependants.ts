import type { Dependant } from '@/contract/pages';
import type { BatchRow, RecipeRow } from '@/store/mix';
import type { ProductView } from './products';
import type { SiteContext } from './site';

/** Something that was made with a water, or is fed by it, and what its change means for it. */
const mS = (v: number) => (v / 1000).toFixed(2);

/** Feed for each litre that reaches a target from a water; null where it cannot be said. */
const feedPerL = (targetUsCm: number | null, waterUsCm: number, gain: number | null): number | null =>
	targetUsCm === null || gain === null ? null : Math.max(targetUsCm - waterUsCm, 0) / gain;

function ofRecipe(r: RecipeRow, shift: { from: number; to: number }, product: ProductView | undefined): Dependant {
	const gain = product?.learnedGainUsCm ?? product?.gainUsCm ?? null;
	const [before, after] = [shift.from, shift.to].map((w) => feedPerL(r.targetEcUsCm, w, gain));
	const unit = `${product?.unit ?? 'mL'}/L`;
	const words =
		r.targetEcUsCm !== null && r.targetEcUsCm <= shift.to
			? `the water alone is over its target of ${mS(r.targetEcUsCm)}: it wants another water or a blend.`
			: before != null && after != null
				? `${after.toFixed(2)} ${unit} instead of ${before.toFixed(2)} for the same ${mS(r.targetEcUsCm!)}; the next batch is planned so.`
				: r.strength !== null
					? `at ${Math.round(100 * r.strength)} % of the label its EC comes out ${mS(Math.abs(shift.to - shift.from))} ${shift.to > shift.from ? 'higher' : 'lower'}.`
					: 'its feed is planned from the new EC.';
	return { kind: 'recipe', name: r.name, words, path: `/mix?part=batch&recipe=${encodeURIComponent(r.name)}` };
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
	const list = known.recipes
		.filter((r) => r.water === source)
		.map((r) =>
			ofRecipe(
				r,
				shift,
				known.products.find((p) => p.name === r.product),
			),
		);
	const tanks = new Set(known.batches.map((b) => b.station));
	for (const tank of tanks) {
		const batches = known.batches.filter((b) => b.station === tank && b.plan.water === source);
		const newest = known.batches.find((b) => b.station === tank);
		const name = context.stations.find((s) => s.code === tank)?.name ?? tank;
		if (newest && newest.plan.water === source && newest.startedAt < shift.since)
			list.push({
				kind: 'batch',
				name,
				words: 'what is in it was mixed with the water of before.',
				path: `/ledger?station=${encodeURIComponent(tank)}`,
			});
		const doses = batches
			.filter((b) => b.startedAt < shift.since)
			.reduce((sum, b) => sum + b.log.filter((s) => s.step === 'dosed').length, 0);
		if (doses > 0)
			list.push({
				kind: 'doses',
				name,
				words: `${doses} ${doses === 1 ? 'dose was' : 'doses were'} learned with the water of before; nothing is concluded from them now.`,
				path: '/mix?part=dose',
			});
	}
	const fed = below(context, source);
	if (fed.length > 0)
		list.push({
			kind: 'station',
			name: fed.map((s) => s.name).join(', '),
			words: 'it runs on to these: look at their next readings.',
			path: '/',
		});
	return list;
}
