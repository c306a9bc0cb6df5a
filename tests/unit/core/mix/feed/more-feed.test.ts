import { describe, expect, it } from 'vitest';
import { moreFeed } from '@/core/mix/feed/more-feed';

/** Arithmetic of conserved salt; common practice, no source. */
const pour = (product: string, perL: number, scales = true) => ({
	product,
	bottle: '',
	perL,
	unit: 'mL' as const,
	waitMin: 5,
	scales,
});
const pours = [pour('silicate', 0.3, false), pour('base', 2), pour('traces', 1)];

describe('an EC that came out too low', () => {
	it('takes so much more of all that follows the target, and nothing more of what keeps its rate', () => {
		// 1,000 of a rise of 1,200 has come: a fifth more.
		const more = moreFeed(pours, { waterEcUsCm: 300, seenEcUsCm: 1300, targetEcUsCm: 1500 });
		expect(more.ok && more.value.map((p) => [p.product, Number(p.perL.toFixed(6))])).toEqual([
			['base', 0.4],
			['traces', 0.2],
		]);
	});
	it.each([
		['nothing was mixed yet', 310],
		['water alone', 300],
		['a pen that reads low', 250],
		['less than half has come', 880],
	])('gives no advice on %s: as much again would be poured on a wrong reading', (_, seenEcUsCm) => {
		expect(moreFeed(pours, { waterEcUsCm: 300, seenEcUsCm, targetEcUsCm: 1500 })).toMatchObject({
			ok: false,
			problem: { code: 'hardly-rose' },
		});
	});
	it('what is poured on a wrong reading at worst doubles the feed', () => {
		// The pen reads low by any factor: whatever it shows, the tank never holds more than twice what was planned.
		for (let seen = 0; seen <= 1500; seen += 10) {
			const more = moreFeed([pour('base', 2)], { waterEcUsCm: 300, seenEcUsCm: seen, targetEcUsCm: 1500 });
			if (more.ok) expect(more.value[0]!.perL).toBeLessThanOrEqual(2);
		}
	});
	it('has nothing to add where everything keeps its rate', () => {
		expect(moreFeed([pours[0]!], { waterEcUsCm: 300, seenEcUsCm: 1300, targetEcUsCm: 1500 })).toMatchObject({
			ok: false,
			problem: { code: 'nothing-scales' },
		});
	});
});
