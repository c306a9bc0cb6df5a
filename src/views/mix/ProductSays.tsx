import type { Product } from '@/contract/products';
import { cautionOf, STAND_IN_WORDS } from './words';

/** What follows from a product: what it has shown, how strong it is, what is left, and what to mind. */
export function ProductSays({ product: p }: { product: Product }) {
	const says: string[] = [];
	if (p.kind === 'nutrient') {
		if (p.learned_gain_us_cm_per_ml_l !== null)
			says.push(
				`It has raised EC by ${p.learned_gain_us_cm_per_ml_l.toFixed(0)} µS/cm for each ${p.unit}/L (median of the last ${p.learned_from_batches}); plans go by that.`,
			);
		if (p.gain_by_label_us_cm_per_ml_l !== null)
			says.push(
				`By its label it brings about ${p.gain_by_label_us_cm_per_ml_l.toFixed(0)} µS/cm for each ${p.unit}/L.`,
			);
	} else
		says.push(
			p.strength_meq_per_ml === null
				? 'Strength unknown: no dose is said before a jug has told it.'
				: `${p.strength_meq_per_ml.toFixed(2)} meq in a millilitre.`,
		);
	const standIn = STAND_IN_WORDS[p.chemical];
	return (
		<div className="text-[0.95rem] max-w-[75ch]" data-says>
			{says.map((w) => (
				<p key={w}>{w}</p>
			))}
			{p.left_ml !== null && (
				<p data-left>
					{Math.max(p.left_ml, 0).toFixed(0)} {p.unit} left{p.parts > 1 ? ' of each bottle' : ''}, counted down by what
					was logged.
				</p>
			)}
			{[...p.bottle, ...p.label_says].map((w) => (
				<p key={w} className="border-l-4 border-warning pl-2 my-0.5" data-bottle>
					{w}
				</p>
			))}
			{standIn && <p className="border-l-4 border-warning pl-2 my-0.5">{standIn}</p>}
			{p.kind !== 'nutrient' && (
				<p className="border-l-4 border-warning pl-2 my-0.5" data-caution>
					{cautionOf(p.kind)}
				</p>
			)}
		</div>
	);
}
