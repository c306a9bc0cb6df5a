import { describe, expect, it } from 'vitest';
import { compareWitnesses, weighWitnesses } from '@/core/probe/agreement';

const DAY = 86_400_000;

describe('two instruments on one sample', () => {
	const witness = (name: string, value: number, u: number, lastCheckedAt: number | null) => ({
		name,
		value,
		u,
		lastCheckedAt,
	});
	it('ζ above 2 is questionable, above 3 unacceptable (ISO 13528); the one checked longer ago is to be dipped', () => {
		const plum = witness('Plum', 5.8, 0.03, 10 * DAY);
		expect(compareWitnesses(plum, witness('Brass', 5.899, 0.04, 5 * DAY))).toMatchObject({
			grade: 'agree',
			zeta: expect.closeTo(1.98, 9),
		});
		expect(compareWitnesses(plum, witness('Brass', 5.92, 0.04, 5 * DAY))).toMatchObject({
			grade: 'questionable',
			dip: 'Brass',
			combined: null,
		});
		expect(compareWitnesses(plum, witness('Brass', 6.2, 0.04, null))).toMatchObject({
			grade: 'unacceptable',
			dip: 'Brass',
		});
		expect(compareWitnesses(plum, witness('Brass', 6.2, 0.04, 11 * DAY))).toMatchObject({ dip: 'Plum' });
	});
	it('agreeing values combine by inverse variance: equal ones halve the variance', () => {
		expect(compareWitnesses(witness('a', 5.8, 0.04, 0), witness('b', 5.82, 0.04, 0)).combined).toEqual({
			value: expect.closeTo(5.81, 12),
			u: expect.closeTo(0.04 / Math.SQRT2, 12),
		});
	});
});

describe('what was most likely true', () => {
	const w = (name: string, value: number, u: number, lastCheckedAt: number | null = 0) => ({
		name,
		value,
		u,
		lastCheckedAt,
	});
	it('witnesses that agree are weighed by their certainty, worked by hand', () => {
		// Weights 100, 25, 12: mean (590 + 150 + 69) / 137 = 5.905, u = 1/√137.
		const all = [w('plum', 5.9, 0.1), w('brass', 6.0, 0.2), w('kit', 5.75, 1 / Math.sqrt(12))];
		const r = weighWitnesses(all)!;
		expect(r.consistent).toBe(true);
		expect(r.combined!.value).toBeCloseTo(809 / 137, 9);
		expect(r.combined!.u).toBeCloseTo(1 / Math.sqrt(137), 9);
	});
	it('two pens at 5.70 and 5.81 that stand 0.4 too high are contradicted by a fresh one; the odd one is named', () => {
		const r = weighWitnesses([w('a', 5.3, 0.05), w('b', 5.32, 0.05), w('c', 5.81, 0.08)])!;
		expect(r).toMatchObject({ consistent: false, combined: null, odd: 'c' });
	});
	it('the one never checked is dipped first; repeats of one instrument are one witness', () => {
		expect(weighWitnesses([w('a', 5, 0.05, 100), w('b', 6, 0.05, null)])).toMatchObject({ dip: 'b', odd: null });
		expect(weighWitnesses([w('a', 5, 0.05), w('a', 5.02, 0.05)])).toBeNull();
		const repeated = weighWitnesses([w('a', 5.0, 0.1), w('a', 5.1, 0.1), w('b', 5.05, 0.1)])!;
		expect(repeated.combined!.value).toBeCloseTo(5.05, 9);
		expect(repeated.combined!.u).toBeCloseTo(0.1 / Math.SQRT2, 9);
	});
});
