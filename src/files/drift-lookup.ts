import { restate } from '../core/probe/restate';
import { THRESHOLDS } from '../core/probe/timeline';
import { seriesQuantity } from '../core/quantity/quantities';
import type { Finding, Reading } from '../core/reading/model';
import type { CalibrationGroup } from './calibrations-row';

/** What a file of calibrations says about single readings between them. */
export class DriftLookup {
	private readonly byProbe = new Map<string, CalibrationGroup[]>();

	constructor(calibrations: readonly CalibrationGroup[]) {
		for (const c of calibrations) {
			const key = `${c.instrument}\u0000${c.quantity}`;
			const list = this.byProbe.get(key);
			if (list) list.push(c);
			else this.byProbe.set(key, [c]);
		}
	}

	/** The drift a reading was taken under, null when it is too small to matter or not known. */
	finding(reading: Reading): Finding | null {
		if (this.byProbe.size === 0) return null;
		const quantity = seriesQuantity(reading.quantity);
		if (quantity !== 'ph' && quantity !== 'ec') return null;
		const list = this.byProbe.get(`${reading.instrument}\u0000${quantity}`);
		if (!list) return null;
		let i = list.length - 1;
		while (i >= 0 && list[i]!.at > reading.at) i--;
		const from = list[i];
		const to = list[i + 1];
		if (!from || !to) return null;
		const found = (c: CalibrationGroup) =>
			c.points.flatMap((p) => (p.asFound === null ? [] : [{ nominal: p.nominal, found: p.asFound }]));
		const left = (c: CalibrationGroup) =>
			c.points.flatMap((p) => (p.asLeft === null ? [] : [{ nominal: p.nominal, found: p.asLeft }]));
		const result = restate({
			quantity,
			value: reading.value,
			takenAt: reading.at,
			from: { at: from.at, kind: from.kind, points: from.kind === 'check' ? found(from) : left(from) },
			to: { at: to.at, points: found(to) },
			thresholds: THRESHOLDS[quantity],
		});
		if (!result.ok || (!result.value.applied && result.value.why !== 'rejected')) return null;
		const { value, error, why } = result.value;
		const rejected = why === 'rejected';
		return {
			check: 'drift',
			flag: rejected ? 4 : 3,
			cause: 'drift',
			suggested: rejected ? null : value,
			said: rejected
				? { code: 'drift-beyond-repair' }
				: { code: 'drift-found', quantity, value: reading.value, truth: value },
			evidence: { error },
			weight: 70,
		};
	}
}
