import { type DriftModel, driftUncertainty, PRIOR_SIGMA } from './drift';
import type { KnownCalibration } from './known-then';

const DAY = 86_400_000;
/** A probe that nobody has put in a standard is worth what one is after a month without (common practice, no source). */
const UNKNOWN_DAYS = 30;

/** What is known of a probe when a reading is taken with it now. */
export interface WorthNow {
	quantity: 'ph' | 'ec';
	/** Standard uncertainty of the instrument alone: pH, or percent of the reading for EC. */
	instrumentU: number;
	drift: DriftModel;
	lastCalibration: KnownCalibration | null;
	/** Dropped, dried out, cleaned or replaced since then. */
	upsetSince: boolean;
}

/**
 * Standard uncertainty of a reading taken now, pH, or percent for EC: u² = u_instrument² + u_drift² + e². After a mere check
 * nothing was changed, so the error e that it found is still in every reading until somebody adjusts (largest of its standards).
 * What upset a probe may have moved it by anything: until it was checked it is worth what one is that nobody knows.
 */
export function uNow(w: WorthNow, now: number): number {
	const last = w.lastCalibration;
	if (last === null || w.upsetSince) {
		const unknown: DriftModel = {
			ratePerDay: 0,
			sigmaPerRootDay: Math.max(PRIOR_SIGMA[w.quantity], w.drift.sigmaPerRootDay),
			wanderPerRootDay: 0,
			from: 0,
		};
		return Math.hypot(w.instrumentU, driftUncertainty(unknown, UNKNOWN_DAYS), last ? foundError(w.quantity, last) : 0);
	}
	return Math.hypot(w.instrumentU, driftUncertainty(w.drift, (now - last.at) / DAY), foundError(w.quantity, last));
}

/** Largest error that a check found and left, pH or percent; 0 after an adjustment. */
function foundError(quantity: 'ph' | 'ec', c: KnownCalibration): number {
	if (c.kind !== 'check') return 0;
	return Math.max(
		0,
		...c.points.flatMap((p) =>
			p.asFound === null
				? []
				: [quantity === 'ph' ? Math.abs(p.asFound - p.nominal) : (100 * Math.abs(p.asFound - p.nominal)) / p.nominal],
		),
	);
}
