import { done, type Outcome, refused } from '../outcome';
import { type Calibrated, type CalibrationProblem, evaluateCalibration } from './calibration';
import { errorCurve } from './error-curve/in-standards';

/** What was written of one standard: pH, or µS/cm. */
export interface WrittenPoint {
	nominal: number;
	asFound: number | null;
	asLeft: number | null;
	mv?: number | null | undefined;
}
/** Why a calibration cannot be kept as it is written. */
export type CalibrationTrouble =
	| CalibrationProblem
	| 'impossible-value'
	| 'nothing-found'
	| 'wrong-way'
	| 'no-slope-left';

/** What standards can be, and what a meter in them can show. */
const STANDARDS = { ph: [1, 13.5], ec: [1, 1_000_000] } as const;
const SHOWN = { ph: [-2, 16], ec: [0, 1_000_000] } as const;
const within = (v: number | null, [low, high]: readonly [number, number]): boolean =>
	v === null || (v >= low && v <= high);

/**
 * Whether a calibration can be kept as it is written, by whichever road it comes: typed, from a script or from a file; and what it
 * says of the probe. Values beyond any standard (700 for a pH of 7.00), exchanged bottles and a slope that vanished are refused.
 * @example examineCalibration('ph', [{ nominal: 700, asFound: 7, asLeft: null }], 20, null) // { ok: false, problem: 'impossible-value' }
 * @example examineCalibration('ph', [{ nominal: 7, asFound: 4.1, asLeft: null }, { nominal: 4, asFound: 7.1, asLeft: null }], 20, null) // { ok: false, problem: 'wrong-way' }
 */
export function examineCalibration(
	quantity: 'ph' | 'ec',
	points: readonly WrittenPoint[],
	tempC: number | null,
	settleS: number | null,
): Outcome<Calibrated, CalibrationTrouble> {
	if (
		points.some(
			(p) =>
				!within(p.nominal, STANDARDS[quantity]) ||
				!within(p.asFound, SHOWN[quantity]) ||
				!within(p.asLeft, SHOWN[quantity]),
		)
	)
		return refused('impossible-value');
	const found = points.flatMap((p) =>
		p.asFound === null ? [] : [{ nominal: p.nominal, asFound: p.asFound, mv: p.mv ?? undefined }],
	);
	if (found.length === 0) return refused('nothing-found');
	const result = evaluateCalibration(quantity, found, tempC ?? 25, settleS);
	if (!result.ok) return result;
	if (result.value.reasons.some((r) => r.code === 'wrong-way')) return refused('wrong-way');
	const left = points.flatMap((p) => (p.asLeft === null ? [] : [{ nominal: p.nominal, found: p.asLeft }]));
	return left.length > 0 && !errorCurve(quantity, left).ok ? refused('no-slope-left') : done(result.value);
}
