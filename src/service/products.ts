import { bottleWords, leftOf } from '@/core/mix/bottle';
import { batchFigures, gainOf } from '@/core/mix/compare-batches';
import { median } from '@/core/series/robust';
import { ACID_KINDS, type AcidKind, BASES, type BaseKind, molPerLitre, protonsGiven } from '@/core/water/acids';
import { type BatchRow, listPoured, listProducts, type ProductRow, putProduct } from '@/store/mix';
import { type Db, type Pool, transaction } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

const TYPICAL_PH = 5.8;

/** meq per mL by the label, else by a jug; null where nobody knows. */
export function strengthOf(p: ProductRow): number | null {
	if (p.percentWw !== null && p.densityGMl !== null) {
		if ((ACID_KINDS as readonly string[]).includes(p.chemical)) {
			const kind = p.chemical as AcidKind;
			return molPerLitre(kind, p.percentWw, p.densityGMl) * protonsGiven(kind, TYPICAL_PH);
		}
		if (Object.hasOwn(BASES, p.chemical)) {
			const base = BASES[p.chemical as BaseKind];
			return ((p.percentWw * 10 * p.densityGMl) / base.gPerMol) * base.meqPerMmol;
		}
	}
	return p.jugMeqMl;
}

/** A product with what follows from it and from what was poured. */
export interface ProductView extends ProductRow {
	strengthMeqMl: number | null;
	/** Of each part, counted down by what was logged. */
	left: number | null;
	/** What is to be said before it is poured from. */
	bottle: string[];
	/** What its batches have shown, µS/cm for each mL/L (or g/L) of each part. */
	learnedGain: { gainUsCm: number; batches: number } | null;
}

const LEARN_FROM_BATCHES = 12;

/** The gain of a feed by its newest batches: their median, so that one wrong dipstick does not move it. */
export function learnedGain(batches: readonly BatchRow[], product: string): ProductView['learnedGain'] {
	const gains = batches
		.filter((b) => b.plan.product === product)
		.flatMap((b) => {
			const gain = gainOf(batchFigures(b.plan, b.log, b.startedAt, b.finishedAt));
			return gain === null ? [] : [gain];
		})
		.slice(0, LEARN_FROM_BATCHES);
	return gains.length === 0 ? null : { gainUsCm: median(gains), batches: gains.length };
}

const dayOf = (at: number, zone: string): string =>
	new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' }).format(at);

export async function productViews(
	db: Db,
	context: SiteContext,
	batches: readonly BatchRow[],
	now: number,
): Promise<ProductView[]> {
	const poured = await listPoured(db, context.site.id);
	const today = dayOf(now, context.site.timezone);
	return (await listProducts(db, context.site.id)).map((p) => {
		const bottle = { ...p, stock: p.stockMl };
		const left = leftOf(
			bottle,
			poured.filter((x) => x.product === p.name),
		);
		return {
			...p,
			strengthMeqMl: strengthOf(p),
			left,
			bottle: bottleWords(bottle, left, today),
			learnedGain: p.kind === 'nutrient' ? learnedGain(batches, p.name) : null,
		};
	});
}

export async function requireProduct(db: Db, context: SiteContext, name: string): Promise<ProductRow> {
	const product = (await listProducts(db, context.site.id)).find((p) => p.name.toLowerCase() === name.toLowerCase());
	if (!product)
		throw new Refusal(422, 'unknown-product', [{ path: 'product', message: `There is no product “${name}”.` }]);
	return product;
}

/** Makes a product or changes it. A stock that differs from the one before was counted just now. */
export async function saveProduct(
	pool: Pool,
	context: SiteContext,
	p: Omit<ProductRow, 'id' | 'stockAt'>,
	now: number,
	who: string,
): Promise<ProductRow> {
	return transaction(pool, async (client) => {
		const before = (await listProducts(client, context.site.id)).find((x) => x.name === p.name);
		const counted = p.stockMl === null ? null : before?.stockMl === p.stockMl ? (before.stockAt ?? now) : now;
		const saved = await putProduct(client, context.site.id, { ...p, stockAt: counted });
		await insertAudit(client, context.site.id, who, 'product.saved', p.name, p);
		return saved;
	});
}
