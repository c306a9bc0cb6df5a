import { useState } from 'react';
import type { Product } from '@/contract/products';
import { ACID_KINDS, BASE_KINDS } from '@/core/chem/acids';
import { labelRate } from '@/core/mix/label-rate';
import { decimal } from '@/core/quantity';
import { problemWords } from '@/words/en/problem';
import { api } from '../data/client';
import { AddByName, Choice, Text } from '../setup/fields';
import { cautionOf, STAND_INS } from './words';

/** Nutrients, acids and bases: strength, label rate, learned gain, stock and dates. */
export function Products({
	products,
	onChange,
}: {
	products: Product[];
	onChange: (change: (list: Product[]) => Product[]) => void;
}) {
	const [problem, setProblem] = useState('');
	const [said, setSaid] = useState('');
	const put = async (p: Partial<Product> & { name: string; kind: Product['kind'] }) => {
		try {
			// What is worked out by the server is not typed.
			const {
				strength_meq_per_ml: _strength,
				left_ml: _left,
				bottle: _bottle,
				learned_gain_us_cm_per_ml_l: _gain,
				learned_from_batches: _batches,
				...body
			} = p;
			const saved = await api('POST /products', { body });
			onChange((list) =>
				list.some((x) => x.name === saved.name)
					? list.map((x) => (x.name === saved.name ? saved : x))
					: [...list, saved],
			);
			setProblem('');
			setSaid(`${saved.name} is kept.`);
		} catch (error) {
			setSaid('');
			setProblem((error as Error).message);
		}
	};
	return (
		<div>
			{products.length === 0 && (
				<p className="mb-2">
					Add what you pour: the feed with its label’s rate, and the acid or base with its percent. Everything else can
					be filled in later.
				</p>
			)}
			{products.map((p) => (
				<ProductForm key={`${p.name}${p.left_ml}${p.strength_meq_per_ml}`} product={p} onSave={put} />
			))}
			<AddByName label="Add a feed" onAdd={(name) => put({ name, kind: 'nutrient', parts: 2 })} />
			<AddByName label="Add an acid or base" onAdd={(name) => put({ name, kind: 'acid' })} />
			<p aria-live="polite">{said}</p>
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
	const rateText =
		texts.rate ??
		(p.rate_text || (p.rate_ml_per_l === null ? '' : `${Number(p.rate_ml_per_l.toPrecision(4))} ${p.unit}/L`));
	const rate = texts.rate?.trim() ? labelRate(texts.rate) : null;
	const unit = rate?.ok ? rate.value.unit : p.unit;
	const number = (
		key: 'percent_w_w' | 'density_g_ml' | 'gain_us_cm_per_ml_l' | 'stock_ml' | 'keeps_days',
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
	const date = (key: 'opened' | 'expires', label: string) => (
		<label className="block w-36">
			<span className="field-label">{label}</span>
			<input
				type="date"
				className="field"
				value={p[key] ?? ''}
				onChange={(e) => setP({ ...p, [key]: e.target.value || null })}
			/>
		</label>
	);
	return (
		<form
			className="flex flex-wrap gap-2 items-end py-2 border-t border-line"
			data-product={p.name}
			onSubmit={(e) => {
				e.preventDefault();
				onSave(
					texts.rate === undefined
						? p
						: { ...p, rate_text: texts.rate.trim(), ...(texts.rate.trim() === '' ? { rate_ml_per_l: null } : {}) },
				);
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
						label="label’s rate, each part"
						width="w-36"
						value={rateText}
						onChange={(v) => setTexts({ ...texts, rate: v })}
					/>
					{number('gain_us_cm_per_ml_l', `µS/cm per ${unit}/L`)}
				</>
			) : (
				<>
					<Choice
						label="what it is"
						width="w-44"
						value={p.chemical}
						options={['', ...(p.kind === 'acid' ? ACID_KINDS : BASE_KINDS)]}
						labels={{ '': 'not said' }}
						onChange={(v) => setP({ ...p, chemical: v })}
					/>
					{number('percent_w_w', '% by weight', 'w-24')}
					{number('density_g_ml', 'g/mL', 'w-20')}
				</>
			)}
			{number('stock_ml', `stock, ${unit}${p.kind === 'nutrient' && p.parts > 1 ? ' each' : ''}`, 'w-28')}
			{date('opened', 'opened')}
			{number('keeps_days', 'keeps, days', 'w-24')}
			{date('expires', 'expires')}
			<button type="submit" className="act !font-normal">
				Save
			</button>
			{rate && !rate.ok && <p className="w-full text-error text-[0.9rem]">{problemWords(rate.problem)}</p>}
			{rate?.ok && (
				<p className="w-full text-soft text-[0.9rem]">
					{Number(rate.value.perL.toPrecision(4))} {rate.value.unit} for each litre
					{rate.value.estimate ? '; a drop is an estimate, weigh or measure some' : ''}.
				</p>
			)}
			<div className="w-full text-[0.9rem]">
				{p.kind === 'nutrient' && product.learned_gain_us_cm_per_ml_l !== null && (
					<p data-learned-gain>
						It has raised EC by {product.learned_gain_us_cm_per_ml_l.toFixed(0)} µS/cm for each {product.unit}/L (median
						of the last {product.learned_from_batches}); plans go by that.
					</p>
				)}
				{p.kind !== 'nutrient' && (
					<p>
						{product.strength_meq_per_ml === null
							? 'Strength unknown: no dose is said before a jug has told it.'
							: `${product.strength_meq_per_ml.toFixed(2)} meq in a millilitre.`}{' '}
						<span className="text-soft">{STAND_INS[p.chemical] ?? ''}</span>{' '}
						<span className="border-l-4 border-warning pl-2">{cautionOf(p.kind)}</span>
					</p>
				)}
				{product.left_ml !== null && (
					<p data-left>
						{Math.max(product.left_ml, 0).toFixed(0)} {product.unit} left{product.parts > 1 ? ' of each part' : ''},
						counted down by what was logged.
					</p>
				)}
				{product.bottle.map((w) => (
					<p key={w} className="border-l-4 border-warning pl-2" data-bottle>
						{w}
					</p>
				))}
			</div>
		</form>
	);
}
