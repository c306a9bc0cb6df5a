import type { Random } from '@/sim/random';
import type { DemoRun } from './written';

/** What the strawberries take of the salt, µS/cm: less than they are fed, so the rest runs off or stays. */
const UPTAKE_US_CM = 1240;
const MINUTES = 6;
const DRIPPER_ML_MIN = 17;
/** Drippers of one bag. */
const PER_BAG = 4;

/** A run of the gutters: so much runs off as keeps the drain where it stands, by the salt balance. */
export function demoRun(at: number, feedUsCm: number, riseUsCm: number, chance: Random): DemoRun {
	const left = feedUsCm - UPTAKE_US_CM;
	const fraction = Math.min(0.6, Math.max(0.05, left / (left + riseUsCm)));
	const cup = (ml: number) => Math.round(ml * (1 + 0.05 * chance.normal()));
	const given = MINUTES * DRIPPER_ML_MIN;
	return {
		at,
		minutes: MINUTES,
		firstDrainMin: Number((MINUTES * (1 - fraction)).toFixed(1)),
		appliedCups: [1, 2, 3].map(() => cup(given)),
		drainedCups: [1, 2, 3].map(() => cup(given * PER_BAG * fraction)),
	};
}
