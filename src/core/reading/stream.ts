import type { SettlePoint } from './settling';

/**
 * What comes from a live meter, taken with suspicion: text, impossible numbers, the same moment twice, a clock that
 * jumps back, and floods are left out, counted and said. The values that are kept are at most ten minutes.
 */
export interface MeterSample {
	/** Seconds since the probe went in, by the meter's clock. */
	s: number;
	ph: number | null;
	/** µS/cm, at 25 °C when the meter compensates. */
	ecUsCm: number | null;
	tempC: number | null;
	/** Whether the meter says that it compensates EC; null when it does not say. */
	compensated: boolean | null;
}

/** Why a message of a meter is left out. */
export type Refused = 'unreadable' | 'repeated' | 'back-in-time' | 'flood';

const KEEP = 1200;
/** At most ten a second. */
const LEAST_GAP_MS = 100;
/** Nothing for so long is a meter that has gone quiet. */
export const QUIET_MS = 5000;
const SPANS = { ph: [-1, 15], ec_us_cm: [0, 500_000], temp_c: [-10, 100] } as const;

const within = (v: unknown, [low, high]: readonly [number, number]): v is number =>
	typeof v === 'number' && Number.isFinite(v) && v >= low && v <= high;

/** A raw message, understood; null for anything that is not one. */
export function meterSample(raw: unknown): MeterSample | null {
	if (raw === null || typeof raw !== 'object' || Array.isArray(raw)) return null;
	const m = raw as Record<string, unknown>;
	if (!within(m.s, [0, 1e7])) return null;
	const value = (key: keyof typeof SPANS): number | null | undefined =>
		m[key] === undefined || m[key] === null ? null : within(m[key], SPANS[key]) ? m[key] : undefined;
	const [ph, ecUsCm, tempC] = [value('ph'), value('ec_us_cm'), value('temp_c')];
	if (ph === undefined || ecUsCm === undefined || tempC === undefined) return null;
	if (ph === null && ecUsCm === null && tempC === null) return null;
	return { s: m.s, ph, ecUsCm, tempC, compensated: typeof m.compensated === 'boolean' ? m.compensated : null };
}

/** Takes in what a live meter says and leaves out text, repeats, a clock that jumps back, and floods. */
export class StreamIntake {
	readonly samples: MeterSample[] = [];
	readonly refused: Record<Refused, number> = { unreadable: 0, repeated: 0, 'back-in-time': 0, flood: 0 };
	private lastArrival: number | null = null;
	private lastKept = Number.NEGATIVE_INFINITY;

	/** @param arrivedMs the receiver's own clock, which is the only one that is trusted */
	take(raw: unknown, arrivedMs: number): MeterSample | null {
		this.lastArrival = arrivedMs;
		const sample = meterSample(raw);
		if (!sample) return this.refuse('unreadable');
		const last = this.samples.at(-1);
		if (last && sample.s === last.s) return this.refuse('repeated');
		if (last && sample.s < last.s) return this.refuse('back-in-time');
		if (arrivedMs - this.lastKept < LEAST_GAP_MS) return this.refuse('flood');
		this.lastKept = arrivedMs;
		this.samples.push(sample);
		if (this.samples.length > KEEP) this.samples.splice(0, this.samples.length - KEEP);
		return sample;
	}

	private refuse(why: Refused): null {
		this.refused[why]++;
		return null;
	}

	/** How long nothing has come, once something did; null while the meter speaks. */
	quietFor(nowMs: number): number | null {
		if (this.lastArrival === null) return null;
		const ms = nowMs - this.lastArrival;
		return ms > QUIET_MS ? ms : null;
	}

	points(quantity: 'ph' | 'ec' | 'temp'): SettlePoint[] {
		const key = quantity === 'ph' ? 'ph' : quantity === 'ec' ? 'ecUsCm' : 'tempC';
		return this.samples.flatMap((x) => (x[key] === null ? [] : [{ s: x.s, value: x[key] }]));
	}
}
