import { describe, expect, it } from 'vitest';
import { pairsOf } from '@/core/probe/error-curve/pairs';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import { restateReadings } from '@/core/probe/timeline';
import { type FleetKind, simulateFleet } from '../../../../evaluate/fleet-worlds';

/** Fleets richer than the model (see there), on seeds that nothing was tuned on; all worlds and figures are in docs/measurement.md. */
function measure(kind: FleetKind, seeds: readonly number[]) {
	let [n, alone, joint, covered] = [0, 0, 0, 0];
	for (const seed of seeds) {
		const fleet = simulateFleet(kind, 'ph', seed);
		const kindOf = new Map(fleet.probes.map((p) => [p.code, p.kind]));
		const probes = fleet.probes.map((p) => ({
			code: p.code,
			calibrations: fleet.calibrations.filter((c) => c.probe === p.code),
			jumps: fleet.jumps.filter((j) => j.probe === p.code),
		}));
		const sightings = fleet.readings.map((r) => ({
			...r,
			continuous: kindOf.get(r.probe) === 'continuous',
			sample: r.sample < 0 ? null : String(r.sample),
		}));
		const met = new SiteErrors(
			'ph',
			probes,
			pairsOf('ph', sightings, () => false),
		);
		const never = new SiteErrors('ph', probes, []);
		for (const { code } of probes) {
			const own = fleet.readings.filter((r) => r.probe === code);
			const a = restateReadings('ph', own, never.of(code)!).outcomes;
			const j = restateReadings('ph', own, met.of(code)!).outcomes;
			for (const [i, r] of own.entries()) {
				if (j[i]!.status === 'rejected') continue;
				n++;
				alone += (a[i]!.value - r.truth) ** 2;
				joint += (j[i]!.value - r.truth) ** 2;
				covered += Math.abs(j[i]!.value - r.truth) <= 1.96 * j[i]!.u ? 1 : 0;
			}
		}
	}
	return { n, ratio: Math.sqrt(joint / alone), covered: covered / n };
}

describe('fleets whose errors are known', () => {
	it.each([
		['pens that share cups', 3, 0.8],
		['unlogged jumps', 8, 0.85],
		['one never calibrated', 3, 0.5],
		['drift that begins halfway', 8, 0.8],
	] as const)('%s: pairs bring the error down, and 95 % intervals hold 90 % at least', (kind, count, most) => {
		const seeds = Array.from({ length: count }, (_, i) => 7001 + i);
		const { n, ratio, covered } = measure(kind, seeds);
		expect(n).toBeGreaterThan(1000);
		expect(ratio).toBeLessThan(most);
		expect(covered).toBeGreaterThan(0.9);
	});
	it('where probes never meet, nothing changes', () => {
		expect(measure('never meet', [7001, 7002]).ratio).toBe(1);
	});
});
