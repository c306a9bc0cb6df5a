import { type Advised, adviseDose, type DoseAdvice } from '@/core/mix/dose/advise';
import type { DoseSeen } from '@/core/mix/dose/follow';
import { type DoseQuestion, type Said, say } from '@/core/mix/dose/record';
import { type CurvePoint, responseCurve } from '@/core/mix/dose/response-curve';
import { type JugStep, readJug } from '@/core/mix/jug';
import { dateFormat } from '@/core/quantity/date-format';
import { permits } from '@/core/trust/trust';
import { listCalibrations } from '@/store/calibrations';
import { insertJug } from '@/store/mix';
import type { Db } from '@/store/pool';
import type { JudgedReading } from '@/store/readings';
import { writing } from '@/store/writing';
import { findingWords } from '@/words/en/finding';
import { problemWords } from '@/words/en/problem';
import { requireProduct, saveProductIn } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';
import { doseProduct, tankAsWritten } from './tank-record';

export interface PastDoseView extends DoseSeen {
	otherWater: boolean;
	jug: boolean;
}
export interface DoseAdviceView {
	advice: DoseAdvice;
	ph: number;
	phAt: number | null;
	volumeL: number;
	strengthMeqMl: number | null;
	/** When each figure of the rebound is for. */
	later: { at: number; when: 'hour' | 'evening' | 'day' }[];
	past: PastDoseView[];
	/** The first dose of an earlier filling from the same start, in the same water and volume. */
	sameStart: PastDoseView | null;
	/** The last dose moved the pH so many times as far as was expected of it; null where it did what it should. */
	changed: number | null;
	curve: (CurvePoint & { mlPerL: number })[];
}

const SAME_PH = 0.12;
const SAME_VOLUME = 0.05;
const HOUR = 3_600_000;
const EVENING = 20;

export async function doseAdvice(
	db: Db,
	context: SiteContext,
	q: {
		station: string;
		product: string;
		targetPh: number;
		ph: number | null;
		volumeL: number | null;
		leaveInRange: boolean;
	},
	now: number,
): Promise<DoseAdviceView> {
	const station = context.stations.find((s) => s.code === q.station);
	if (!station)
		throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${q.station}”.` }]);
	const row = await requireProduct(db, context, q.product);
	if (row.kind === 'nutrient')
		throw new Refusal('not-a-ph-product', [
			{ path: 'product', message: `“${row.name}” is a feed; choose an acid or a base.` },
		]);
	const holdsL = context.known.stations.get(station.code)?.volumeL ?? q.volumeL;
	if (holdsL === null)
		throw new Refusal('no-volume', [
			{ path: 'volume_l', message: `How many litres does ${station.name} hold? Give them here or in Setup.` },
		]);
	const tank = await tankAsWritten(db, context, station, now);
	const newest = tank.newestPh;
	if (q.ph === null && newest === null)
		throw new Refusal('no-reading', [{ path: 'ph', message: `There is no pH of ${station.name} yet. Read it first.` }]);
	const later = laterTimes(now, context.site.timezone);
	const question: DoseQuestion = {
		record: tank.record,
		tank: { ...tank.setup, holdsL },
		product: doseProduct(row),
		others: tank.products.filter((p) => p.name !== row.name),
		targetPh: q.targetPh,
		litres: q.volumeL,
		ph: q.ph,
		now,
		doubt: q.ph === null && newest ? doubtOf(newest) : null,
		unexpectedOnly: newest?.check === 'prediction',
		knownErrorPh: q.ph === null && newest ? await knownError(db, context, newest) : 0,
		leaveInRange: q.leaveInRange,
	};
	const advised = adviseDose(question, { hours: later.map((l) => (l.at - now) / HOUR) });
	const ph = q.ph ?? advised.guarded?.ph ?? newest!.restated ?? newest!.value;
	const strengthMeqMl = advised.strengthMeqMl;
	const volumeL = advised.believed?.litres ?? q.volumeL ?? holdsL;
	const past = pastOf(advised, question);
	return {
		advice: advised.advice,
		ph,
		phAt: q.ph === null ? (newest?.at ?? null) : null,
		volumeL,
		strengthMeqMl,
		later,
		past,
		sameStart: sameStart(advised, past, ph, volumeL),
		changed: changedBy(advised),
		curve: strengthMeqMl === null || !advised.believed ? [] : curveOf(advised, question, ph, strengthMeqMl),
	};
}

/** An hour from now, this evening (or the next, where it is evening already), and tomorrow at this time. */
function laterTimes(now: number, zone: string): DoseAdviceView['later'] {
	const parts = dateFormat('en-GB', {
		timeZone: zone,
		hour: 'numeric',
		minute: 'numeric',
		hourCycle: 'h23',
	});
	const [h, m] = parts.format(now).split(':').map(Number) as [number, number];
	const evening = EVENING - h - m / 60;
	const list: DoseAdviceView['later'] = [{ at: now + HOUR, when: 'hour' }];
	if (evening > 2) list.push({ at: now + evening * HOUR, when: 'evening' });
	list.push({ at: now + 24 * HOUR, when: 'day' });
	return list;
}

/** Why the newest pH is nothing to dose on by the checks; null where it is. */
function doubtOf(r: JudgedReading): Said | null {
	if (!permits(r, 'dose')) return say('doubtful', { message: findingWords(r.said).message });
	return r.restated !== null && r.restatedProvisional ? say('provisional') : null;
}

/** What the last check of the pen found wrong and nobody adjusted, pH; 0 where it is taken off already or not known. */
async function knownError(db: Db, context: SiteContext, r: JudgedReading): Promise<number> {
	if (r.instrument === null || r.restated !== null) return 0;
	const own = await listCalibrations(db, context.site.id, { instrument: r.instrument, quantity: 'ph' });
	const last = own.filter((c) => !c.withdrawn && c.at <= r.at).at(-1);
	if (last?.kind !== 'check') return 0;
	const found = last.points.filter((p) => p.asFound !== null);
	if (found.length === 0) return 0;
	const nearest = found.reduce((a, b) => (Math.abs(b.nominal - r.value) < Math.abs(a.nominal - r.value) ? b : a));
	return nearest.asFound! - nearest.nominal;
}

/** Every dose of this product with what it did, oldest first; the steps of a jug among them. */
function pastOf(advised: Advised, q: DoseQuestion): PastDoseView[] {
	const b = advised.believed;
	if (!b) return [];
	const own = (d: DoseSeen) => d.product.toLowerCase() === q.product.name.toLowerCase();
	const jugs = q.record.jugs
		.filter((j) => j.product.toLowerCase() === q.product.name.toLowerCase())
		.flatMap((j) => {
			const steps = [...j.steps].sort((a, x) => a.ml - x.ml);
			return steps.slice(1).map((s, i): PastDoseView => {
				const ml = s.ml - steps[i]!.ml;
				return {
					at: j.at,
					ml,
					litres: j.litres,
					meqL: (ml * (advised.strengthMeqMl ?? 0)) / j.litres,
					phBefore: steps[i]!.ph,
					phAfter: s.ph,
					idBefore: null,
					idAfter: null,
					low: s.ph,
					high: s.ph,
					expected: s.ph,
					answered: 'as expected',
					poured: 1,
					product: j.product,
					otherInstrument: false,
					otherWater: false,
					jug: true,
				};
			});
		});
	const seen = [
		...b.earlier.flatMap((e) => e.doses.map((d) => ({ ...d, otherWater: e.otherWater, jug: false }))),
		...b.followed.doses.map((d) => ({ ...d, otherWater: false, jug: false })),
	].filter(own);
	return [...jugs, ...seen].sort((a, x) => a.at - x.at);
}

/** Only the first dose of a filling says something of another first dose: afterwards the tank is no longer the same. */
function sameStart(advised: Advised, past: readonly PastDoseView[], ph: number, volumeL: number): PastDoseView | null {
	const b = advised.believed;
	if (!b || b.followed.doses.length > 0) return null;
	const firsts = new Set(b.earlier.map((e) => e.doses[0]?.at));
	return (
		past.findLast(
			(d) =>
				!d.otherWater &&
				!d.jug &&
				!d.otherInstrument &&
				firsts.has(d.at) &&
				Math.abs(d.phBefore - ph) <= SAME_PH &&
				Math.abs(d.litres - volumeL) <= SAME_VOLUME * volumeL,
		) ?? null
	);
}

function changedBy(advised: Advised): number | null {
	const last = advised.believed?.followed.doses.at(-1);
	if (!last || last.otherInstrument || (last.answered !== 'stronger' && last.answered !== 'weaker')) return null;
	const factor = (last.phAfter - last.phBefore) / (last.expected - last.phBefore);
	return Number.isFinite(factor) && factor > 0 ? Math.min(factor, 10) : null;
}

function curveOf(advised: Advised, q: DoseQuestion, ph: number, strengthMeqMl: number): DoseAdviceView['curve'] {
	const end =
		q.product.kind === 'acid'
			? Math.max(Math.min(q.targetPh, ph) - 0.6, 3)
			: Math.min(Math.max(q.targetPh, ph) + 0.6, 10);
	return responseCurve(advised.believed!, ph, end, { ...q.product, strengthMeqMl }).map((c) => ({
		...c,
		mlPerL: c.meqL / strengthMeqMl,
	}));
}

/** A jug titration: keeps the strength it shows with the product, and its steps as doses of the tank it was taken from. */
export async function titrateJug(
	db: Db,
	context: SiteContext,
	q: { product: string; litres: number; steps: readonly JugStep[]; station: string | null },
	now: number,
	who: string,
): Promise<{ strengthMeqMl: number; bufferMeqLPh: number }> {
	const product = await requireProduct(db, context, q.product);
	const result = readJug(q.steps, q.litres);
	if (!result.ok) throw new Refusal('cannot-be-computed', [{ path: 'steps', message: problemWords(result.problem) }]);
	const station = q.station === null ? null : context.stations.find((s) => s.code === q.station);
	if (station === undefined)
		throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${q.station}”.` }]);
	// The strength and the steps behind it, or neither.
	await writing(db, async (client) => {
		await saveProductIn(client, context, { ...product, jugMeqMl: result.value.strengthMeqMl }, now, who);
		await insertJug(client, context.site.id, {
			stationId: station?.id ?? null,
			productId: product.id,
			at: now,
			litres: q.litres,
			steps: [...q.steps],
			who,
		});
	});
	return { strengthMeqMl: result.value.strengthMeqMl, bufferMeqLPh: result.value.bufferMeqLPh };
}
