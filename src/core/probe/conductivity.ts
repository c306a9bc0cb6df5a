import { done, type Outcome, refused } from '../outcome';
/**
 * Temperature compensation of conductivity to 25 °C.
 *
 * linear: κ25 = κT / (1 + α·(T − 25)); α 1.91 %/°C by Standard Methods 2510, 2.0 %/°C on most pens.
 * natural-water: κ25 = κT · f25(T), the non-linear table of ISO 7888 / EN 27888 (values from memory), interpolated by
 * a natural cubic spline of ln f, defined from 0 to 35 °C and refused outside.
 */

export const ALPHA_STANDARD_METHODS_PCT = 1.91;
export const ALPHA_PEN_PCT = 2.0;
/** Water that can be in a tank or a hose; outside it a temperature is a mistake. */
export const WATER_RANGE_C: readonly [number, number] = [-5, 60];

export type CompensationModel = 'linear' | 'natural-water';
export type CompensationProblem =
	| 'not-finite'
	| 'negative'
	| 'temperature-outside-water'
	| 'temperature-outside-model'
	| 'coefficient';

/** Multiplier κ25/κT. 0, 10, 20, 25, 30 and 35 °C are the table's own points. */
const F25: readonly (readonly [tempC: number, f: number])[] = [
	[0, 1.918],
	[10, 1.428],
	[20, 1.116],
	[25, 1.0],
	[30, 0.903],
	[35, 0.822],
];

/** Second derivatives of the natural cubic spline through (x, y): the tridiagonal system solved by elimination. */
function splineSecondDerivatives(x: readonly number[], y: readonly number[]): number[] {
	const n = x.length;
	const m = new Array<number>(n).fill(0);
	const c = new Array<number>(n).fill(0);
	for (let i = 1; i < n - 1; i++) {
		const left = x[i]! - x[i - 1]!;
		const right = x[i + 1]! - x[i]!;
		const diagonal = 2 * (left + right) - left * c[i - 1]!;
		c[i] = right / diagonal;
		const bend = 6 * ((y[i + 1]! - y[i]!) / right - (y[i]! - y[i - 1]!) / left);
		m[i] = (bend - left * m[i - 1]!) / diagonal;
	}
	for (let i = n - 2; i > 0; i--) m[i] = m[i]! - c[i]! * m[i + 1]!;
	return m;
}

const KNOTS = F25.map(([t]) => t);
const LN_F = F25.map(([, f]) => Math.log(f));
const BEND = splineSecondDerivatives(KNOTS, LN_F);

/** f25 at a temperature, undefined outside 0–35 °C. */
export function naturalWaterFactor(tempC: number): number | undefined {
	if (!(tempC >= 0 && tempC <= 35)) return undefined;
	let i = 0;
	while (i < KNOTS.length - 2 && tempC > KNOTS[i + 1]!) i++;
	const h = KNOTS[i + 1]! - KNOTS[i]!;
	const a = (KNOTS[i + 1]! - tempC) / h;
	const b = 1 - a;
	const ln = a * LN_F[i]! + b * LN_F[i + 1]! + (((a ** 3 - a) * BEND[i]! + (b ** 3 - b) * BEND[i + 1]!) * h * h) / 6;
	return Math.exp(ln);
}

/**
 * Conductivity at 25 °C from the raw conductivity at the water's temperature.
 * @example compensate({ ecUsCm: 1278, tempC: 20 }).value // 1412.9…; the 1413 standard
 */
export function compensate(input: {
	ecUsCm: number;
	tempC: number;
	alphaPctPerC?: number | undefined;
	model?: CompensationModel | undefined;
}): Outcome<number, CompensationProblem> {
	const { ecUsCm, tempC, alphaPctPerC = ALPHA_STANDARD_METHODS_PCT, model = 'linear' } = input;
	if (![ecUsCm, tempC, alphaPctPerC].every(Number.isFinite)) return refused('not-finite');
	if (ecUsCm < 0) return refused('negative');
	if (tempC < WATER_RANGE_C[0] || tempC > WATER_RANGE_C[1]) return refused('temperature-outside-water');
	// Beyond 3 %/°C the linear form divides by nearly nothing in cold water; no water or pen is near it.
	if (alphaPctPerC < 0 || alphaPctPerC > 3) return refused('coefficient');
	let ec25UsCm: number;
	if (model === 'natural-water') {
		const f = naturalWaterFactor(tempC);
		if (f === undefined) return refused('temperature-outside-model');
		ec25UsCm = ecUsCm * f;
	} else ec25UsCm = ecUsCm / (1 + (alphaPctPerC / 100) * (tempC - 25));
	return Number.isFinite(ec25UsCm) ? done(ec25UsCm) : refused('not-finite');
}
