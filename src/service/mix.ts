import { type JugStep, readJug } from '@/core/mix/jug';
import { learnGain } from '@/core/mix/nutrient-dose';
import { pairDoses, pairFeeds } from '@/core/mix/pair-doses';
import { adviseDose, type DoseAdvice, type PastDose, responseChanged } from '@/core/mix/response';
import { ACID_KINDS, type AcidKind, BASES, type BaseKind, molPerLitre, protonsGiven } from '@/core/water/acids';
import { MG_L_CACO3_PER_MEQ } from '@/core/water/carbonate';
import { meqOf } from '@/core/water/ions';
import { listEvents } from '@/store/events';
import { type Pool, transaction } from '@/store/pool';
import { latestReadings, listReadings } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { type BatchRow, listBatches, listProducts, listReports, type ProductRow, putProduct } from '@/store/water';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

const DAY = 86_400_000;
/** What was learned from older doses is another bottle or another water. */
const LEARN_FROM_DAYS = 400;
const STIRS = new Set(['water_added', 'nutrient_added', 'acid_added', 'base_added', 'solution_changed']);
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

export async function requireProduct(pool: Pool, context: SiteContext, name: string): Promise<ProductRow> {
	const product = (await listProducts(pool, context.site.id)).find((p) => p.name.toLowerCase() === name.toLowerCase());
	if (!product)
		throw new Refusal(422, 'unknown-product', [{ path: 'product', message: `There is no product “${name}”.` }]);
	return product;
}

export async function saveProduct(
	pool: Pool,
	context: SiteContext,
	p: Omit<ProductRow, 'id'>,
	who: string,
): Promise<ProductRow> {
	return transaction(pool, async (client) => {
		const saved = await putProduct(client, context.site.id, p);
		await insertAudit(client, context.site.id, who, 'product.saved', p.name, p);
		return saved;
	});
}

const inMl = (amount: number | null, unit: string): number | null =>
	amount === null ? null : unit === 'L' ? 1000 * amount : unit === 'mL' || unit === '' ? amount : null;

interface TankPast {
	doses: (PastDose & { at: number })[];
	newestPh: { value: number; at: number; doubt: string | null } | null;
	newestEc: { value: number; at: number } | null;
	gain: number | null;
}

/** What this tank and product have done together: every logged dose with the readings around it. */
export async function tankPast(
	pool: Pool,
	context: SiteContext,
	station: string,
	product: string,
	volumeL: number,
	now: number,
): Promise<TankPast> {
	const from = now - LEARN_FROM_DAYS * DAY;
	const events = await listEvents(pool, context.site.id, { station, from, to: now + 1, limit: 5000 });
	const stirring = events.filter((e) => STIRS.has(e.kind)).map((e) => e.at);
	const rows = async (quantity: 'ph' | 'ec') =>
		(await listReadings(pool, context.site.id, { station, quantity, from, order: 'oldest', limit: 5000 })).filter(
			(r) => r.decision !== 'discard',
		);
	const ph = await rows('ph');
	const ec = await rows('ec');
	const sound = (list: typeof ph) =>
		list
			.filter((r) => (r.flag ?? 2) < 3 || r.decision === 'keep')
			.map((r) => ({ at: r.at, value: r.restated ?? r.value }));
	const doses = (kinds: readonly string[]) =>
		events.flatMap((e) => {
			const ml = inMl(e.amount, e.unitText);
			return kinds.includes(e.kind) && ml !== null && e.product.toLowerCase() === product.toLowerCase()
				? [{ at: e.at, ml, product: e.product }]
				: [];
		});
	const last = ph.at(-1);
	const doubted = last && (last.flag ?? 2) >= 3 && last.decision !== 'keep' && last.cause !== 'calibration-overdue';
	const lastEc = ec.at(-1);
	return {
		doses: pairDoses(doses(['acid_added', 'base_added']), sound(ph), stirring, volumeL),
		newestPh: last ? { value: last.restated ?? last.value, at: last.at, doubt: doubted ? last.message : null } : null,
		newestEc: lastEc ? { value: lastEc.restated ?? lastEc.value, at: lastEc.at } : null,
		gain: learnGain(pairFeeds(doses(['nutrient_added']), sound(ec), stirring, volumeL)),
	};
}

export interface DoseAdviceView {
	advice: DoseAdvice;
	ph: number;
	phAt: number | null;
	volumeL: number;
	strengthMeqMl: number | null;
	past: (PastDose & { at: number })[];
	/** The last dose answered so many times as strongly as those before it. */
	changed: number | null;
}

/** A reading older than this is not dosed on. */
const STALE_MS = 12 * 3_600_000;

/** Alkalinity (meq/L) of the water that the newest batch in a tank was made with; undefined where nobody measured it. */
async function alkalinityOf(
	pool: Pool,
	context: SiteContext,
	station: string,
	now: number,
): Promise<number | undefined> {
	const batch = (await listBatches(pool, context.site.id, 50)).find((b) => b.station === station);
	if (!batch?.plan.water) return undefined;
	const [reading] = await listReadings(pool, context.site.id, {
		station: batch.plan.water,
		quantity: 'alkalinity',
		to: now + 1,
		limit: 1,
	});
	if (reading) return reading.value / MG_L_CACO3_PER_MEQ;
	const [report] = await listReports(pool, context.site.id, batch.plan.water);
	return report?.ions.hco3_mg_l === undefined ? undefined : meqOf('hco3_mg_l', report.ions.hco3_mg_l);
}

export async function doseAdvice(
	pool: Pool,
	context: SiteContext,
	q: { station: string; product: string; targetPh: number; ph: number | null; volumeL: number | null },
	now: number,
): Promise<DoseAdviceView> {
	const station = context.stations.find((s) => s.code === q.station);
	if (!station)
		throw new Refusal(422, 'unknown-station', [{ path: 'station', message: `There is no station “${q.station}”.` }]);
	const product = await requireProduct(pool, context, q.product);
	if (product.kind === 'nutrient')
		throw new Refusal(422, 'not-a-ph-product', [
			{ path: 'product', message: `“${product.name}” is a feed; choose an acid or a base.` },
		]);
	const volumeL = q.volumeL ?? context.known.stations.get(station.code)?.volumeL ?? null;
	if (volumeL === null)
		throw new Refusal(422, 'no-volume', [
			{ path: 'volume_l', message: `How many litres does ${station.name} hold? Give them here or in Setup.` },
		]);
	const past = await tankPast(pool, context, station.code, product.name, volumeL, now);
	const ph = q.ph ?? past.newestPh?.value ?? null;
	if (ph === null)
		throw new Refusal(422, 'no-reading', [
			{ path: 'ph', message: `There is no pH of ${station.name} yet. Read it first.` },
		]);
	const doubt =
		q.ph !== null || !past.newestPh
			? null
			: ((past.newestPh.doubt && `The reading is in doubt: ${past.newestPh.doubt}`) ??
				(now - past.newestPh.at > STALE_MS ? 'The reading is more than half a day old, and pH moves.' : null));
	const strengthMeqMl = strengthOf(product);
	const solution = { volumeL, alkalinityMeqL: await alkalinityOf(pool, context, station.code, now) };
	return {
		advice: adviseDose({
			solution,
			ph,
			targetPh: q.targetPh,
			past: past.doses,
			strengthMeqMl,
			doubtful: doubt,
			kind: product.kind,
		}),
		ph,
		phAt: q.ph === null ? (past.newestPh?.at ?? null) : null,
		volumeL,
		strengthMeqMl,
		past: past.doses,
		changed: strengthMeqMl === null ? null : (responseChanged(past.doses, solution, strengthMeqMl)?.factor ?? null),
	};
}

/** A jug titration: keeps the strength it shows with the product. */
export async function titrateJug(
	pool: Pool,
	context: SiteContext,
	q: { product: string; litres: number; steps: readonly JugStep[] },
	who: string,
): Promise<{ strengthMeqMl: number; bufferMeqLPh: number }> {
	const product = await requireProduct(pool, context, q.product);
	const result = readJug(q.steps, q.litres);
	if (!result.ok) throw new Refusal(422, 'cannot-be-computed', [{ path: 'steps', message: result.message }]);
	await saveProduct(pool, context, { ...product, jugMeqMl: result.strengthMeqMl }, who);
	return { strengthMeqMl: result.strengthMeqMl, bufferMeqLPh: result.bufferMeqLPh };
}

export interface MixView {
	tanks: {
		code: string;
		name: string;
		volumeL: number | null;
		phRange: [number, number] | null;
		ecRange: [number, number] | null;
		ph: number | null;
		ecUsCm: number | null;
		phAt: number | null;
	}[];
	products: ProductRow[];
	waters: { code: string; name: string; ecUsCm: number }[];
	batches: BatchRow[];
}

/** What can be mixed: tanks with their newest values, products, waters whose EC is known, and the batches before. */
export async function mixView(pool: Pool, context: SiteContext): Promise<MixView> {
	const latest = await latestReadings(pool, context.site.id);
	const newest = (station: string, ...quantities: string[]) =>
		latest.filter((r) => r.station === station && quantities.includes(r.quantity)).sort((a, b) => b.at - a.at)[0];
	return {
		tanks: context.stations
			.filter((s) => s.kind === 'mix' || s.kind === 'reservoir')
			.map((s) => {
				const ph = newest(s.code, 'ph');
				const ec = newest(s.code, 'ec', 'tds');
				return {
					code: s.code,
					name: s.name,
					volumeL: context.known.stations.get(s.code)?.volumeL ?? null,
					phRange: s.ranges.ph ?? null,
					ecRange: s.ranges.ec ?? null,
					ph: ph ? (ph.restated ?? ph.value) : null,
					ecUsCm: ec ? (ec.restated ?? ec.value) : null,
					phAt: ph?.at ?? null,
				};
			}),
		products: await listProducts(pool, context.site.id),
		waters: context.stations.flatMap((s) => {
			const ec = s.kind === 'source' || s.kind === 'blend' ? newest(s.code, 'ec', 'tds') : undefined;
			return ec ? [{ code: s.code, name: s.name, ecUsCm: ec.restated ?? ec.value }] : [];
		}),
		batches: await listBatches(pool, context.site.id, 20),
	};
}
