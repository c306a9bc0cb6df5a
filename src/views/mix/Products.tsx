import { useState } from 'react';
import type { Product } from '@/contract/products';
import { STAND_INS, type StandIn } from '@/core/mix/stand-ins';
import { ApiProblem, api } from '../data/client';
import { onlyChanged } from '../data/seen';
import { AddByName } from '../ui/controls';
import { Notice } from '../ui/Notice';
import { Overtaken } from '../ui/Overtaken';
import { ProductForm } from './ProductForm';
import type { ProductBody } from './product-values';
import { type MixThings, useMix } from './use-mix';

const KINDS: Record<Product['kind'], string> = { nutrient: 'Feeds', acid: 'Acids', base: 'Bases' };

/** The shelf: what is on it, and the one that is looked at. */
export function Products(things: MixThings) {
	const { site, shelf } = useMix(things);
	const [products, onChange] = useState(shelf);
	const [name, setName] = useState(
		(products.find((p) => !p.retired && p.kind === 'nutrient') ?? products.find((p) => !p.retired))?.name ?? '',
	);
	const [said, setSaid] = useState({ said: '', problem: '' });
	const [overtaken, setOvertaken] = useState(false);
	const asItIs = () =>
		api('GET /products').then(
			(fresh) => {
				onChange(fresh.products);
				setOvertaken(false);
			},
			(error: Error) => setSaid({ said: '', problem: error.message }),
		);
	/** @throws ApiProblem */
	const keep = async (body: ProductBody, words: (p: Product) => string) => {
		setOvertaken(false);
		// Of what is there already only what is other is sent.
		const before: ProductBody | undefined = products.find((p) => p.name === body.name);
		const saved = await api('POST /products', { body: onlyChanged(before, body, ['name', 'kind']) }).catch((error) => {
			setOvertaken(error instanceof ApiProblem && error.overtaken);
			throw error;
		});
		onChange((list) =>
			list.some((x) => x.name === saved.name) ? list.map((x) => (x.name === saved.name ? saved : x)) : [...list, saved],
		);
		setName(saved.name);
		setSaid({ said: words(saved), problem: '' });
	};
	const attempt = (body: ProductBody, words: (p: Product) => string) =>
		keep(body, words).catch((error: Error) => setSaid({ said: '', problem: error.message }));
	const saved = (p: Product) => `${p.name} is kept.`;
	/** What is there already is shown and stays what it is: an acid does not become a feed by its name. */
	const add = (n: string, kind: Product['kind']): void => {
		if (!products.some((p) => p.name === n)) {
			void attempt({ name: n, kind }, saved);
			return;
		}
		setName(n);
		setSaid({ said: `${n} is there already.`, problem: '' });
	};
	const chosen = products.find((p) => p.name === name);
	const item = (p: Product) => (
		<li key={p.name}>
			<button
				type="button"
				aria-pressed={p.name === name}
				data-shelf={p.name}
				onClick={() => {
					setName(p.name);
					setOvertaken(false);
				}}
				className={`w-full text-left px-2 min-h-11 border-l-4 cursor-pointer ${p.name === name ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
			>
				{p.name}
				{p.bottle.length + p.label_says.length > 0 && !p.retired && (
					<span className="text-warning font-normal"> look at it</span>
				)}
				{p.left_ml !== null && (
					<span className="text-soft font-normal float-right">
						{Math.max(p.left_ml, 0).toFixed(0)} {p.unit}
					</span>
				)}
			</button>
		</li>
	);
	const retired = products.filter((p) => p.retired);
	const unused = (Object.keys(STAND_INS) as StandIn[]).filter((s) => !products.some((p) => p.name === s));
	return (
		<div className="grid lg:grid-cols-[20rem_1fr] gap-x-10 gap-y-4">
			<nav aria-label="Products">
				{(Object.keys(KINDS) as Product['kind'][]).map((kind) => {
					const list = products.filter((p) => p.kind === kind && !p.retired);
					return list.length === 0 ? null : (
						<div key={kind} className="mb-3">
							<h2>{KINDS[kind]}</h2>
							<ul>{list.map(item)}</ul>
						</div>
					);
				})}
				<AddByName label="Add a feed" onAdd={(n) => add(n, 'nutrient')} />
				<AddByName label="Add an acid or base" onAdd={(n) => add(n, 'acid')} />
				{unused.length > 0 && (
					<details className="mt-3">
						<summary className="cursor-pointer min-h-8">From the kitchen, for an emergency</summary>
						<ul>
							{unused.map((s) => {
								const { kind, chemical, percentWw, densityGMl } = STAND_INS[s];
								return (
									<li key={s}>
										<button
											type="button"
											className="underline cursor-pointer min-h-11"
											data-stand-in={s}
											onClick={() =>
												attempt(
													{ name: s, kind, chemical, percent_w_w: percentWw, density_g_ml: densityGMl },
													(p) => `${p.name} is on the shelf; its strength is a guess until a jug has told it.`,
												)
											}
										>
											{s}
										</button>
									</li>
								);
							})}
						</ul>
					</details>
				)}
				{retired.length > 0 && (
					<details className="mt-3" data-retired>
						<summary className="cursor-pointer text-soft min-h-8">Retired: {retired.length}</summary>
						<ul>{retired.map(item)}</ul>
					</details>
				)}
			</nav>
			<div>
				<Notice {...said} />
				{chosen ? (
					<ProductForm
						key={JSON.stringify(chosen)}
						site={site}
						product={chosen}
						onSave={(body) => keep(body, saved)}
						onRetire={(retired) =>
							attempt({ name: chosen.name, kind: chosen.kind, retired }, (p) =>
								retired
									? `${p.name} is retired: lists forget it, what was poured of it stays.`
									: `${p.name} is back on the shelf.`,
							)
						}
					/>
				) : (
					<p className="max-w-[60ch]">
						Add what you pour: the feed with its label’s rate, and the acid or base with its percent. Everything else
						can be filled in later.
					</p>
				)}
				{overtaken && <Overtaken onTake={() => void asItIs()} />}
			</div>
		</div>
	);
}
