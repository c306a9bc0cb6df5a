import type { z } from 'zod';
import type { product, TypedProduct } from '@/contract/products';
import { ACID_KINDS, type AcidKind, BASES, type BaseKind, molPerLitre, protonsGiven } from '@/core/chem/acids';
import { bottleRemarks, leftOf } from '@/core/mix/bottle';
import { batchFigures, gainOf } from '@/core/mix/compare-batches';
import { type Content, ionsOf, sumOf } from '@/core/mix/feed/content';
import { feedEc } from '@/core/mix/feed/feed-ec';
import { readBottles } from '@/core/mix/feed/label-analysis';
import type { FedBatch } from '@/core/mix/feed/plan';
import { isSalt, saltContent } from '@/core/mix/feed/salts';
import { AFTER_MS, BEFORE_MS, litresAt, pairFeeds } from '@/core/mix/feedings';
import { labelRate } from '@/core/mix/label-rate';
import { learnGain } from '@/core/mix/nutrient-dose';
import { POURING_KINDS } from '@/core/reading/model';
import { median } from '@/core/series/robust';
import { trustLists } from '@/core/trust/trust';
import { readingsAround } from '@/store/around';
import { type BatchRow, listBatches } from '@/store/batches';
import { listEvents } from '@/store/events';
import { listPoured, listProducts, type ProductRow, putProduct } from '@/store/mix';
import { atOnce, type Client, type Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { labelProblemWords } from '@/words/en/label';
import { problemWords } from '@/words/en/problem';
import { remarkWords } from '@/words/en/remark';
import { changed } from './changed';
import { dayOf } from './day-of';
import { fillingsOf, inMl } from './poured';
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

const LEARN_FROM = 12;
const LEARN_FROM_MS = 400 * 86_400_000;

/** The gain of each feed by its newest batches: what the first EC of each showed. */
/** Batches with what the first EC of each showed. */
export const fedBatches = (batches: readonly BatchRow[]): FedBatch[] =>
	batches.map((b) => ({
		pours: b.plan.pours,
		waterEcUsCm: b.plan.waterEcUsCm,
		firstEcUsCm: batchFigures(b.plan, b.log, b.startedAt, b.finishedAt).firstEcUsCm,
	}));

const gainsOfBatches = (batches: readonly BatchRow[], product: string): number[] =>
	batches
		.filter((b) => b.plan.pours.every((p) => p.product === product))
		.flatMap((b) => {
			const gain = gainOf(batchFigures(b.plan, b.log, b.startedAt, b.finishedAt));
			return gain === null ? [] : [gain];
		})
		.slice(0, LEARN_FROM);

/** What feeding a running tank did to its EC, by product in lower case: for those who never mix a batch. */
async function gainsOfFeeding(db: Db, context: SiteContext, now: number): Promise<Map<string, number[]>> {
	const gains = new Map<string, number[]>();
	const events = await listEvents(db, context.site.id, {
		from: now - LEARN_FROM_MS,
		to: now + 1,
		kinds: POURING_KINDS,
		limit: 20_000,
	});
	const fed = [...new Set(events.filter((e) => e.kind === 'nutrient_added').map((e) => e.station))];
	await atOnce(
		db,
		fed.map((station) => () => learnFrom(station)),
	);
	return gains;
	async function learnFrom(station: string): Promise<void> {
		const holdsL = context.known.stations.get(station)?.volumeL ?? null;
		if (holdsL === null) return;
		const own = events.filter((e) => e.station === station);
		const feeds = own
			.flatMap((e) => {
				const amount = e.unitText === 'g' ? e.amount : inMl(e.amount, e.unitText);
				return e.kind === 'nutrient_added' && amount !== null && e.product !== ''
					? [{ at: e.at, ml: amount, product: e.product.toLowerCase(), note: e.note }]
					: [];
			})
			.slice(-4 * LEARN_FROM);
		const ec = await readingsAround(
			db,
			context.site.id,
			station,
			'ec',
			feeds.map((f) => f.at),
			{ beforeMs: BEFORE_MS, afterMs: AFTER_MS },
			trustLists('dose'),
		);
		const stirring = own.filter((e) => e.kind !== 'drained').map((e) => e.at);
		const litres = (at: number) => litresAt(fillingsOf(own), at, holdsL);
		for (const product of new Set(feeds.map((f) => f.product))) {
			const samples = pairFeeds(
				feeds.filter((f) => f.product === product),
				ec,
				stirring,
				litres,
				feeds.filter((f) => f.product !== product).map((f) => f.at),
			);
			const list = samples.flatMap((x) => learnGain([x]) ?? []);
			gains.set(product, [...(gains.get(product) ?? []), ...list]);
		}
	}
}

/** Batches say most: they begin from plain water. Feeding a running tank counts where there are none. */
function gainOfAll(ofBatches: readonly number[], ofFeeding: readonly number[] = []) {
	const list = ofBatches.length > 0 ? ofBatches : ofFeeding.slice(-LEARN_FROM);
	return { learnedGainUsCm: list.length === 0 ? null : median(list), learnedFromBatches: list.length };
}

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
	change: TypedProduct,
	now: number,
	who: string,
): Promise<ProductView> {
	const label = change.rateText?.trim() ? labelRate(change.rateText) : null;
	if (label && !label.ok) throw new Refusal('bad-label', [{ path: 'rate_text', message: problemWords(label.problem) }]);
	await writing(db, async (client) => {
		const before = (await listProducts(client, context.site.id)).find((p) => p.name === change.name);
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
