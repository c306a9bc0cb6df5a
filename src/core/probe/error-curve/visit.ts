import type { FoundPoint } from './in-standards';

/** What is recorded of a probe: its visits to standards, and what happened to it. */
export interface StandardPoint {
	nominal: number;
	asFound: number | null;
	asLeft: number | null;
	/** Standard uncertainty of the standard, pH or µS/cm. */
	u?: number | undefined;
}
export interface ProbeCalibration {
	id: number;
	at: number;
	kind: 'check' | 'adjust';
	points: readonly StandardPoint[];
	/** Two meters err alike in this bottle and no second lot has agreed. */
	provisional?: boolean | undefined;
}
export interface ProbeJump {
	at: number;
	kind: string;
	before?: number | null | undefined;
	after?: number | null | undefined;
}

/** What was shown in standards before anything was turned. */
export const asFound = (c: ProbeCalibration): FoundPoint[] =>
	c.points.flatMap((p) => (p.asFound === null ? [] : [{ nominal: p.nominal, found: p.asFound }]));
const asLeft = (c: ProbeCalibration): FoundPoint[] =>
	c.points.flatMap((p) => (p.asLeft === null ? [] : [{ nominal: p.nominal, found: p.asLeft }]));
/** What the probe was worth just after a calibration. */
export const after = (c: ProbeCalibration): FoundPoint[] => (c.kind === 'check' ? asFound(c) : asLeft(c));

const sizeOf = (quantity: 'ph' | 'ec', p: FoundPoint) =>
	quantity === 'ph' ? p.found - p.nominal : (100 * (p.found - p.nominal)) / p.nominal;
/** Mean error of what was read in standards, pH or percent; null for none. */
function meanError(quantity: 'ph' | 'ec', points: readonly FoundPoint[]): number | null {
	if (points.length === 0) return null;
	return points.reduce((sum, p) => sum + sizeOf(quantity, p), 0) / points.length;
}
/** Mean error that a visit found, pH or percent. */
export const foundError = (quantity: 'ph' | 'ec', c: ProbeCalibration) => meanError(quantity, asFound(c));
/** Mean error that a visit left, pH or percent: as found where nothing was turned. */
export const leftError = (quantity: 'ph' | 'ec', c: ProbeCalibration) => meanError(quantity, after(c));
/** Largest error of what was read in standards, pH or percent. */
export const largest = (quantity: 'ph' | 'ec', points: readonly FoundPoint[]): number =>
	Math.max(0, ...points.map((p) => Math.abs(sizeOf(quantity, p))));

/** Standard uncertainty of one bottle: pH, or share for EC. */
export const standardU = (quantity: 'ph' | 'ec', p: StandardPoint): number =>
	quantity === 'ph' ? (p.u ?? 0) : (p.u ?? 0) / p.nominal;
/** The largest standard uncertainty of the bottles of a calibration: pH, or share for EC. */
export const standardsU = (quantity: 'ph' | 'ec', c: ProbeCalibration): number =>
	Math.max(0, ...c.points.map((p) => standardU(quantity, p)));
