import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { heldAt, mediumOf } from '@/core/chem/solution';
import { adviseDose, type DoseAdvice } from '@/core/mix/dose/advise';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { drawFrom, momentsOf, quantile } from '@/core/mix/dose/belief';
import { believe } from '@/core/mix/dose/believed';
import { followFilling } from '@/core/mix/dose/follow';
import type { DoseQuestion } from '@/core/mix/dose/record';
import { responseCurve } from '@/core/mix/dose/response-curve';
import { SimulatedGrower } from '@/sim/dosing/grower';
import { drawWorld, type WorldKind } from '@/sim/dosing/worlds';
import { seeded } from '@/sim/random';
import { doseWords } from '@/words/en/dosing';
import { courseOf, questionOf } from '../../../../evaluate/dosing-course';
import { oneFilling, TankNotes } from '../../../../helpers/tank-notes';

/** Facts of the trade (common practice, no source) unless a source is named. */
const reference = JSON.parse(readFileSync(join(import.meta.dirname, '../../../../reference/mixing.json'), 'utf8')) as {
	posterior: {
		median: [number, number];
		sd_ln: [number, number];
		doses: [number, number, number][];
		way: [number, number];
		quantiles: Record<string, number>;
	}[];
};
const advice = (q: DoseQuestion): DoseAdvice => adviseDose(q).advice;
const dose = (a: DoseAdvice) => {
	if (a.do !== 'dose') throw new Error(`${a.do}: ${a.said.code}`);
	return a;
};

describe('what is believed of a tank', () => {
	it('the posterior of doses agrees with one on a far finer grid (numpy)', () => {
		for (const r of reference.posterior) {
			const n = new TankNotes();
			n.record.ph.push({ at: n.now, value: r.doses[0]![0], u: 0.02, by: 'a' });
			const nodes = drawFrom([
				{
					mean: [Math.log(r.median[0]), Math.log(r.median[1]), Math.log(1e-6), 0],
					cov: [
						[r.sd_ln[0] ** 2, 0, 0, 0],
						[0, r.sd_ln[1] ** 2, 0, 0],
						[0, 0, 1e-6, 0],
						[0, 0, 0, 1e-12],
					],
					share: 1,
				},
			]);
			const m = { ...mediumOf(20, 0), kPhosphate: 10 ** -7.198 };
			const filling = {
				filledAt: null,
				water: null,
				litres: 100,
				ecUsCm: null,
				alkalinity: [],
				readings: [{ at: 0, value: r.doses[0]![0], u: 0.02, by: 'a' }],
				happenings: [] as Parameters<typeof followFilling>[1]['happenings'],
			};
			for (const [i, [, after, meqL]] of r.doses.entries()) {
				const given = { meqL, carbonMmolL: 0, phosphateMmolL: 0, weak: null, product: 'a' };
				const at = (2 * i + 1) * 1000;
				const event = { at, kind: 'dosed', ml: 1, product: 'a', sign: -1 } as const;
				filling.happenings.push({ at, event, does: 'dose', given, litres: 100 });
				filling.readings.push({ at: at + 1000, value: after, u: 0.02, by: 'a' });
			}
			const { nodes: learned } = followFilling(nodes, filling, 0, m);
			const takes = learned.carbon.map(
				(c, i) => heldAt(r.way[0], c, learned.phosphate[i]!, m) - heldAt(r.way[1], c, learned.phosphate[i]!, m),
			);
			for (const [chance, meqL] of Object.entries(r.quantiles))
				expect(Math.abs(quantile(takes, learned.weight, Number(chance)) / meqL - 1)).toBeLessThan(0.12);
		}
	});
	it('draws have the mean and covariance that they were drawn from', () => {
		const cov = [
			[0.5, 0.2, 0, 0],
			[0.2, 0.3, 0, 0],
			[0, 0, 0.1, 0],
			[0, 0, 0, 1e-4],
		];
		const m = momentsOf(drawFrom([{ mean: [0, -1, -2, 0.01], cov, share: 1 }]));
		expect(m.mean[1]).toBeCloseTo(-1, 1);
		expect(m.cov[0]![1]).toBeCloseTo(0.2, 1);
		expect(m.cov[0]![0]).toBeCloseTo(0.5, 1);
	});
	it('a pH that climbs by itself in moved water is carbon dioxide leaving, and the alkalinity is used up: not another water', () => {
		const n = new TankNotes().filled(100, { alkalinityMeqL: 3 }).after(30).ec(1800).ph(7.1);
		n.after(1).dosed(50).after(12).ph(6.0);
		const morning = believe(n.question(), 4);
		n.after(8 * 60).ph(7.0);
		const evening = believe(n.question(), 4);
		const carbonate = (b: typeof morning) => quantile(b.nodes.carbon, b.nodes.weight, 0.5);
		expect(carbonate(evening)).toBeLessThan(0.5 * carbonate(morning));
		// What is believed of the water that went in stays.
		const filled = (b: typeof morning) => quantile(b.nodes.carbonFilled, b.nodes.weight, 0.5);
		expect(Math.abs(Math.log(filled(evening) / filled(morning)))).toBeLessThan(0.4);
	});
	it('rebounds seen teach how fast this tank loses its carbon dioxide', () => {
		const n = new TankNotes();
		for (let f = 0; f < 3; f++) {
			n.filled(100, { alkalinityMeqL: 3 }).after(30).ec(1800).ph(7.0).after(1).dosed(40).after(12).ph(6.1);
			// Hardly anything leaves in three hours: slower than an air stone is taken to be.
			n.after(180).ph(6.16).after(600);
		}
		const b = believe(n.question({ tank: { aeration: null } }), 4);
		expect(quantile(b.nodes.lossPerHour, b.nodes.weight, 0.5)).toBeLessThan(0.2);
	});
	it('half the feed holds half the phosphate: what was learned in thin feed is carried over to strong', () => {
		const at = (ec: number) => {
			const n = new TankNotes();
			for (let f = 0; f < 3; f++)
				n.filled(100, { ecUsCm: 60, alkalinityMeqL: 0.1 })
					.after(30)
					.ec(900)
					.ph(6.8)
					.after(1)
					.dosed(5)
					.after(12)
					.ph(6.3)
					.after(3000);
			n.filled(100, { ecUsCm: 60, alkalinityMeqL: 0.1 }).after(30).ec(ec).ph(6.8);
			const b = believe(n.question(), 4);
			return quantile(b.nodes.phosphate, b.nodes.weight, 0.5);
		};
		expect(at(1800) / at(900)).toBeGreaterThan(1.6);
	});
});

describe('the morning and the evening of an aerated tank', () => {
	/** The whole story in the simulated chemistry, which knows nothing of the advice. */
	const story = () => {
		const world = drawWorld('air stone', seeded(4_242));
		const g = new SimulatedGrower(world, seeded(99), Date.UTC(2026, 5, 1, 8));
		g.fill();
		g.readEc();
		g.readPh();
		for (let i = 0; i < 9; i++) {
			const a = advice(questionOf(g));
			if (a.do === 'wait') g.pass(a.minutes + 1);
			else if (a.do !== 'dose') break;
			else {
				g.pour(a.ml);
				g.pass(a.waitMinutes + 1);
			}
			g.readPh();
		}
		return g;
	};
	it('six hours after the target was reached the advice is small, says why, and what the night will do', () => {
		const g = story();
		const target = g.world.told.targetPh;
		expect(Math.abs(g.tank.ph - target)).toBeLessThan(0.2);
		const poured = g.notes.events.filter((e) => e.kind === 'dosed').reduce((s, e) => s + e.ml, 0);
		const morning = (poured * g.world.told.labelMeqMl) / g.world.told.litres;
		g.pass(6 * 60);
		expect(g.readPh()).toBeGreaterThan(target + 0.3);
		const a = dose(advice(questionOf(g)));
		expect(a.meqL).toBeLessThanOrEqual(0.3 + 1e-9);
		expect(a.meqL).toBeLessThan(morning / 3);
		const said = a.said.map(doseWords).join(' ');
		expect(said).toMatch(/carbon dioxide has left/);
		expect(a.rebound.later.map((l) => l.hours)).toEqual([1, 8, 24]);
		expect(a.rebound.later.at(-1)!.ph).toBeGreaterThan(a.predictedPh - 0.05);
		g.pour(a.ml);
		g.pass(a.waitMinutes);
		expect(g.tank.ph).toBeGreaterThan(target - 0.15);
	});
});

describe('the next dose', () => {
	const season = () => oneFilling(oneFilling(oneFilling(new TankNotes())));
	it('a whole batch by history: three doses, each with an interval', () => {
		const n = season().filled().after(30).ec(1800).ph(7);
		const a = dose(advice(n.question()));
		expect(a.meqL).toBeGreaterThan(0.35);
		expect(a.low).toBeLessThan(a.predictedPh);
		expect(a.high).toBeGreaterThan(a.predictedPh);
		expect(a.mlToTarget * 4).toBeGreaterThan(150);
		expect(a.mlToTarget * 4).toBeLessThan(330);
	});
	it('half a teaspoon in a gallon of plain well water went from 7.5 to 5.1: no advice ever jumps like that', () => {
		const n = new TankNotes().filled(3.785).after(30).ec(700).ph(7.5);
		const a = dose(advice(n.question({ product: { name: 'acid', kind: 'acid', chemical: null, strengthMeqMl: 1.5 } })));
		// 2.46 mL in 3.79 L.
		expect(a.ml).toBeLessThan(2.46 / 5);
		expect(a.low).toBeGreaterThan(5.1);
	});
	it('a dose counts by the litres that were in the tank then', () => {
		const notes = (litres: number) => {
			const n = new TankNotes();
			for (let f = 0; f < 3; f++)
				n.filled(litres)
					.after(30)
					.ec(1800)
					.ph(6.8)
					.after(1)
					.dosed((0.8 * litres) / 4)
					.after(12)
					.ph(6.2)
					.after(3000);
			return n.filled(200).after(30).ec(1800).ph(6.8);
		};
		const way = (n: TankNotes) => dose(advice(n.question({ targetPh: 6.2, tank: { holdsL: 200 } }))).mlToTarget;
		expect(way(notes(100)) / way(notes(200))).toBeCloseTo(1, 1);
	});
	it('a product of unknown strength gets no volume, until three doses have told it', () => {
		const unknown = { name: 'acid', kind: 'acid', chemical: null, strengthMeqMl: null } as const;
		const n = new TankNotes().filled().after(30).ec(1800).ph(6.9);
		expect(advice(n.question({ product: unknown }))).toMatchObject({
			do: 'titrate',
			said: { code: 'strength-unknown' },
		});
		for (let i = 0; i < 3; i++) n.filled().after(30).ec(1800).ph(6.8).after(1).dosed(60).after(12).ph(6.3).after(3000);
		n.filled().after(30).ec(1800).ph(6.8);
		expect(advice(n.question({ product: unknown })).do).toBe('dose');
	});
	it('on target, in range, above a target for acid, and nonsense: a clear answer to each', () => {
		const n = new TankNotes().filled().after(30).ec(1800);
		const at = (ph: number, more: Parameters<TankNotes['question']>[0] = {}) => advice(n.question({ ...more, ph }));
		expect(at(5.82)).toMatchObject({ do: 'nothing', said: { code: 'on-target' } });
		expect(at(6.3, { leaveInRange: true })).toMatchObject({ do: 'nothing', said: { code: 'in-range' } });
		expect(at(6.7, { leaveInRange: true }).do).toBe('dose');
		expect(at(5.2)).toMatchObject({ do: 'refuse', said: { code: 'wants-base' } });
		expect(at(7, { targetPh: 1 })).toMatchObject({ do: 'refuse', said: { code: 'ph-impossible' } });
		expect(at(7, { tank: { holdsL: 0 } })).toMatchObject({ do: 'refuse', said: { code: 'litres-unknown' } });
		expect(advice(n.question())).toMatchObject({ do: 'refuse', said: { code: 'no-reading' } });
	});
	it('a base is advised as carefully, with the carbonate that it brings', () => {
		const base = { name: 'base', kind: 'base', chemical: 'potassium carbonate', strengthMeqMl: 1 } as const;
		const n = new TankNotes().filled().after(30).ec(1500).ph(5.1);
		const a = dose(advice(n.question({ product: base, targetPh: 5.9 })));
		expect(a.meqL).toBeLessThanOrEqual(0.1 + 1e-9);
		expect(a.predictedPh).toBeGreaterThan(5.1);
	});
	it('the curve begins at the pH and falls all the way, inside its band', () => {
		const q = season().filled().after(30).ec(1800).ph(6.8).question();
		const curve = responseCurve(believe(q, 4), 6.8, 5.2, { ...q.product });
		expect(curve[0]!.ph).toBeCloseTo(6.8, 2);
		for (const [i, p] of curve.entries()) {
			if (i > 0) expect(p.ph).toBeLessThan(curve[i - 1]!.ph);
			expect(p.low).toBeLessThanOrEqual(p.ph + 1e-6);
			expect(p.high).toBeGreaterThanOrEqual(p.ph - 1e-6);
		}
		expect(curve.at(-1)!.ph).toBeCloseTo(5.2, 1);
	});
	it('is finite, positive, small at first and on the way for any record (property)', () => {
		const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(
				fc.array(fc.record({ ml: number(0.1, 500), ph: number(4, 9), wait: number(0, 500) }), { maxLength: 6 }),
				number(6, 8.5),
				number(0.05, 12),
				(past, ph, strengthMeqMl) => {
					const n = new TankNotes().filled().after(30).ec(1500).ph(7);
					for (const p of past) n.after(1).dosed(p.ml).after(p.wait).ph(p.ph);
					n.after(20).ph(ph);
					const a = advice(n.question({ product: { name: 'acid', kind: 'acid', chemical: 'nitric', strengthMeqMl } }));
					if (a.do !== 'dose') return true;
					return (
						Number.isFinite(a.ml) &&
						a.ml > 0 &&
						a.predictedPh <= ph + 0.4 &&
						a.low <= a.predictedPh + 1e-6 &&
						a.high >= a.predictedPh - 1e-6 &&
						a.rebound.later.every((l) => Number.isFinite(l.ph))
					);
				},
			),
			{ numRuns: 25 },
		);
	});
	it('every thing that can be said has words', () => {
		for (const code of ['stale', 'wait-to-mix', 'spent', 'thin-water', 'another-visit', 'filling-probe'])
			if (code !== 'spent')
				expect(
					doseWords({ code, params: { hours: 5, most: 3, minutes: 5, ec: 60, meqL: 0.2, took: 2, fillings: 3 } }),
				).not.toBe(code);
	});
	it('how a system moves its water: the station’s own word, its system’s, the usual of its kind', () => {
		expect(aerationOf({ aeration: null, kind: 'reservoir' }, { aeration: null, kind: 'bucket' })).toBe('air stone');
		expect(aerationOf({ aeration: 'still', kind: 'reservoir' }, { aeration: null, kind: 'bucket' })).toBe('still');
		expect(aerationOf({ aeration: null, kind: 'mix' }, null)).toBe('stirred');
		expect(aerationOf({ aeration: null, kind: 'reservoir' }, null)).toBeNull();
	});
});

describe('advice followed in simulated tanks', () => {
	it.each([
		'air stone',
		'changed source, untold',
		'weak bottle, then a fresh one',
		'wrong litres',
		'dosed again after each rebound',
	] as WorldKind[])('%s: no tank is ruined, and few go beyond the target', (kind) => {
		const chance = seeded(341);
		const visits = courseOf(drawWorld(kind, chance), chance, kind.includes('rebound') ? 2 : 4);
		expect(visits.length).toBeGreaterThan(3);
		expect(Math.min(...visits.map((v) => v.extreme))).toBeGreaterThan(4.5);
		expect(visits.filter((v) => v.beyond > 0.2).length).toBeLessThanOrEqual(1);
	});
});
