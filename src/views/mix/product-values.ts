import type { Contract } from '@/contract';
import type { Call } from '@/contract/operation';
import type { Product } from '@/contract/products';
import { labelRate } from '@/core/mix/label-rate';
import { decimal } from '@/core/quantity';
import { parseDay } from '@/core/quantity/when';
import { problemWords } from '@/words/en/problem';
import { rateText } from './batch-draft';

/** A product as it is typed. */
export interface ProductValues {
	kind: Product['kind'];
	chemical: string;
	parts: string;
	rate: string;
	gain: string;
	percent: string;
	density: string;
	stock: string;
	opened: string;
	keeps: string;
	expires: string;
	analysis: string;
}
export type ProductBody = Call<'POST /products', Contract['POST /products']>['body'];

const text = (v: number | null): string => (v === null ? '' : String(v));

export const productValues = (p: Product): ProductValues => ({
	kind: p.kind,
	chemical: p.chemical,
	parts: String(p.parts),
	rate: p.rate_text || (p.rate_ml_per_l === null ? '' : rateText(p.rate_ml_per_l, p.unit)),
	gain: text(p.gain_us_cm_per_ml_l),
	percent: text(p.percent_w_w),
	density: text(p.density_g_ml),
	stock: text(p.stock_ml),
	opened: p.opened ?? '',
	keeps: text(p.keeps_days),
	expires: p.expires ?? '',
	analysis: p.analysis,
});

/** Where what is sent stands in the form, where it is not called the same. */
export const PRODUCT_FIELDS = {
	rate_text: 'rate',
	rate_ml_per_l: 'rate',
	gain_us_cm_per_ml_l: 'gain',
	percent_w_w: 'percent',
	density_g_ml: 'density',
	stock_ml: 'stock',
	keeps_days: 'keeps',
} as const;

/** What was typed, as it is kept; or the field that cannot be understood. */
export function readProduct(
	name: string,
	before: ProductValues,
	v: ProductValues,
	at: { now: number; zone: string },
): { ok: true; body: ProductBody } | { ok: false; field: keyof ProductValues; message: string } {
	const no = (field: keyof ProductValues, message: string) => ({ ok: false, field, message }) as const;
	const numbers: Partial<Record<keyof ProductValues, number | null>> = {};
	for (const field of ['gain', 'percent', 'density', 'stock', 'keeps'] as const) {
		const typed = v[field].trim();
		const n = typed === '' ? null : decimal(typed);
		if (n === undefined) return no(field, 'Write a number, or leave it empty.');
		numbers[field] = n;
	}
	const days: { opened: string | null; expires: string | null } = { opened: null, expires: null };
	for (const field of ['opened', 'expires'] as const) {
		const typed = v[field].trim();
		if (typed === '') continue;
		const day = parseDay(typed, at.now, at.zone);
		if (day === null) return no(field, 'Write a day: 14 Jul, yesterday, 2026-07-14.');
		days[field] = day;
	}
	const rate = v.rate.trim();
	if (rate !== '' && rate !== before.rate) {
		const read = labelRate(rate);
		if (!read.ok) return no('rate', problemWords(read.problem));
	}
	return {
		ok: true,
		body: {
			name,
			kind: v.kind,
			chemical: v.chemical,
			parts: Number(v.parts),
			...(rate === before.rate ? {} : rate === '' ? { rate_text: '', rate_ml_per_l: null } : { rate_text: rate }),
			gain_us_cm_per_ml_l: numbers.gain ?? null,
			percent_w_w: numbers.percent ?? null,
			density_g_ml: numbers.density ?? null,
			stock_ml: numbers.stock ?? null,
			keeps_days: numbers.keeps ?? null,
			...days,
			analysis: v.analysis,
		},
	};
}
