import type { Product } from '@/contract/products';
import { Choice, Text } from '../ui/controls';
import { type PartDraft, partOf, rateText } from './batch-draft';
import { typedPart } from './batch-plan';

/** What is poured, in its order: one product, or several with their own rates. */
export function FeedList({
	parts,
	products,
	onChange,
}: {
	parts: readonly PartDraft[];
	/** Feeds alone. */
	products: readonly Product[];
	onChange: (parts: PartDraft[]) => void;
}) {
	const several = parts.length > 1;
	const change = (i: number, more: Partial<PartDraft>) =>
		onChange(parts.map((p, at) => (at === i ? { ...p, ...more } : p)));
	const swap = (i: number) => onChange(parts.map((p, at) => (at === i - 1 ? parts[i]! : at === i ? parts[i - 1]! : p)));
	const ownRate = (name: string) => {
		const p = products.find((x) => x.name === name);
		return p?.rate_text || (p?.rate_ml_per_l != null ? rateText(p.rate_ml_per_l, p.unit) : undefined);
	};
	const unused = products.find((p) => !parts.some((x) => x.product === p.name)) ?? products[0];
	return (
		<fieldset className="w-full border-t border-line pt-2" data-feed={parts.length}>
			<legend className="sr-only">What is poured, in this order</legend>
			{parts.map((p, i) => (
				<div key={`${i}${parts.length}`} className="flex flex-wrap gap-2 items-end mb-2" data-feed-part={p.product}>
					<Choice
						label={several ? `${i + 1}. product` : 'feed'}
						width="w-44"
						value={p.product}
						options={products.map((x) => x.name)}
						onChange={(product) => change(i, { product, rate: '' })}
					/>
					{several && (
						<>
							<Text
								label={`rate for each litre${ownRate(p.product) && p.rate === '' ? `: ${ownRate(p.product)}` : ''}`}
								width="w-52"
								value={p.rate}
								wrong={typedPart(p).wrong || undefined}
								onChange={(rate) => change(i, { rate })}
							/>
							<Text
								label="wait, min"
								width="w-20"
								mode="decimal"
								value={p.wait}
								onChange={(wait) => change(i, { wait })}
							/>
							<Choice
								label="its rate"
								width="w-44"
								value={p.scales ? 'follows' : 'stays'}
								options={['follows', 'stays']}
								labels={{ follows: 'follows the target', stays: 'stays as it is' }}
								onChange={(v) => change(i, { scales: v === 'follows' })}
							/>
							{i > 0 && (
								<button
									type="button"
									className="underline cursor-pointer min-h-11 px-1"
									aria-label={`${p.product} before ${parts[i - 1]!.product}`}
									onClick={() => swap(i)}
								>
									earlier
								</button>
							)}
							<button
								type="button"
								className="underline cursor-pointer min-h-11 px-1 text-soft"
								aria-label={`Leave ${p.product} out`}
								onClick={() => onChange(parts.filter((_, at) => at !== i))}
							>
								leave out
							</button>
						</>
					)}
				</div>
			))}
			{unused && (
				<button
					type="button"
					className="underline cursor-pointer min-h-11"
					data-add-part
					onClick={() => onChange([...parts, partOf(unused.name)])}
				>
					another product
				</button>
			)}
			{several && (
				<p className="text-soft text-[0.9rem] max-w-[75ch]">
					Poured in this order, each into the tank and stirred before the next: never concentrate on concentrate.
					Silicate goes first, into plain water.
				</p>
			)}
		</fieldset>
	);
}
