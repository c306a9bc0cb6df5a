/**
 * What a batch came to, in figures that can be held against those of another: per litre, so that size does not matter.
 * Differences smaller than what pens, cylinders and dipsticks tell are not told.
 */
export interface BatchFigures {
	litres: number;
	waterEcUsCm: number;
	/** Feed planned for each litre, mL or g: of the first pouring, whose proportion to the others is the recipe’s. */
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

/**
 * The figures of one batch, from its plan and what each step showed. EC in µS/cm, amounts for each litre.
 * @example batchFigures({ litres: 100, waterEcUsCm: 780, pours: [{ perL: 2.5 }] }, [{ step: 'ec', measured: 1800 }], 0, 3600000).minutes // 60
 */
export function batchFigures(
	plan: { litres: number; waterEcUsCm: number; pours: readonly { perL: number }[] },
	log: readonly LoggedStep[],
	startedAt: number,
	finishedAt: number | null,
): BatchFigures {
	const seen = (step: string) => log.filter((s) => s.step === step && s.measured !== null).map((s) => s.measured!);
	const doses = log.filter((s) => s.step === 'dosed');
	return {
		litres: plan.litres,
		waterEcUsCm: plan.waterEcUsCm,
		feedPerL: plan.pours[0]?.perL ?? 0,
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

/** What was different, each with the figures of the earlier and the later batch. */
export interface Difference {
	of: 'water' | 'feed' | 'gain' | 'ec' | 'dosed' | 'ph';
	earlier: number;
	later: number;
}

/** What was different in the later of two batches. */
export function compareBatches(earlier: BatchFigures, later: BatchFigures): Difference[] {
	const list: Difference[] = [];
	const add = (
		of: Difference['of'],
		a: number | null,
		b: number | null,
		differs: (a: number, b: number) => boolean,
	) => {
		if (a !== null && b !== null && differs(a, b)) list.push({ of, earlier: a, later: b });
	};
	const byShare = (most: number) => (a: number, b: number) => a > 0 && Math.abs((b - a) / a) > most;
	add(
		'water',
		earlier.waterEcUsCm,
		later.waterEcUsCm,
		(a, b) => Math.abs(b - a) > Math.max(DIFFERS.waterEc * a, LEAST_WATER_US_CM),
	);
	add('feed', earlier.feedPerL, later.feedPerL, byShare(DIFFERS.feed));
	add('gain', gainOf(earlier), gainOf(later), byShare(DIFFERS.gain));
	add('ec', earlier.lastEcUsCm, later.lastEcUsCm, byShare(DIFFERS.ec));
	add('dosed', earlier.dosedMlPerL, later.dosedMlPerL, byShare(DIFFERS.dosed));
	add('ph', earlier.lastPh, later.lastPh, (a, b) => Math.abs(b - a) > DIFFERS.ph);
	return list;
}
