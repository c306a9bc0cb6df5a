import { done, type Outcome, refused } from '../outcome';
import type { Reason } from '../remark';
import { nernstSlopeMv } from './nernst';

/**
 * What one calibration says about a probe: offset, slope, cell factor and a verdict in plain reasons.
 *
 * Limits on the electrode (common practice, editable): slope 95–102 % good, 85–95 or 102–105 watch, beyond fail;
 * offset ±15 mV good, ±30 watch, beyond fail. Limits on the reading: as found within ±0.1 pH good, ±0.2 watch, beyond
 * fail. Conductivity: cell factor beyond ±5 % watch, beyond ±20 % fail.
 */
export interface CalibrationPoint {
	/** What the standard is at the solution's temperature. */
	nominal: number;
	asFound: number;
	/** Electrode potential, where the meter shows it. */
	mv?: number | undefined;
}

export type Grade = 'good' | 'watch' | 'fail';

export interface CalibrationLimits {
	slopeGood: readonly [number, number];
	slopeWatch: readonly [number, number];
	offsetMvGood: number;
	offsetMvWatch: number;
	errorGood: number;
	errorWatch: number;
	cellGoodPct: number;
	cellWatchPct: number;
	settleSecondsGood: number;
}

export const LIMITS: CalibrationLimits = {
	slopeGood: [95, 102],
	slopeWatch: [85, 105],
	offsetMvGood: 15,
	offsetMvWatch: 30,
	errorGood: 0.1,
	errorWatch: 0.2,
	cellGoodPct: 5,
	cellWatchPct: 20,
	settleSecondsGood: 60,
};

/** What a calibration says of its probe. */
export interface Calibrated {
	quantity: 'ph' | 'ec';
	/** Found − nominal at pH 7 (pH), or the mean error in the standards (EC, µS/cm). */
	offset: number;
	offsetMv: number | null;
	/** From mV where every point has it, else Δfound/Δnominal; null with one point. */
	slopePct: number | null;
	cellFactor: number | null;
	verdict: Grade;
	reasons: Reason[];
}
export type CalibrationResult = Outcome<Calibrated, CalibrationProblem>;
export type CalibrationProblem = 'no-points' | 'not-finite' | 'same-standard-twice' | 'no-answer' | 'nothing-shown';

const worst = (grades: readonly Grade[]): Grade =>
	grades.includes('fail') ? 'fail' : grades.includes('watch') ? 'watch' : 'good';
const within = (v: number, [low, high]: readonly [number, number]) => v >= low && v <= high;
/** Found values nearer together than this share of the standards' distance mean a dead probe, not a slope. */
const LEAST_GAIN = 0.05;

/** Standards nearer than this, pH, do not judge a slope (common practice, no source). */
const LEAST_APART = 2;

/** Least squares line through points; exact for two. */
function line(x: readonly number[], y: readonly number[]): { slope: number; at: (v: number) => number } {
	const n = x.length;
	const mx = x.reduce((a, b) => a + b, 0) / n;
	const my = y.reduce((a, b) => a + b, 0) / n;
	let sxy = 0;
	let sxx = 0;
	for (let i = 0; i < n; i++) {
		sxy += (x[i]! - mx) * (y[i]! - my);
		sxx += (x[i]! - mx) ** 2;
	}
	const slope = sxy / sxx;
	return { slope, at: (v) => my + slope * (v - mx) };
}

/**
 * @param settleSeconds how long the probe took to settle in fresh buffer, where it was timed
 * @example evaluateCalibration('ph', [{ nominal: 7, asFound: 7.1 }, { nominal: 4, asFound: 4.1 }], 25).value // { offset: 0.1, slopePct: 100 }
 */
export function evaluateCalibration(
	quantity: 'ph' | 'ec',
	points: readonly CalibrationPoint[],
	tempC: number,
	settleSeconds: number | null = null,
	limits: CalibrationLimits = LIMITS,
): CalibrationResult {
	if (points.length === 0) return refused('no-points');
	if (
		points.some(
			(p) =>
				!Number.isFinite(p.nominal) || !Number.isFinite(p.asFound) || (p.mv !== undefined && !Number.isFinite(p.mv)),
		) ||
		!Number.isFinite(tempC)
	)
		return refused('not-finite');
	const nominal = points.map((p) => p.nominal);
	const found = points.map((p) => p.asFound);
	if (new Set(nominal).size < nominal.length) return refused('same-standard-twice');
	const result = quantity === 'ph' ? ofPh(points, nominal, found, tempC, limits) : ofEc(nominal, found, limits);
	if (!result.ok) return result;
	if (settleSeconds !== null && settleSeconds > limits.settleSecondsGood)
		result.value.reasons.push({
			code: 'slow',
			grade: 'watch',
			settleS: settleSeconds,
			mostS: limits.settleSecondsGood,
		});
	result.value.verdict = worst(result.value.reasons.map((r) => r.grade));
	return result;
}

function ofPh(
	points: readonly CalibrationPoint[],
	nominal: readonly number[],
	found: readonly number[],
	tempC: number,
	limits: CalibrationLimits,
): CalibrationResult {
	const reasons: Reason[] = [];
	const k = nernstSlopeMv(tempC);
	const allMv = points.every((p) => p.mv !== undefined);
	let slopePct: number | null = null;
	let offset = found[0]! - nominal[0]!;
	let offsetMv: number | null = null;
	if (points.length > 1) {
		const response = line(nominal, found);
		if (Math.abs(response.slope) < LEAST_GAIN) return refused('no-answer');
		offset = response.at(7) - 7;
		// Standards so near together tell the offset; what they seem to tell of the slope is noise.
		const apart = Math.max(...nominal) - Math.min(...nominal);
		if (apart < LEAST_APART) slopePct = null;
		else if (allMv) {
			const electrode = line(
				nominal,
				points.map((p) => p.mv!),
			);
			slopePct = (-100 * electrode.slope) / k;
			offsetMv = electrode.at(7);
		} else slopePct = 100 * response.slope;
		if (slopePct === null) offsetMv = allMv ? points[0]!.mv! + k * (nominal[0]! - 7) : null;
		else if (slopePct <= 0) reasons.push({ code: 'wrong-way', grade: 'fail' });
		else if (!within(slopePct, limits.slopeWatch)) {
			const [leastPct, mostPct] = limits.slopeWatch;
			reasons.push(
				slopePct < leastPct
					? { code: 'slope-below', grade: 'fail', slopePct, leastPct }
					: { code: 'slope-above', grade: 'fail', slopePct, mostPct },
			);
		} else if (!within(slopePct, limits.slopeGood))
			reasons.push({
				code: 'slope-outside',
				grade: 'watch',
				slopePct,
				leastPct: limits.slopeGood[0],
				mostPct: limits.slopeGood[1],
			});
	} else {
		if (allMv) offsetMv = points[0]!.mv! + k * (nominal[0]! - 7);
		// One buffer cannot speak of the span; that is said by the caller's words, not held against the probe.
	}
	if (offsetMv !== null && Math.abs(offsetMv) > limits.offsetMvGood)
		reasons.push({
			code: 'offset-mv',
			grade: Math.abs(offsetMv) > limits.offsetMvWatch ? 'fail' : 'watch',
			offsetMv,
			mostMv: limits.offsetMvGood,
		});
	const error = Math.max(...points.map((p) => Math.abs(p.asFound - p.nominal)));
	// A hair of rounding on 7.11 − 7.01 must not turn good into watch.
	if (error > limits.errorGood + 1e-9)
		reasons.push({
			code: 'reading-off',
			grade: error > limits.errorWatch + 1e-9 ? 'fail' : 'watch',
			error,
		});
	return done({ quantity: 'ph', offset, offsetMv, slopePct, cellFactor: null, verdict: 'good', reasons });
}

function ofEc(nominal: readonly number[], found: readonly number[], limits: CalibrationLimits): CalibrationResult {
	if (found.some((f) => !(f > 0)) || nominal.some((n) => !(n > 0))) return refused('nothing-shown');
	const factors = nominal.map((n, i) => n / found[i]!);
	const cellFactor = factors.reduce((a, b) => a * b, 1) ** (1 / factors.length);
	const off = Math.max(...factors.map((f) => Math.abs(f - 1))) * 100;
	const reasons: Reason[] = [];
	if (off > limits.cellGoodPct + 1e-9)
		reasons.push({
			code: 'cell-factor',
			grade: off > limits.cellWatchPct + 1e-9 ? 'fail' : 'watch',
			offPct: off,
		});
	const slopePct = nominal.length > 1 ? 100 * line(nominal, found).slope : 100 / cellFactor;
	const offset = found.reduce((sum, f, i) => sum + f - nominal[i]!, 0) / found.length;
	return done({ quantity: 'ec', offset, offsetMv: null, slopePct, cellFactor, verdict: 'good', reasons });
}

/**
 * How a calibration left its probe. An adjustment puts a wrong reading right but not a failed electrode; a check leaves
 * everything as it was found.
 */
export function leftAs(
	quantity: 'ph' | 'ec',
	kind: 'check' | 'adjust',
	points: readonly { nominal: number; asFound: number | null; mv?: number | null }[],
	tempC: number | null,
): Grade {
	const result = evaluateCalibration(
		quantity,
		points.flatMap((p) =>
			p.asFound === null ? [] : [{ nominal: p.nominal, asFound: p.asFound, mv: p.mv ?? undefined }],
		),
		tempC ?? 25,
	);
	if (!result.ok) return result.problem === 'no-answer' || result.problem === 'nothing-shown' ? 'fail' : 'good';
	if (kind === 'check') return result.value.verdict;
	return worst(result.value.reasons.filter((r) => r.code !== 'reading-off').map((r) => r.grade));
}
