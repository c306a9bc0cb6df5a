import { SiteErrors } from '../core/probe/error-curve/site-errors';
import { readOff, type TimelineOutcome, type TimelineReading } from '../core/probe/timeline';
import { seriesQuantity } from '../core/quantity/quantities';
import type { Finding, Reading } from '../core/reading/model';
import type { CalibrationGroup } from './calibrations-row';

const keyOf = (instrument: string, quantity: 'ph' | 'ec') => `${instrument}\u0000${quantity}`;

/**
 * What a file of calibrations says about single readings. A file is judged line by line as it comes, so what later lines would tell
 * of a probe beside another is not asked: that is for the application, which can go back.
 */
export class DriftLookup {
	private readonly byProbe = new Map<string, (r: TimelineReading) => TimelineOutcome>();

	constructor(calibrations: readonly CalibrationGroup[]) {
		for (const quantity of ['ph', 'ec'] as const) {
			const own = calibrations.filter((c) => c.quantity === quantity);
			const probes = [...new Set(own.map((c) => c.instrument))].map((code) => ({
				code,
				calibrations: own
					.filter((c) => c.instrument === code)
					.map((c, id) => ({ ...c, id }))
					.sort((a, b) => a.at - b.at),
				jumps: [],
			}));
			const errors = new SiteErrors(quantity, probes, []);
			for (const { code } of probes) this.byProbe.set(keyOf(code, quantity), readOff(quantity, errors.of(code)!));
		}
	}

	/** The drift a reading was taken under, null when it is too small to matter or not known. */
	finding(reading: Reading): Finding | null {
		if (this.byProbe.size === 0) return null;
		const quantity = seriesQuantity(reading.quantity);
		if (quantity !== 'ph' && quantity !== 'ec') return null;
		const found = this.byProbe.get(keyOf(reading.instrument, quantity))?.({
			id: 0,
			at: reading.at,
			value: reading.value,
			u: 0,
		});
		if (!found || (found.status !== 'restated' && found.status !== 'rejected')) return null;
		const rejected = found.status === 'rejected';
		return {
			check: 'drift',
			flag: rejected ? 4 : 3,
			cause: 'drift',
			suggested: rejected ? null : found.value,
			said: rejected
				? { code: 'drift-beyond-repair' }
				: { code: 'drift-found', quantity, value: reading.value, truth: found.value },
			evidence: { error: found.error },
			weight: 70,
		};
	}
}
