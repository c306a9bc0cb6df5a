import type { Random } from '@/sim/random';

/**
 * Tanks that drift between fillings, and what somebody reads of them. Written before the forecast that is tried on it: plants that grow
 * and drink by the weather, salt taken up at a strength that wanders, a pH that tires as it climbs or is pulled down by ammonium, a day's
 * swing, a pen with heavy tails that drifts, days without a reading, water that is added and not always logged.
 */
export interface DriftingTank {
	volumeL: number;
	fullL: number;
	ec: number;
	ph: number;
	day: number;
	weather: number;
	pace: number;
	traits: {
		drinkL: number;
		growth: number;
		takes: number;
		fedAt: number;
		phPerDay: number;
		tires: number;
		swing: number;
		sway: number;
	};
}

export function drawTank(c: Random): DriftingTank {
	const fullL = c.pick([40, 120, 600, 2400]);
	const ec = c.between(1200, 2400);
	return {
		volumeL: fullL,
		fullL,
		ec,
		ph: c.between(5.5, 6),
		day: 0,
		weather: 0,
		pace: 0,
		traits: {
			drinkL: fullL * c.between(0.01, 0.05),
			growth: c.between(-0.005, 0.02),
			takes: ec * c.between(0.4, 1.5),
			fedAt: ec,
			phPerDay: c.chance(0.25) ? -c.between(0.02, 0.08) : c.between(0.02, 0.16),
			tires: c.between(1.2, 2.6),
			swing: c.between(0, 0.1),
			sway: c.between(0.05, 0.35),
		},
	};
}

/** Six hours of it. */
export function lives(t: DriftingTank, c: Random): void {
	const step = 0.25;
	t.day += step;
	t.weather = 0.93 * t.weather + 0.1 * c.normal();
	t.pace = 0.96 * t.pace + t.traits.sway * 0.28 * c.normal();
	t.traits.drinkL *= 1 + t.traits.growth * step;
	const drunk = Math.min(0.2 * t.volumeL, t.traits.drinkL * step * Math.exp(t.weather));
	// They take less of a weak solution and more of a strong one.
	const takes = t.traits.takes * (0.4 + (0.6 * t.ec) / t.traits.fedAt);
	t.ec = Math.max(100, (t.ec * t.volumeL - takes * drunk) / (t.volumeL - drunk));
	t.volumeL -= drunk;
	const up = t.traits.phPerDay > 0;
	const left = up ? Math.max(0, (5.8 + t.traits.tires - t.ph) / t.traits.tires) : Math.max(0, (t.ph - 3.5) / 2);
	t.ph += t.traits.phPerDay * Math.exp(t.pace + 0.5 * t.weather) * left * step + 0.006 * c.normal();
}

/** Filled up again: with water, or with feed; acid brings the pH back. */
export function filledUp(t: DriftingTank, c: Random): void {
	const added = t.fullL - t.volumeL;
	const without = (t.ec * t.volumeL) / t.fullL;
	// What is poured in brings it back to about what it was meant to be.
	t.ec = added > 0 ? Math.max(without, t.traits.fedAt * c.between(0.9, 1.08)) : t.ec;
	t.volumeL = t.fullL;
	t.ph = c.between(5.5, 5.95);
}

/** Of the day: highest in the afternoon. */
export const swing = (t: DriftingTank): number => t.traits.swing * Math.sin(2 * Math.PI * (t.day - 0.3));

export interface Kept {
	ph: { at: number; value: number; u: number }[];
	ec: { at: number; value: number; u: number }[];
	/** When it was filled up, as far as anybody logged it. */
	filled: number[];
}
const DAY = 86_400_000;
/** Pens drift so much a day, as a standard deviation; what is known of a pen says as much. */
const DRIFT = 0.004;

/** Some weeks of it with what was read and logged. */
export function weeksOf(t: DriftingTank, days: number, c: Random): Kept {
	const kept: Kept = { ph: [], ec: [], filled: [] };
	const perDay = c.pick([1, 1, 2, 4]);
	const misses = c.between(0, 0.35);
	const every = c.between(5, 14);
	const drift = DRIFT * c.normal();
	const heavy = () => (c.chance(0.04) ? 4 : 1) * c.normal();
	let last = t.day;
	const end = t.day + days;
	while (t.day < end) {
		lives(t, c);
		if (t.day - last > every * c.between(0.7, 1.3)) {
			filledUp(t, c);
			last = t.day;
			if (!c.chance(0.07)) kept.filled.push(Math.min(end * DAY, t.day * DAY + (c.chance(0.3) ? 2_400_000 : 0)));
		}
		const quarter = Math.round(t.day * 4) % 4;
		if (quarter < perDay && !c.chance(misses)) {
			const at = t.day * DAY + c.between(0, 3_600_000);
			kept.ph.push({
				at,
				value: Math.round(100 * (t.ph + swing(t) + drift * t.day + 0.03 * heavy())) / 100,
				u: 0.02 + DRIFT * t.day,
			});
			kept.ec.push({ at, value: Math.round((t.ec * (1 + 0.012 * heavy())) / 10) * 10, u: 0.01 * t.ec });
		}
	}
	return kept;
}

/** When it truly comes to a limit if nothing is done to it, by the middle of the day's swing; null where not within so many days. */
export function reaches(
	t: DriftingTank,
	what: 'ph' | 'ec',
	limit: number,
	up: boolean,
	days: number,
	c: Random,
): number | null {
	const on = structuredClone(t);
	const end = on.day + days;
	while (on.day < end) {
		lives(on, c);
		// What is left of a tank that is drunk dry is no tank.
		if (on.volumeL < 0.15 * on.fullL) return null;
		if (up ? on[what] >= limit : on[what] <= limit) return on.day * DAY;
	}
	return null;
}
