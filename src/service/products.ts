import type { z } from 'zod';
import { type product, TYPED_NAMES, type TypedProduct } from '@/contract/products';
import { ACID_KINDS, type AcidKind, BASES, type BaseKind, molPerLitre, protonsGiven } from '@/core/chem/acids';
import { bottleRemarks, leftOf } from '@/core/mix/bottle';
import { type Content, ionsOf, sumOf } from '@/core/mix/feed/content';
import { feedEc } from '@/core/mix/feed/feed-ec';
import { readBottles } from '@/core/mix/feed/label-analysis';
import { isSalt, saltContent } from '@/core/mix/feed/salts';
import { labelRate } from '@/core/mix/label-rate';
import { type BatchRow, listBatches } from '@/store/batches';
import { listPoured, listProducts, type ProductRow, putProduct } from '@/store/mix';
import { atOnce, type Client, type Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { labelProblemWords } from '@/words/en/label';
import { problemWords } from '@/words/en/problem';
import { remarkWords } from '@/words/en/remark';
import { changed } from './changed';
import { dayOf } from './day-of';
import { gainOfAll, gainsOfBatches, gainsOfFeeding } from './gains';
import { Refusal } from './refusal';
import { requireSeen } from './seen';
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

/** mL or g for each litre at which a label's EC is reckoned, where it names no rate. */
const USUAL_PER_L = 2;
/** Less than this of a label's charge may be unnamed without a word. */
const UNNAMED_SHARE = 0.1;

/** What a salt holds; null for anything else. */
const pureContent = (p: ProductRow): Content | null =>
	p.kind === 'nutrient' && isSalt(p.chemical) ? sumOf([[saltContent(p.chemical), (p.percentWw ?? 100) / 100]]) : null;

/** What is in a product, by what it is or by its label; null where neither says. */
export const contentOf = (p: ProductRow): Content | null =>
	pureContent(p) ?? readBottles(p.analysis, p.parts, p.unit, p.densityGMl).all.content;

/** What its label says is in a product, and the EC that follows from it. */
function labelOf(p: ProductRow) {
	const pure = pureContent(p);
	const { all, each } = readBottles(p.analysis, p.parts, p.unit, p.densityGMl);
	const contains = pure ?? all.content;
	const perL = p.rateMlL ?? USUAL_PER_L;
	const ec = contains === null ? null : feedEc(ionsOf(sumOf([[contains, perL]])));
	// Silicate is what balances the potassium of its label.
	const silicate = (contains?.si_mg_l ?? 0) > 0 && (ec?.unnamedMeqL ?? 0) > 0;
	const leavesOut = ec !== null && !silicate && ec.unnamedShare > UNNAMED_SHARE;
	return {
		contains,
		bottles: pure !== null ? [pure] : each,
		labelSays:
			pure !== null
				? []
				: [
						...all.problems.map(labelProblemWords),
						...all.remarks.map(remarkWords),
						...(leavesOut ? [remarkWords({ code: 'label-leaves-out', share: ec.unnamedShare })] : []),
					],
		gainByLabelUsCm: ec !== null && ec.ecUsCm > 0 ? ec.ecUsCm / perL : null,
	};
}

/** A product with what follows from it and from what was poured. */
export type ProductView = ProductRow & z.output<typeof product>;

export async function productViews(
	db: Db,
	context: SiteContext,
	batches: readonly BatchRow[],
	now: number,
): Promise<ProductView[]> {
	const [poured, fed, products] = await atOnce(db, [
		() => listPoured(db, context.site.id),
		() => gainsOfFeeding(db, context, now),
		() => listProducts(db, context.site.id),
	]);
	const today = dayOf(now, context.site.timezone);
	return products.map((p) => {
		const bottle = { ...p, stock: p.stockMl };
		const left = leftOf(
			bottle,
			poured.filter((x) => x.product === p.name),
		);
		return {
			...p,
			...labelOf(p),
			strengthMeqMl: strengthOf(p),
			leftMl: left,
			bottle: bottleRemarks(bottle, left, today).map(remarkWords),
			...(p.kind === 'nutrient'
				? gainOfAll(gainsOfBatches(batches, p.name), fed.get(p.name.toLowerCase()))
				: gainOfAll([])),
		};
	});
}

export async function requireProduct(db: Db, context: SiteContext, name: string): Promise<ProductRow> {
	const product = (await listProducts(db, context.site.id)).find((p) => p.name.toLowerCase() === name.toLowerCase());
	if (!product) throw new Refusal('unknown-product', [{ path: 'product', message: `There is no product “${name}”.` }]);
	return product;
}

/** The products of a feed, each a nutrient; a name that is none is told by its place. */
export async function requireFeeds(
	db: Db,
	context: SiteContext,
	parts: readonly { product: string }[],
	path: string,
): Promise<ProductRow[]> {
	const all = await listProducts(db, context.site.id);
	return parts.map(({ product: name }, i) => {
		const product = all.find((p) => p.name.toLowerCase() === name.toLowerCase());
		const at = `${path}.${i}.product`;
		if (!product) throw new Refusal('unknown-product', [{ path: at, message: `There is no product “${name}”.` }]);
		if (product.kind !== 'nutrient')
			throw new Refusal('not-a-feed', [
				{ path: at, message: `“${product.name}” is no feed; a batch and its recipe are made of feeds.` },
			]);
		return product;
	});
}

/** Batches that a gain is learned from. */
const LEARN_FROM_BATCHES = 60;
export const productList = async (db: Db, context: SiteContext, now: number): Promise<ProductView[]> =>
	productViews(db, context, await listBatches(db, context.site.id, LEARN_FROM_BATCHES), now);

const PLAIN_PRODUCT = {
	chemical: '',
	percentWw: null,
	densityGMl: null,
	jugMeqMl: null,
	parts: 1,
	unit: 'mL',
	rateMlL: null,
	rateText: '',
	gainUsCm: null,
	stockMl: null,
	opened: null,
	keepsDays: null,
	expires: null,
	note: '',
	analysis: '',
	retired: false,
} as const;

/** Makes a product, or changes the one with this name. The label's own words, where given, say rate and unit. */
export async function changeProduct(
	db: Db,
	context: SiteContext,
	{ seen, ...change }: TypedProduct,
	now: number,
	who: string,
): Promise<ProductView> {
	const label = change.rateText?.trim() ? labelRate(change.rateText) : null;
	if (label && !label.ok) throw new Refusal('bad-label', [{ path: 'rate_text', message: problemWords(label.problem) }]);
	await writing(db, async (client) => {
		const before = (await listProducts(client, context.site.id)).find((p) => p.name === change.name);
		requireSeen(before, seen, change.name, TYPED_NAMES);
		const product = changed<Omit<ProductRow, 'id' | 'stockAt'>>(
			{ ...PLAIN_PRODUCT, name: change.name, kind: change.kind },
			before,
			{
				...change,
				// A rate typed as a number makes the label's words untrue.
				...(change.rateText === undefined && change.rateMlL !== undefined ? { rateText: '' } : {}),
				...(label ? { unit: label.value.unit, rateMlL: label.value.perL } : {}),
			},
		);
		await saveProductIn(client, context, product, now, who);
	});
	return (await productList(db, context, now)).find((p) => p.name === change.name)!;
}

/** Makes a product or changes it. A stock that differs from the one before was counted just now. */
export async function saveProductIn(
	client: Client,
	context: SiteContext,
	p: Omit<ProductRow, 'id' | 'stockAt'>,
	now: number,
	who: string,
): Promise<ProductRow> {
	const before = (await listProducts(client, context.site.id)).find((x) => x.name === p.name);
	const counted = p.stockMl === null ? null : before?.stockMl === p.stockMl ? (before.stockAt ?? now) : now;
	const saved = await putProduct(client, context.site.id, { ...p, stockAt: counted });
	await insertAudit(client, context.site.id, who, 'product.saved', p.name, p);
	return saved;
}
