import type { Product } from '@/contract/products';
import { ACID_KINDS, BASE_KINDS } from '@/core/chem/acids';
import { readBottles } from '@/core/mix/feed/label-analysis';
import { SALT_NAMES } from '@/core/mix/feed/salts';
import { labelRate } from '@/core/mix/label-rate';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { labelProblemWords, NUTRIENT_WORDS } from '@/words/en/label';
import { remarkWords } from '@/words/en/remark';
import { ApiProblem } from '../data/client';
import { useCheckedForm } from '../ui/checked-form';
import { Field } from '../ui/Field';
import { ProductSays } from './ProductSays';
import { PRODUCT_FIELDS, type ProductBody, type ProductValues, productValues, readProduct } from './product-values';

const CHEMICALS: Record<Product['kind'], readonly string[]> = {
	nutrient: SALT_NAMES,
	acid: ACID_KINDS,
	base: BASE_KINDS,
};
const NO_CHEMICAL: Record<Product['kind'], string> = {
	nutrient: 'a mixed feed',
	acid: 'not said',
	base: 'not said',
};

/** One product: what its label says, what is left of it, how long it keeps. Each field says what it changes. */
export function ProductForm({
	site,
	product,
	onSave,
	onRetire,
}: {
	site: SiteView;
	product: Product;
	onSave: (body: ProductBody) => Promise<void>;
	onRetire: (retired: boolean) => void;
}) {
	const first = productValues(product);
	const read = (values: ProductValues) =>
		readProduct(product.name, first, values, { now: Date.now(), zone: site.timezone });
	const form = useCheckedForm({ address: 'POST /products', first, read, fields: PRODUCT_FIELDS });
	const { register, watch, formState } = form;
	const v = watch();
	const submit = form.handleSubmit(async (values) => {
		const typed = read(values);
		if (!typed.ok) return form.setError(typed.field, { message: typed.message });
		try {
			await onSave(typed.body);
		} catch (error) {
			if (!(error instanceof ApiProblem && form.say(error.errors)))
				form.setError('root', { message: (error as Error).message });
		}
	});
	const field = (name: keyof ProductValues, label: string, hint = '', mode: 'decimal' | 'text' = 'decimal') => (
		<Field label={label} width="max-w-96" wrong={formState.errors[name]?.message}>
			<input
				className="field"
				inputMode={mode}
				maxLength={200}
				aria-invalid={formState.errors[name] !== undefined}
				{...register(name, { validate: () => form.takes(name) })}
			/>
			{hint && <span className="text-soft text-[0.85rem] block pt-1">{hint}</span>}
		</Field>
	);
	const feed = v.kind === 'nutrient';
	const several = feed && Number(v.parts) > 1;
	const rate = v.rate.trim() ? labelRate(v.rate) : null;
	const unit = rate?.ok ? rate.value.unit : product.unit;
	return (
		<form className="grid gap-4" data-product={product.name} {...form.steady} onSubmit={submit}>
			<h2 className="text-[1.2rem]">{product.name}</h2>
			<ProductSays product={product} />
			<div className="grid sm:grid-cols-2 gap-4">
				<Field label="kind" width="max-w-96">
					<select className="field" {...register('kind', { onChange: () => form.setValue('chemical', '') })}>
						<option value="nutrient">feed</option>
						<option value="acid">acid: lowers pH</option>
						<option value="base">base: raises pH</option>
					</select>
				</Field>
				<Field label="what it is" width="max-w-96">
					<select className="field" {...register('chemical')}>
						<option value="">{NO_CHEMICAL[v.kind]}</option>
						{CHEMICALS[v.kind].map((c) => (
							<option key={c}>{c}</option>
						))}
					</select>
				</Field>
				{feed && (
					<>
						<Field label="bottles it comes in" width="max-w-96">
							<select className="field" {...register('parts')}>
								{['1', '2', '3', '4'].map((n) => (
									<option key={n} value={n}>
										{n === '1' ? 'one' : `${n}: A to ${String.fromCharCode(64 + Number(n))}, so much of each`}
									</option>
								))}
							</select>
						</Field>
						{field(
							'rate',
							'label’s rate, each bottle',
							rate?.ok
								? `${Number(rate.value.perL.toPrecision(4))} ${rate.value.unit} for each litre${rate.value.estimate ? '; a drop is an estimate, weigh or measure some' : ''}.`
								: 'As it stands there: 4 mL/L, 10 mL/gal, 2 tsp/gal, 1.5 g/L.',
							'text',
						)}
						{field(
							'gain',
							`EC it brings, µS/cm for each ${unit}/L`,
							'Leave it empty: the first batch teaches it, and its label leads to it.',
						)}
					</>
				)}
				{field(
					'percent',
					feed ? 'purity, % by weight' : '% by weight',
					feed ? 'Of a salt; empty: pure.' : 'Its strength: without it no dose is said before a jug has told it.',
				)}
				{field('density', 'g/mL', 'Weigh 100 mL and divide by a hundred; wanted where percent is by weight.')}
			</div>
			{feed && v.chemical === '' && (
				<Field
					label={`what the label says is in it${several ? '; A: and B: on lines of their own' : ''}`}
					width="max-w-[48rem]"
				>
					<textarea
						className="field"
						rows={3}
						maxLength={2000}
						placeholder={
							several ? 'A: N 8 %, CaO 11 %\nB: P2O5 5 %, K2O 14 %, MgO 3 %' : 'N 4 %, P2O5 2 %, K2O 7 %, MgO 1 %'
						}
						{...register('analysis')}
					/>
					<Understood values={v} unit={unit} />
				</Field>
			)}
			<div className="grid sm:grid-cols-2 gap-4">
				{field('stock', `in stock, ${unit}${several ? ' of each' : ''}`, 'Counted now; what is logged is taken off.')}
				{field('opened', 'opened', 'A day: 14 Jul, yesterday.', 'text')}
				{field('keeps', 'keeps after opening, days')}
				{field('expires', 'expires', 'A day, as 2026-12-31.', 'text')}
			</div>
			{formState.errors.root && (
				<p role="alert" className="text-error">
					{formState.errors.root.message}
				</p>
			)}
			<div className="flex flex-wrap gap-3">
				<button type="submit" className="act act-main" disabled={formState.isSubmitting}>
					Save
				</button>
				<button type="button" className="act !font-normal" data-retire onClick={() => onRetire(!product.retired)}>
					{product.retired ? 'Bring it back' : 'Retire it'}
				</button>
			</div>
		</form>
	);
}

/** How the label was understood, while it is typed. */
function Understood({ values: v, unit }: { values: ProductValues; unit: 'mL' | 'g' }) {
	if (v.analysis.trim() === '')
		return (
			<span className="text-soft text-[0.85rem] block pt-1">
				Percent or g/L, as element or oxide. From it follow what each litre holds, the EC, and what bears what in a
				stock tank.
			</span>
		);
	const { all } = readBottles(v.analysis, Number(v.parts), unit, decimal(v.density.trim()) ?? null);
	return (
		<span className="block pt-1 text-[0.9rem]" aria-live="polite" data-label-read={all.problems.length}>
			<span className="text-soft">
				{all.understood.map((u) => `${NUTRIENT_WORDS[u.key]} ${Number(u.percent.toPrecision(3))} %`).join(' · ')}
			</span>
			{[...all.problems.map(labelProblemWords), ...all.remarks.map(remarkWords)].map((w) => (
				<span key={w} className="block border-l-4 border-warning pl-2 my-0.5">
					{w}
				</span>
			))}
		</span>
	);
}
