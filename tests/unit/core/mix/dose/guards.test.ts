import { describe, expect, it } from 'vitest';
import { adviseDose, type DoseAdvice } from '@/core/mix/dose/advise';
import { believe } from '@/core/mix/dose/believed';
import { wideningOf } from '@/core/mix/dose/foretold';
import { GUARDS } from '@/core/mix/dose/guards';
import { meqThatPasses } from '@/core/mix/dose/outcome';
import type { DoseQuestion } from '@/core/mix/dose/record';
import { seeded } from '@/sim/random';
import { oneFilling, TankNotes } from '../../../../helpers/tank-notes';

/**
 * Each guard holds while the model is wrong on purpose, and each test shows what happens without it alone. Limits are of the
 * trade (common practice, no source).
 */
/** The belief is sure of a solution that buffers ten times as much as the one that was followed: as if the product were ten times as strong as its label. */
const tenTimesTheStrength: typeof believe = (q, strength) => {
	const b = believe(q, strength);
	for (const list of [b.nodes.carbon, b.nodes.phosphate]) for (let i = 0; i < list.length; i++) list[i]! *= 10;
	return b;
};
const ask = (q: DoseQuestion, without?: string): DoseAdvice =>
	adviseDose(q, { believe: tenTimesTheStrength, guards: GUARDS.filter((g) => g.name !== without) }).advice;
const meq = (a: DoseAdvice): number => (a.do === 'dose' ? a.meqL : 0);

/** A new tank of feed, filled half an hour ago and read. */
const fresh = (ph = 7, ec: number | null = 1800): TankNotes => {
	const n = new TankNotes().filled().after(30);
	return (ec === null ? n : n.ec(ec)).ph(ph);
};

describe('thin-water', () => {
	it('under 100 µS/cm no dose is advised at all', () => {
		const q = fresh(7, 60).question();
		expect(ask(q)).toMatchObject({ do: 'refuse', said: { code: 'thin-water' } });
		expect(ask(q, 'thin-water').do).toBe('dose');
	});
});

describe('believable', () => {
	const cases: [string, DoseQuestion, string][] = [
		[
			'an old reading',
			fresh()
				.after(13 * 60)
				.question(),
			'stale',
		],
		[
			'a reading of hours ago in moved water',
			fresh()
				.after(4 * 60)
				.question(),
			'stale',
		],
		['a reading from before the last addition', fresh().after(20).topped(10).after(20).question(), 'added-since'],
		['a reading from before the tank was filled anew', fresh().after(20).filled().after(20).question(), 'added-since'],
		['a pH that fell within minutes with nothing noted', fresh(7).after(15).ph(6.7).question(), 'moved-untold'],
		['a pen that is known to be further off than the way', fresh(6.2).question({ knownErrorPh: 0.5 }), 'probe-off'],
		[
			'a pen that cannot tell the way from nothing',
			new TankNotes().filled().after(30).ec(1800).ph(6.3, 0.6).question(),
			'probe-unsure',
		],
	];
	it.each(cases)('not on %s', (_, q, code) => {
		expect(ask(q)).toMatchObject({ do: 'refuse', said: { code } });
		expect(ask(q, 'believable').do).toBe('dose');
	});
	it('a reading that the checks doubt is refused with their word', () => {
		expect(ask(fresh().question({ doubt: { code: 'doubtful', params: { message: 'It jumps.' } } }))).toMatchObject({
			do: 'refuse',
			said: { code: 'doubtful' },
		});
	});
	it('written at the same minute, the reading came before the pouring', () => {
		expect(ask(fresh().dosed(2).question())).toMatchObject({ do: 'wait', minutes: 10 });
		expect(ask(fresh().dosed(2).after(11).question())).toMatchObject({ do: 'refuse', said: { code: 'added-since' } });
	});
});

describe('believable, where a reading follows another at once', () => {
	it('what was poured between may not be noted yet: it waits five minutes from the first, and a repeat does not renew them', () => {
		const n = fresh(7).after(2).ph(6.98);
		expect(ask(n.question())).toMatchObject({ do: 'wait', minutes: 3, said: { code: 'read-twice' } });
		expect(ask(n.question(), 'believable').do).toBe('dose');
		n.after(1).ph(6.97);
		expect(ask(n.question())).toMatchObject({ do: 'wait', minutes: 2 });
		expect(ask(n.after(2).question()).do).toBe('dose');
		expect(ask(n.ph(6.97).question()).do).toBe('dose');
	});
	it('once the dose is noted the wait is that of its mixing', () => {
		const n = fresh(7).dosed(2.5).after(2).ph(6.98);
		expect(ask(n.question())).toMatchObject({ do: 'wait', minutes: 8, said: { code: 'wait-to-mix' } });
		// Also where it was poured after both: nobody is asked to log what is logged.
		const after = fresh(7).after(2).ph(6.98).dosed(2.5).after(1);
		expect(ask(after.question())).toMatchObject({ do: 'wait', minutes: 9, said: { code: 'wait-to-mix' } });
	});
});

describe('what a tank’s own readings show of its pen', () => {
	it('readings that come wider than foretold widen what is stated of the next; usual ones do not', () => {
		const course = (misses: readonly number[]): number => {
			const n = fresh(7);
			for (const miss of misses) n.after(120).ph(7 + miss);
			const a = adviseDose(n.question()).advice;
			return a.do === 'dose' ? a.high - a.low : Number.NaN;
		};
		const usual = course([0.01, -0.01, 0.02, 0, 0.01, -0.02, 0.01, 0]);
		const wide = course([0.11, -0.1, 0.08, -0.11, 0.1, -0.08, 0.11, 0]);
		expect(wide).toBeGreaterThan(1.5 * usual);
		// One slip of a digit decides nothing.
		expect(course([0.01, -0.01, 0.3, 0, 0.01, -0.02, 0.01, 0])).toBeLessThan(1.6 * usual);
	});
	it('on normal misses the widening is that of their standard deviation', () => {
		const chance = seeded(7);
		const normal = (sd: number) => Array.from({ length: 15 }, () => sd * chance.normal());
		const mean = (sd: number) =>
			Array.from({ length: 400 }, () => wideningOf(normal(sd))).reduce((a, b) => a + b) / 400;
		expect(wideningOf([])).toBe(1);
		// Usual ones counted in hold it back by a quarter.
		expect(mean(3)).toBeGreaterThan(1.8);
		expect(mean(3)).toBeLessThan(3);
		expect(mean(1)).toBeLessThan(1.15);
	});
});

describe('mixed', () => {
	it('a pH read before the dose could mix waits, and says how long; then it is read again', () => {
		const n = fresh().after(1).dosed(2.5).after(3).ph(6.9);
		expect(ask(n.question())).toMatchObject({ do: 'wait', minutes: 7 });
		expect(ask(n.question(), 'mixed').do).toBe('dose');
		expect(ask(n.after(20).question())).toMatchObject({ do: 'wait', minutes: 0, said: { code: 'read-again-mixed' } });
		expect(ask(n.ph(6.9).question()).do).toBe('dose');
	});
	it('by volume and movement: minutes with an air stone, hours in a still tank; the grower’s own word counts', () => {
		const wait = (aeration: 'air stone' | 'still', litres: number, mixMinutes: number | null = null) => {
			const n = fresh().after(1).dosed(2.5).after(1).ph(6.9);
			const a = ask(n.question({ tank: { aeration, mixMinutes, holdsL: litres } }));
			return a.do === 'wait' ? a.minutes : 0;
		};
		expect(wait('air stone', 100)).toBeLessThan(20);
		expect(wait('still', 100)).toBeGreaterThan(60);
		expect(wait('air stone', 100, 45)).toBe(44);
	});
});

describe('step-by-step', () => {
	it('the first step is at most 0.1 meq/L, whatever alkalinity was measured', () => {
		const n = new TankNotes().filled(100, { alkalinityMeqL: 4.2 }).after(30).ec(1800).ph(7);
		expect(meq(ask(n.question()))).toBeCloseTo(0.1, 6);
		expect(meq(ask(n.question(), 'step-by-step'))).toBeGreaterThan(1);
	});
	it.each([
		['under 300 µS/cm', 220],
		['where nobody has read the EC', null],
	])('0.02 %s', (_, ec) => {
		expect(meq(ask(fresh(7, ec).question()))).toBeCloseTo(0.02, 6);
		expect(meq(ask(fresh(7, ec).question(), 'step-by-step'))).toBeGreaterThan(0.2);
	});
	it('then at most twice what was seen to do what was expected since the tank was filled', () => {
		const n = fresh().after(1).dosed(2.5).after(12).ph(6.94);
		expect(meq(ask(n.question()))).toBeCloseTo(0.2, 6);
		expect(meq(ask(n.question(), 'step-by-step'))).toBeGreaterThan(0.5);
	});
	it('after the tank was left to itself it begins again, with 0.3 meq/L at the most', () => {
		const n = fresh()
			.after(1)
			.dosed(2.5)
			.after(12)
			.ph(6.94)
			.after(1)
			.dosed(5)
			.after(12)
			.ph(6.82)
			.after(1)
			.dosed(10)
			.after(12)
			.ph(6.6);
		expect(meq(ask(n.question()))).toBeCloseTo(0.8, 6);
		n.after(6 * 60).ph(6.9);
		expect(meq(ask(n.question()))).toBeLessThanOrEqual(0.3 + 1e-9);
		expect(meq(ask(n.question(), 'step-by-step'))).toBeGreaterThan(0.6);
	});
	it('near the target the next day, no more than the feed alone would bear with half as much again', () => {
		const n = fresh(6.4)
			.after(1)
			.dosed(2.5)
			.after(12)
			.ph(6.25)
			.after(1)
			.dosed(5)
			.after(12)
			.ph(5.9)
			.after(1)
			.dosed(2.5)
			.after(12)
			.ph(5.8)
			.after(22 * 60)
			.ph(6.2);
		// Some 0.9 mmol/L of phosphate by its EC hold about 0.22 meq/L between 6.2 and 4.5 (pK2 6.8, pK1 2.1).
		expect(meq(ask(n.question()))).toBeGreaterThan(0.09);
		expect(meq(ask(n.question()))).toBeLessThan(0.22 / 1.4);
		expect(meq(ask(n.question(), 'step-by-step'))).toBeGreaterThan(0.3);
	});
	it('a litre tried in a jug took the risk: half of what it took is the next step', () => {
		const n = fresh();
		n.record.jugs.push({
			at: n.now,
			litres: 1,
			product: 'acid',
			steps: [
				{ ml: 0, ph: 7 },
				{ ml: 0.1, ph: 6.7 },
				{ ml: 0.25, ph: 6.2 },
				{ ml: 0.35, ph: 5.8 },
			],
		});
		// 0.35 mL of 4 meq/mL to the litre: 1.4 meq/L; half of it counts as seen, and twice that may be given.
		expect(meq(ask(n.question()))).toBeLessThanOrEqual(1.4 + 1e-9);
		expect(meq(ask(n.question()))).toBeGreaterThan(0.5);
	});
});

describe('filling-probe', () => {
	const season = () =>
		oneFilling(oneFilling(oneFilling(new TankNotes())))
			.filled()
			.after(30)
			.ec(1800)
			.ph(7);
	it('the first dose of a filling is at most a third of what earlier fillings took in all', () => {
		expect(meq(ask(season().question()))).toBeLessThanOrEqual(0.8 + 1e-9);
		expect(meq(ask(season().question(), 'filling-probe'))).toBeGreaterThan(1.2);
	});
	it('never more than the feed alone would bear, should the water have brought nothing this time', () => {
		const weak = oneFilling(oneFilling(new TankNotes(), 9), 9).filled().after(30).ec(1800).ph(7);
		// About 0.9 mmol/L of phosphate by its EC: some 0.6 meq/L from 7.0 to 4.5.
		expect(meq(ask(weak.question()))).toBeLessThan(0.8);
	});
	it('from nearer to the target a smaller share; of another water none of it', () => {
		const near = oneFilling(oneFilling(new TankNotes())).filled().after(30).ec(1800).ph(6.2);
		expect(meq(ask(near.question()))).toBeLessThan(0.35);
		const other = oneFilling(oneFilling(new TankNotes())).filled(100, { code: 'rain' }).after(30).ec(1800).ph(7);
		expect(meq(ask(other.question()))).toBeCloseTo(0.1, 6);
	});
});

describe('last-answer', () => {
	const good = () => fresh().after(1).dosed(2.5).after(12).ph(6.94);
	it('a dose after which the pH rose is not built on: at most the last good one', () => {
		const n = good().after(1).dosed(5).after(12).ph(7.2);
		expect(meq(ask(n.question()))).toBeCloseTo(0.1, 6);
		expect(meq(ask(n.question(), 'last-answer'))).toBeCloseTo(0.2, 6);
	});
	it('after too strong an answer half of the dose that gave it', () => {
		const n = good().after(1).dosed(5).after(12).ph(5.98);
		expect(meq(ask(n.question()))).toBeLessThanOrEqual(0.1 + 1e-9);
		expect(meq(ask(n.question(), 'last-answer'))).toBeGreaterThan(0.15);
	});
	it('a dose that was only read too early teaches nothing: the small step again', () => {
		const n = good().after(1).dosed(5).after(2).ph(6.1).after(1).dosed(5).after(12).ph(6.6);
		expect(meq(ask(n.question()))).toBeLessThanOrEqual(0.2 + 1e-9);
	});
});

describe('worst-case', () => {
	/** Half of what is believed buffers a tenth of the other half. */
	const torn: typeof believe = (q, strength) => {
		const b = believe(q, strength);
		for (let i = 0; i < b.nodes.size; i++) b.nodes.carbon[i]! *= i % 2 ? 5 : 0.5;
		return b;
	};
	it('97.5 % of what is believed stays above the limit of the tank', () => {
		const n = fresh(5.9).after(1).dosed(2.5).after(12).ph(5.88);
		const q = n.question({ targetPh: 5.15, tank: { range: [5.15, 5.9] } });
		const b = torn(q, 4);
		const product = { ...q.product, strengthMeqMl: 4 };
		const most = meqThatPasses(b, 5.88, 5, product, 0.025);
		const of = (without?: string) =>
			meq(
				adviseDose(q, { believe: torn, guards: GUARDS.filter((g) => g.name !== without && g.name !== 'step-by-step') })
					.advice,
			);
		expect(of()).toBeLessThanOrEqual(most + 1e-9);
		expect(of('worst-case')).toBeGreaterThan(most + 1e-6);
	});
	it('half as much again, from the wrong mark of the cylinder, must still not bring it to 4.5', () => {
		const n = fresh(5.9).after(1).dosed(2.5).after(12).ph(5.88);
		const q = n.question({ tank: { range: [4.7, 6.5], leastPh: 4.2 }, targetPh: 4.7 });
		const b = believe(q, 4);
		const most = meqThatPasses(b, 5.88, 4.2, { ...q.product, strengthMeqMl: 4 }, 0.1) / 1.5;
		expect(meq(adviseDose(q, { guards: GUARDS.filter((g) => g.name !== 'step-by-step') }).advice)).toBeLessThanOrEqual(
			most + 1e-9,
		);
	});
	it('a target beyond the limit is refused, until the grower moves the limit of that tank', () => {
		const n = fresh(5.9);
		expect(ask(n.question({ targetPh: 4.6, tank: { range: [4.4, 5] } }))).toMatchObject({
			do: 'refuse',
			said: { code: 'target-beyond-limit' },
		});
		expect(ask(n.question({ targetPh: 4.6, tank: { range: [4.4, 5], leastPh: 4.2 } })).do).toBe('dose');
		const base = { name: 'base', kind: 'base', chemical: 'potassium hydroxide', strengthMeqMl: 2 } as const;
		expect(ask(n.question({ product: base, targetPh: 7.4, tank: { range: [7, 7.5] } }))).toMatchObject({
			do: 'refuse',
		});
	});
});

describe('spent', () => {
	/** Water of 1 meq/L that has been given twice as much, a little each day. */
	const given = (alkalinityMeqL: number) => {
		const n = new TankNotes().filled(100, { alkalinityMeqL }).after(30).ec(700).ph(7);
		for (let i = 0; i < 8; i++)
			n.after(1)
				.dosed(8)
				.after(12)
				.ph(6.4)
				.after(3 * 60)
				.ph(6.6);
		return n;
	};
	it('never beyond the alkalinity of the water and the buffer of the feed', () => {
		expect(ask(given(0.5).question())).toMatchObject({ do: 'refuse', said: { code: 'alkalinity-spent' } });
		expect(ask(given(0.5).question(), 'spent').do).toBe('dose');
		expect(ask(given(4).question()).do).toBe('dose');
	});
	it('an alkalinity measured in the tank itself counts anew from there', () => {
		const n = given(0.5);
		n.record.alkalinity.push({ at: n.now - 60_000, meqL: 1 });
		expect(ask(n.question()).do).toBe('dose');
	});
	it('near it the steps are small', () => {
		const a = ask(given(1.6).question());
		expect(meq(a)).toBeLessThanOrEqual(0.1 + 1e-9);
		expect(a.do === 'dose' && a.said.map((s) => s.code)).toContain('alkalinity-nearly-spent');
	});
});
