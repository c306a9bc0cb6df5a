import type { ProbeState } from '../reading/model';
import { leftAs } from './calibration';
import { adviseInterval, type IntervalAdvice, learnDrift } from './drift';
import { driftIntervals } from './error-curve/drift-intervals';
import type { ProbeJump } from './error-curve/visit';
import { type IntervalChoice, intervalDays } from './interval';

/** A calibration as far as it says how a probe was left. */
export interface KnownCalibration {
	at: number;
	kind: 'check' | 'adjust';
	tempC: number | null;
	points: readonly { nominal: number; asFound: number | null; asLeft: number | null; mv?: number | null }[];
}

/** All that is recorded of one probe, oldest first. */
export interface ProbeRecord {
	instrument: string;
	quantity: 'ph' | 'ec';
	calibrations: readonly KnownCalibration[];
	jumps: readonly ProbeJump[];
	interval: IntervalChoice;
	/** What was chosen of it until it was changed, the oldest first. */
	intervalBefore?: readonly { until: number; interval: IntervalChoice }[];
	/** Of its display, pH or percent of a usual reading; 0 where nobody said. */
	step: number;
}

const keyOf = (instrument: string, quantity: 'ph' | 'ec') => `${instrument}\u0000${quantity}`;

/**
 * How the calibrations before a time had left each probe, as it could be known then: a later calibration, and an interval that
 * was learned later, say nothing of an earlier reading. Null before its first calibration, or for a probe that nobody recorded.
 */
export class ProbesThen {
	private readonly probes = new Map<string, { record: ProbeRecord; states: (Known | undefined)[] }>();

	constructor(records: Iterable<ProbeRecord>) {
		for (const record of records) this.probes.set(keyOf(record.instrument, record.quantity), { record, states: [] });
	}

	readonly stateAt = (instrument: string, quantity: 'ph' | 'ec', at: number): ProbeState | null => {
		if (this.probes.size === 0) return null;
		const known = this.probes.get(keyOf(instrument, quantity));
		if (!known) return null;
		const { calibrations } = known.record;
		let i = calibrations.length - 1;
		while (i >= 0 && calibrations[i]!.at > at) i--;
		if (i < 0) return null;
		known.states[i] ??= stateAfter(known.record, i);
		const { state, advised } = known.states[i]!;
		const then = known.record.intervalBefore?.find((v) => at < v.until);
		return then ? { ...state, intervalDays: intervalDays(then.interval, advised) } : state;
	};
}

/** A probe after one of its calibrations, by the interval of now and with what it itself would want. */
interface Known {
	state: ProbeState;
	advised: IntervalAdvice;
}
function stateAfter({ quantity, calibrations, jumps, interval, step }: ProbeRecord, i: number): Known {
	const c = calibrations[i]!;
	const drift = learnDrift(
		quantity,
		driftIntervals(
			quantity,
			calibrations.slice(0, i + 1).map((k, id) => ({ ...k, id })),
			jumps.filter((j) => j.at <= c.at),
		),
		step,
	);
	const advised = adviseInterval(drift, quantity);
	const verdict = leftAs(quantity, c.kind, c.points, c.tempC);
	return { state: { at: c.at, verdict, tempC: c.tempC, intervalDays: intervalDays(interval, advised) }, advised };
}
