import type { DriftInterval } from '../drift';
import { foundError, leftError, type ProbeCalibration, type ProbeJump } from './visit';

const DAY = 86_400_000;

/** Errors grown between successive calibrations: what the drift model learns from. Intervals with a jump tell of the jump. */
export function driftIntervals(
	quantity: 'ph' | 'ec',
	calibrations: readonly ProbeCalibration[],
	jumps: readonly ProbeJump[],
): DriftInterval[] {
	const intervals: DriftInterval[] = [];
	// A new probe has a history of its own.
	const since = jumps
		.filter((j) => j.kind === 'new_probe')
		.reduce((latest, j) => Math.max(latest, j.at), Number.NEGATIVE_INFINITY);
	for (let i = 1; i < calibrations.length; i++) {
		const from = calibrations[i - 1]!;
		const to = calibrations[i]!;
		const end = foundError(quantity, to);
		if (end === null || from.at < since || jumps.some((j) => j.at > from.at && j.at <= to.at)) continue;
		intervals.push({ days: (to.at - from.at) / DAY, grown: end - (leftError(quantity, from) ?? 0) });
	}
	return intervals;
}
