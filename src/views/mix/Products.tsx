import { useState } from 'react';
import { decimal } from '@/core/format/readings-row';
import { labelRate } from '@/core/mix/label-rate';
import { ACID_KINDS, BASES } from '@/core/water/acids';
import { api } from '../api';
import { AddByName, Choice, Text } from '../setup/fields';
import { CAUTION, type Product } from './types';

/** Household stand-ins: allowed, with what is wrong with them. */
const STAND_INS: Record<string, string> = {
	citric:
		'Lemon and lime juice are citric acid of uncertain strength; microbes eat it within days and the pH climbs back.',
	acetic: 'Vinegar is weak, smells, and is eaten by microbes; a batch holds for days, not weeks.',
	'sodium bicarbonate': 'Baking soda brings sodium, which builds up: for an emergency, not as a habit.',
};

/** Nutrients, acids and bases: strength, label rate, learned gain, stock. */
export function Products({ products: first }: { products: Product[] }) {
	const [products, setProducts] = useState(first);
	const [problem, setProblem] = useState('');
	const put = async (p: Partial<Product> & { name: string; kind: Product['kind'] }) => {
		try {
			const { strength_meq_per_ml: _, ...json } = p;
			const saved = await api<Product>('/products', { json });
			setProducts((list) =>
				list.some((x) => x.name === saved.name)
					? list.map((x) => (x.name === saved.name ? saved : x))
					: [...list, saved],
			);
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	return (
		<div>
			{products.map((p) => (
				<ProductForm key={p.name} product={p} onSave={put} />
			))}
			<AddByName label="Add a feed" onAdd={(name) => put({ name, kind: 'nutrient', parts: 2 })} />
			<AddByName label="Add an acid or base" onAdd={(name) => put({ name, kind: 'acid' })} />
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</div>
	);
}

function ProductForm({ product, onSave }: { product: Product; onSave: (p: Product) => void }) {
	const [p, setP] = useState(product);
	const [texts, setTexts] = useState<Record<string, string>>({});
	const rate = texts.rate?.trim() ? labelRate(texts.rate) : null;
	const number = (
		key: 'percent_w_w' | 'density_g_ml' | 'gain_us_cm_per_ml_l' | 'stock_ml',
		label: string,
		width = 'w-28',
	) => (
		<Text
			label={label}
			width={width}
			mode="decimal"
			value={texts[key] ?? (p[key] === null ? '' : String(p[key]))}
			onChange={(v) => {
				setTexts({ ...texts, [key]: v });
				setP({ ...p, [key]: v.trim() === '' ? null : (decimal(v.trim()) ?? p[key]) });
			}}
		/>
	);
	return (
		<form
			className="flex flex-wrap gap-2 items-end py-2 border-t border-line"
			data-product={p.name}
			onSubmit={(e) => {
				e.preventDefault();
				onSave(p);
			}}
		>
			<p className="w-40 font-bold pb-2">{p.name}</p>
			<Choice
				label="kind"
				width="w-28"
				value={p.kind}
				options={['nutrient', 'acid', 'base']}
				onChange={(v) => setP({ ...p, kind: v as Product['kind'] })}
			/>
			{p.kind === 'nutrient' ? (
				<>
					<Choice
						label="parts"
						width="w-20"
						value={String(p.parts)}
						options={['1', '2', '3']}
						onChange={(v) => setP({ ...p, parts: Number(v) })}
					/>
					<Text
						label="label, of each part"
						width="w-36"
						value={texts.rate ?? (p.rate_ml_per_l === null ? '' : `${Number(p.rate_ml_per_l.toPrecision(4))} mL/L`)}
						onChange={(v) => {
							setTexts({ ...texts, rate: v });
							const r = labelRate(v);
							setP({ ...p, rate_ml_per_l: v.trim() === '' ? null : r.ok ? r.mlPerL : p.rate_ml_per_l });
						}}
					/>
					{number('gain_us_cm_per_ml_l', 'µS/cm per mL/L')}
				</>
			) : (
				<>
					<Choice
						label="what it is"
						width="w-44"
						value={p.chemical}
						options={['', ...(p.kind === 'acid' ? ACID_KINDS : Object.keys(BASES))]}
						onChange={(v) => setP({ ...p, chemical: v })}
					/>
					{number('percent_w_w', '% by weight', 'w-24')}
					{number('density_g_ml', 'g/mL', 'w-20')}
				</>
			)}
			{number('stock_ml', 'stock, mL', 'w-24')}
			<label className="block w-36">
				<span className="field-label">opened</span>
				<input
					type="date"
					className="field"
					value={p.opened ?? ''}
					onChange={(e) => setP({ ...p, opened: e.target.value || null })}
				/>
			</label>
			<button type="submit" className="act !font-normal">
				Save
			</button>
			{rate && !rate.ok && <p className="w-full text-error text-[0.9rem]">{rate.message}</p>}
			{rate?.ok && (
				<p className="w-full text-soft text-[0.9rem]">
					{Number(rate.mlPerL.toPrecision(4))} mL for each litre
					{rate.estimate ? '; a drop is an estimate, weigh or measure some' : ''}.
				</p>
			)}
			{p.kind !== 'nutrient' && (
				<p className="w-full text-[0.9rem]">
					{product.strength_meq_per_ml === null
						? 'Strength unknown: no dose is said before a jug has told it.'
						: `${product.strength_meq_per_ml.toFixed(2)} meq in a millilitre.`}{' '}
					<span className="text-soft">{STAND_INS[p.chemical] ?? ''}</span>{' '}
					<span className="border-l-4 border-warning pl-2">{CAUTION}</span>
				</p>
			)}
		</form>
	);
}
