import { describe, expect, it } from 'vitest';
import { drainEcAt, drainOutlook, leachingFor, saltBalance, type Washing } from '@/core/rootzone/balance';
import { blockedCups, cupsVolume, typedVolume } from '@/core/rootzone/volume';
import reference from '../../../reference/rootzone.json';

const washing = (w: readonly number[], oneMeter: boolean): Washing => ({
	applied: { litres: w[0]!, u: w[1]! },
	drained: { litres: w[2]!, u: w[3]! },
	feed: { usCm: w[4]!, u: w[5]!, meterShare: w[6]! },
	drain: { usCm: w[7]!, u: w[8]!, meterShare: w[9]! },
	oneMeter,
});

describe('the salt balance of a root zone', () => {
	it.each(reference)('$name: bounds as an independent Monte Carlo has them (numpy, 2,000,000 draws)', (r) => {
		const b = saltBalance(r.washings.map((w) => washing(w, r.one_meter)))!;
		for (const [found, [low, high]] of [
			[b.leachingFraction, r.fraction],
			[b.ecDeltaUsCm, r.delta],
			[b.uptakeEcUsCm!, r.uptake],
		] as const) {
			const width = high! - low!;
			expect(Math.abs(found.low - low!)).toBeLessThan(0.08 * width);
			expect(Math.abs(found.high - high!)).toBeLessThan(0.08 * width);
		}
		expect(Math.abs(b.flushing - r.flushing)).toBeLessThan(0.02);
	});
	it('what one meter is off by falls out of the difference; at seventy per cent of drain uptake is hardly known', () => {
		const by = (name: string) =>
			saltBalance(
				reference.find((r) => r.name === name)!.washings.map((w) => washing(w, name !== 'a day, two meters')),
			)!;
		const width = (b: { low: number; high: number }) => b.high - b.low;
		expect(width(by('a day, one meter').ecDeltaUsCm)).toBeLessThan(0.5 * width(by('a day, two meters').ecDeltaUsCm));
		expect(width(by('seventy per cent of drain').uptakeEcUsCm!)).toBeGreaterThan(
			1.5 * width(by('a day, one meter').uptakeEcUsCm!),
		);
		expect(by('a flush').flushing).toBeGreaterThan(0.99);
	});
	it('salt is conserved, pooled as one by one', () => {
		const list = reference.at(-1)!.washings.map((w) => washing(w, true));
		const b = saltBalance(list)!;
		const given = list.reduce((s, w) => s + w.applied.litres * w.feed.usCm, 0);
		const out = list.reduce((s, w) => s + w.drained.litres * w.drain.usCm, 0);
		expect(b.uptakeEcUsCm!.value * b.drunkL.value + out).toBeCloseTo(given, 6);
		expect(saltBalance([])).toBeNull();
		expect(saltBalance([washing([10, 0.3, 11, 0.3, 1400, 5, 0.02, 1500, 5, 0.02], true)])).toBeNull();
	});
	// FAO Irrigation and Drainage Paper 29: salt that no plant takes leaves with the drain, EC_drain = EC_water / LF (from memory): 1 dS/m at 0.15 is 6.7.
	it('without uptake the drain is the feed divided by the leaching fraction', () => {
		expect(drainEcAt(0.15, 1000, 0)).toBeCloseTo(6667, 0);
		expect(leachingFor(5667, 1000, 0)).toBeCloseTo(0.15, 3);
		expect(leachingFor(400, 1400, 1250)).toBeCloseTo(150 / 550, 6);
		expect(drainEcAt(150 / 550, 1400, 1250)).toBeCloseTo(1800, 6);
		expect(leachingFor(400, 1400, 1500)).toBeNull();
	});
});

describe('what another share of drain would do', () => {
	const uptake = { uptakeEcUsCm: { value: 1250, low: 1200, high: 1300 }, uptakeUnknown: false };
	it('settles by the salt that is left, between the bounds of what the plants take', () => {
		const o = drainOutlook(uptake, 1400, 0.3, 200)!;
		expect(o.drainUsCm).toEqual({ value: 1750, low: expect.closeTo(1633.3, 1), high: expect.closeTo(1866.7, 1) });
		expect(drainEcAt(o.neededFraction!, 1400, 1250)).toBeCloseTo(1600, 6);
	});
	it('is not told where the uptake is not known', () => {
		expect(drainOutlook({ ...uptake, uptakeUnknown: true }, 1400, 0.3, 200)).toBeNull();
		expect(drainOutlook({ uptakeEcUsCm: null, uptakeUnknown: true }, 1400, 0.3, 200)).toBeNull();
	});
});

describe('volumes from cups', () => {
	it('mean of the cups times the drippers; fewer cups are less sure, all of them only as sure as a cup is read', () => {
		const few = cupsVolume([100, 110, 90], 60)!;
		const all = cupsVolume(
			Array.from({ length: 60 }, (_, i) => 90 + (i % 3) * 10),
			60,
		)!;
		expect([few.litres, all.litres]).toEqual([6, 6]);
		expect(few.u).toBeGreaterThan(2 * all.u);
		expect(all.u).toBeCloseTo(0.03 * 6, 6);
		expect(cupsVolume([], 60)).toBeNull();
		expect(typedVolume(2).u).toBeCloseTo(0.06, 9);
	});
	it('a blocked dripper is named', () => {
		expect(blockedCups([100, 110, 20])).toEqual([2]);
		expect(blockedCups([100, 110, 90])).toEqual([]);
		expect(blockedCups([100, 20])).toEqual([]);
	});
	// The spread of a mean of n of N (Cochran, Sampling Techniques, finite population correction), by drawing cups.
	it('holds the true volume in 90 to 98 of 100 lines', () => {
		let held = 0;
		const lines = 400;
		let seed = 5;
		const next = () => {
			seed = (seed * 16807) % 2147483647;
			return seed / 2147483647;
		};
		const normal = () => Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next());
		for (let i = 0; i < lines; i++) {
			const line = Array.from({ length: 60 }, () => 100 * (1 + 0.1 * normal()));
			const read = 1 + 0.03 * normal();
			const v = cupsVolume([line[3]! * read, line[29]! * read, line[51]! * read], 60)!;
			const truth = line.reduce((s, x) => s + x, 0) / 1000;
			if (Math.abs(v.litres - truth) <= 1.96 * v.u) held++;
		}
		expect(held / lines).toBeGreaterThan(0.9);
		expect(held / lines).toBeLessThan(0.98);
	});
});
