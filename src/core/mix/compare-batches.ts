/**
 * What a batch came to, in figures that can be held against those of another: per litre, so that size does not matter.
 * Differences smaller than what pens, cylinders and dipsticks tell are not told.
 */
export interface BatchFigures {
	litres: number;
	waterEcUsCm: number;
	/** Feed planned for each litre, mL or g. */
	feedPerL: number;
	/** EC as first measured, before any correction. */
	firstEcUsCm: number | null;
	lastEcUsCm: number | null;
	dilutions: number;
	doses: number;
	/** Acid or base given in all, mL for each litre; null where amounts were not noted. */
	dosedMlPerL: number | null;
	lastPh: number | null;
	minutes: number | null;
}

/** One step of a batch as it is logged. */
export interface LoggedStep {
	step: string;
	measured: number | null;
	/** mL or g poured. */
	amount?: number | null | undefined;
}

export function batchFigures(
	plan: { litres: number; waterEcUsCm: number; mlPerL: number },
	log: readonly LoggedStep[],
	startedAt: number,
	finishedAt: number | null,
): BatchFigures {
	const seen = (step: string) => log.filter((s) => s.step === step && s.measured !== null).map((s) => s.measured!);
	const doses = log.filter((s) => s.step === 'dosed');
	return {
		litres: plan.litres,
		waterEcUsCm: plan.waterEcUsCm,
		feedPerL: plan.mlPerL,
		firstEcUsCm: seen('ec')[0] ?? null,
		lastEcUsCm: seen('ec').at(-1) ?? null,
		dilutions: log.filter((s) => s.step === 'diluted').length,
		doses: doses.length,
		dosedMlPerL:
			doses.length > 0 && doses.every((s) => typeof s.amount === 'number')
				? doses.reduce((sum, s) => sum + s.amount!, 0) / plan.litres
				: null,
		lastPh: seen('ph').at(-1) ?? null,
		minutes: finishedAt === null ? null : Math.round((finishedAt - startedAt) / 60_000),
	};
}

/** EC that one mL (or g) for each litre brought; null where it was not measured. */
export function gainOf(f: BatchFigures): number | null {
	if (f.firstEcUsCm === null || !(f.feedPerL > 0)) return null;
	const gain = (f.firstEcUsCm - f.waterEcUsCm) / f.feedPerL;
	return gain > 0 && Number.isFinite(gain) ? gain : null;
}

/** Beyond these two batches differ: shares of the earlier figure, and pH. */
const DIFFERS = { waterEc: 0.06, feed: 0.03, gain: 0.08, ec: 0.04, dosed: 0.25, ph: 0.15 };
const LEAST_WATER_US_CM = 20;

export interface Difference {
	of: 'water' | 'feed' | 'gain' | 'ec' | 'dosed' | 'ph';
	words: string;
}

/**
 * What was different in the later of two batches, with what it may mean.
 * @param mS writes an EC with its unit
 */
export function compareBatches(
	earlier: BatchFigures,
	later: BatchFigures,
	mS: (usCm: number) => string = (v) => `${(v / 1000).toFixed(2)} mS/cm`,
): Difference[] {
	const list: Difference[] = [];
	const share = (a: number, b: number) => (b - a) / a;
	const percent = (v: number) => `${v > 0 ? '+' : '−'}${Math.abs(100 * v).toFixed(0)} %`;
	const water = later.waterEcUsCm - earlier.waterEcUsCm;
	if (Math.abs(water) > Math.max(DIFFERS.waterEc * earlier.waterEcUsCm, LEAST_WATER_US_CM))
		list.push({
			of: 'water',
			words: `The water has EC ${mS(later.waterEcUsCm)} instead of ${mS(earlier.waterEcUsCm)}.`,
		});
	if (earlier.feedPerL > 0 && Math.abs(share(earlier.feedPerL, later.feedPerL)) > DIFFERS.feed)
		list.push({
			of: 'feed',
			words: `${percent(share(earlier.feedPerL, later.feedPerL))} feed for each litre (${later.feedPerL.toFixed(2)} instead of ${earlier.feedPerL.toFixed(2)}).`,
		});
	const [before, after] = [gainOf(earlier), gainOf(later)];
	if (before !== null && after !== null && Math.abs(share(before, after)) > DIFFERS.gain)
		list.push({
			of: 'gain',
			words: `The feed raised EC by ${percent(share(before, after))} as much for each mL/L: ${after > before ? 'less water than noted, or a stronger bottle' : 'more water than noted, a weaker bottle, or not yet mixed'}?`,
		});
	if (
		earlier.lastEcUsCm !== null &&
		later.lastEcUsCm !== null &&
		Math.abs(share(earlier.lastEcUsCm, later.lastEcUsCm)) > DIFFERS.ec
	)
		list.push({ of: 'ec', words: `EC came to ${mS(later.lastEcUsCm)} instead of ${mS(earlier.lastEcUsCm)}.` });
	if (
		earlier.dosedMlPerL !== null &&
		later.dosedMlPerL !== null &&
		earlier.dosedMlPerL > 0 &&
		Math.abs(share(earlier.dosedMlPerL, later.dosedMlPerL)) > DIFFERS.dosed
	)
		list.push({
			of: 'dosed',
			words: `${percent(share(earlier.dosedMlPerL, later.dosedMlPerL))} pH product for each litre: the water’s alkalinity or the bottle has changed.`,
		});
	if (earlier.lastPh !== null && later.lastPh !== null && Math.abs(later.lastPh - earlier.lastPh) > DIFFERS.ph)
		list.push({ of: 'ph', words: `pH came to ${later.lastPh.toFixed(2)} instead of ${earlier.lastPh.toFixed(2)}.` });
	return list;
}
