import { useState } from 'react';
import type { Product, Recipe } from '@/contract/products';
import type { FeedPlan } from '@/core/mix/feed/plan';
import { stockPlan, tankFor, trueRatio } from '@/core/mix/feed/stock-tank';
import type { DisplayUnits } from '@/core/reading/site-view';
import { remarkWords } from '@/words/en/remark';
import { Text } from '../ui/controls';
import { ecShown, ecTyped, ecUnit, litresTyped, volumeName, volumeWithUnit } from './typed';
import { poured } from './words';

/** A recipe as concentrates for an injector: what goes into each stock tank, and what the injector truly gives. */
export function StockTanks({
	recipe,
	plan,
	products,
	waterEcUsCm,
	units,
}: {
	recipe: Recipe;
	plan: FeedPlan;
	products: readonly Product[];
	waterEcUsCm: number | null;
	units: DisplayUnits;
}) {
	const [litres, setLitres] = useState('20');
	const [seen, setSeen] = useState('');
	const ratio = recipe.injector!;
	const volume = litresTyped(litres, units);
	const parts = plan.pours.map((p) => {
		const product = products.find((x) => x.name === p.product);
		const bottle = p.bottle === '' ? 0 : p.bottle.charCodeAt(0) - 65;
		const content = product?.bottles[bottle] ?? null;
		const own = recipe.parts.find((x) => x.product === p.product)?.stock_tank ?? '';
		return { ...p, content, salt: product?.chemical ?? '', tank: own || tankFor({ bottle: p.bottle, content }) };
	});
	const stock = stockPlan(parts, ratio, volume !== undefined && volume > 0 ? volume : 0);
	const ec = ecTyped(seen, units);
	const gives =
		ec !== undefined && waterEcUsCm !== null && plan.expectedEcUsCm !== null
			? trueRatio(ratio, { waterEcUsCm, expectedEcUsCm: plan.expectedEcUsCm, seenEcUsCm: ec })
			: null;
	return (
		<div className="my-2 border-l-4 border-line pl-3" data-stock={recipe.name}>
			<div className="flex flex-wrap gap-2 items-end">
				<Text
					label={`in each stock tank, ${volumeName(units)}`}
					width="w-44"
					mode="decimal"
					value={litres}
					onChange={setLitres}
				/>
				{plan.expectedEcUsCm !== null && (
					<Text
						label={`EC that comes out, ${ecUnit(units)}`}
						width="w-44"
						mode="decimal"
						value={seen}
						onChange={setSeen}
					/>
				)}
			</div>
			{stock.tanks.map((t) => (
				<p key={t.tank} data-stock-tank={t.tank}>
					<strong>Stock tank {t.tank}:</strong>{' '}
					{t.amounts
						.map((a) => `${amountOf(a.amount, a.unit)} of ${a.product}${a.bottle && `, part ${a.bottle}`}`)
						.join('; ')}
					, filled up with water.
				</p>
			))}
			{stock.feedL > 0 && (
				<p className="text-soft">
					At 1 in {ratio} that makes {volumeWithUnit(stock.feedL, units)} of feed
					{plan.expectedEcUsCm !== null && ` of EC ${ecShown(plan.expectedEcUsCm, units)}`}.
				</p>
			)}
			{gives !== null && (
				<p data-true-ratio>
					So the injector gives 1 in {gives.toFixed(0)}
					{Math.abs(gives / ratio - 1) > 0.1 ? ': set it, clean it, or look whether the stock has settled.' : '.'}
				</p>
			)}
			{stock.remarks.map((r) => (
				<p key={remarkWords(r)} className="border-l-4 border-warning pl-2 my-0.5">
					{remarkWords(r)}
				</p>
			))}
			<p className="border-l-4 border-warning pl-2 my-0.5 text-[0.92rem]" data-caution>
				Concentrates: gloves and eye protection, no food containers, labelled and out of reach of children. The acid has
				a stock tank of its own.
			</p>
		</div>
	);
}

const amountOf = (amount: number, unit: 'mL' | 'g'): string =>
	amount >= 1000
		? `${Number((amount / 1000).toPrecision(3))} ${unit === 'mL' ? 'L' : 'kg'}`
		: `${poured(amount)} ${unit}`;
