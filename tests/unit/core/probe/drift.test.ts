import { describe, expect, it } from 'vitest';
import { adviseInterval, driftUncertainty, learnDrift, TOLERANCE } from '@/core/probe/drift';
import { estimateLife, runningSlopes } from '@/core/probe/life';
import { chanceInRange, normalCdf } from '@/core/probe/normal';
import { seeded } from '@/sim/random';

const DAY = 86_400_000;

describe('uncertainty and intervals', () => {
	it('normal distribution at tabled points (handbook tables)', () => {
		expect(normalCdf(0)).toBeCloseTo(0.5, 6);
		expect(normalCdf(1.96)).toBeCloseTo(0.975, 4);
		expect(normalCdf(-1)).toBeCloseTo(0.158655, 5);
		expect(chanceInRange(6, 0.1, { low: 5.804, high: 6.196 })).toBeCloseTo(0.95, 3);
	});
	it('the prior is what weekly calibration implies: 95 % within 0.2 pH and 3 % after seven days', () => {
		for (const q of ['ph', 'ec'] as const)
			expect(1.96 * driftUncertainty(learnDrift(q, []), 7)).toBeCloseTo(TOLERANCE[q], q === 'ph' ? 1 : 0);
	});
	/** Simulated probe histories, as the random walk the model assumes. */
	const history = (seed: number, sigma: number, count: number, days = 14, rate = 0) => {
		const chance = seeded(seed);
		return Array.from({ length: count }, () => ({
			days,
			grown: rate * days + sigma * Math.sqrt(days) * chance.normal(),
		}));
	};
	it('an advised interval keeps the error within tolerance at least 95 times in 100', () => {
		let kept = 0;
		let all = 0;
		for (let seed = 1; seed <= 400; seed++) {
			const sigma = 0.02 + (seed % 5) * 0.01;
			const advice = adviseInterval(learnDrift('ph', history(seed, sigma, 12)), 0.2);
			const chance = seeded(seed + 10_000);
			for (let k = 0; k < 20; k++) {
				all++;
				if (Math.abs(sigma * Math.sqrt(advice.days) * chance.normal()) <= 0.2) kept++;
			}
		}
		expect(kept / all).toBeGreaterThanOrEqual(0.95);
	});
	it('half the drift per root day gives four times the interval, as (tolerance/σ)² says, within sampling', () => {
		const days = (sigma: number) => {
			const all = Array.from(
				{ length: 201 },
				(_, i) => adviseInterval(learnDrift('ph', history(i + 1, sigma, 16)), 0.2).days,
			).sort((a, b) => a - b);
			return all[100]!;
		};
		const ratio = days(0.04) / days(0.08);
		expect(ratio).toBeGreaterThan(2);
		expect(ratio).toBeGreaterThan(3.2);
		expect(ratio).toBeLessThan(4.8);
	});
	it('stays weekly until three intervals are known, and between 1 and 60 days', () => {
		expect(adviseInterval(learnDrift('ph', history(1, 0.001, 2)), 0.2)).toMatchObject({
			days: 7,
			reason: 'few-calibrations',
		});
		expect(adviseInterval(learnDrift('ph', history(1, 0.0001, 30)), 0.2).days).toBeLessThanOrEqual(60);
		expect(adviseInterval(learnDrift('ph', history(1, 2, 30)), 0.2).days).toBeGreaterThanOrEqual(1);
	});
	it('end of life: a slope falling 10 % a year from 100 reaches 85 in a year and a half, given as a window', () => {
		const points = Array.from({ length: 12 }, (_, i) => ({
			at: i * 30 * DAY,
			slopePct: 100 - (10 * i * 30) / 365.25 + (i % 3) * 0.2,
		}));
		const life = estimateLife(points);
		if (!life.known) throw new Error(life.reason);
		const when = 1.5 * 365.25 * DAY;
		expect(life.earliest).toBeLessThan(when * 1.1);
		expect(life.latest!).toBeGreaterThan(when * 0.9);
		expect(estimateLife(points.slice(0, 3))).toEqual({ known: false, reason: 'too-few' });
		expect(
			runningSlopes([
				{ at: 0, gain: 0.98 },
				{ at: 1, gain: 0.98 },
			])[1]!.slopePct,
		).toBeCloseTo(96.04, 9);
	});
});
