import { type Advice, whatItDid } from '@/core/rootzone/advice';
import type { DrainFound } from '@/core/rootzone/drains';
import { readRunTimes, showRunTimes, withRuns } from '@/core/rootzone/schedule';
import type { Watering } from '@/core/rootzone/watering';
import type { StepRow } from '@/store/irrigation-steps';

/** The times of a watering with another number of runs; null where it has none. */
export function timesWith(w: Watering, runs: number): string | null {
	const times = w.runTimes ? readRunTimes(w.runTimes) : null;
	return times && showRunTimes(withRuns(times, runs));
}

/** Advice with a place for whatever it may say. */
export const adviceShown = (a: Advice, w: Watering) => ({
	kind: a.kind,
	missing: 'missing' in a ? a.missing : null,
	until: 'until' in a ? a.until : null,
	working: 'working' in a ? a.working : null,
	step: 'expect' in a ? { ...a, runTimes: timesWith(w, a.runsADay) } : null,
});

/** Steps that were taken, oldest first, each with the drain before it and what it did. */
export function stepsShown(steps: readonly StepRow[], samples: readonly DrainFound[]) {
	const shown = (s: DrainFound | null) =>
		s && {
			share: s.run ? s.run.drained.litres / s.run.applied.litres : null,
			drain_us_cm: s.drain.value,
			rise_us_cm: s.ecDeltaUsCm,
		};
	return steps.map((step, i) => {
		const { before, after, asExpected } = whatItDid(samples, step, steps[i + 1]?.at ?? null);
		const came = shown(after);
		return { ...step, before: shown(before), after: came && { ...came, as_expected: asExpected } };
	});
}
