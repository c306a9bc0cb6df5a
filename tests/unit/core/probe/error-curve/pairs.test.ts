import { describe, expect, it } from 'vitest';
import { PairFinder, pairsOf, type Sighting } from '@/core/probe/error-curve/pairs';

const MINUTE = 60_000;
let ids = 0;
const at = (probe: string, minute: number, more: Partial<Sighting> = {}): Sighting => ({
	id: ++ids,
	probe,
	continuous: false,
	station: 'pond',
	sample: null,
	at: minute * MINUTE,
	value: 6,
	uRepeat: 0.03,
	...more,
});
const node = (minute: number, probe = 'node') => at(probe, minute, { continuous: true });
const met = (list: Sighting[], mixed = (_: string, __: number, ___: number) => false) =>
	pairsOf('ph', list, mixed).map((p) => [p.a.probe, p.b.probe, p.at / MINUTE]);

describe('pairs', () => {
	it('two probes at one station within a quarter of an hour, with nothing added in between', () => {
		expect(met([at('a', 0), at('b', 14)])).toEqual([['a', 'b', 14]]);
		expect(met([at('a', 0), at('b', 16)])).toEqual([]);
		expect(met([at('a', 0), at('b', 5, { station: 'slabs' })])).toEqual([]);
		expect(met([at('a', 0), at('b', 5)], (_, from, to) => from < 3 * MINUTE && to >= 3 * MINUTE)).toEqual([]);
	});
	it('one cup is one water, whatever was added to the tank meanwhile', () => {
		const cup = { sample: 's' };
		expect(met([at('a', 0, cup), at('b', 5, cup)], () => true)).toEqual([['a', 'b', 5]]);
	});
	it('a reading by hand meets a probe that stays in the water once, and the newest before it', () => {
		const list = [...[0, 1, 2, 3].map((m) => node(m)), at('a', 3.5), ...[4, 5, 6].map((m) => node(m))];
		const pairs = pairsOf('ph', list, () => false);
		expect(pairs).toHaveLength(1);
		expect(pairs[0]!.a.at).toBe(3 * MINUTE);
		// Where none was before it, the first after.
		expect(met([at('a', 0), node(1), node(2)])).toEqual([['a', 'node', 1]]);
	});
	it('a second dip of the same pen is no second witness', () => {
		expect(met([at('a', 0), at('b', 1), at('a', 2)])).toEqual([['a', 'b', 1]]);
		expect(met([at('a', 0), at('a', 1), at('b', 2)])).toHaveLength(1);
	});
	it('two that stay in the water say once a day what they have to say', () => {
		const year = Array.from({ length: 3 * 288 }, (_, i) => [node(5 * i, 'n1'), node(5 * i + 1, 'n2')]).flat();
		expect(met(year)).toHaveLength(3);
	});
	it('noise of both and of the water between two dips add by their squares', () => {
		const [cup] = pairsOf('ph', [at('a', 0, { sample: 's' }), at('b', 0, { sample: 's' })], () => false);
		const [tank] = pairsOf('ph', [at('a', 0), at('b', 9)], () => false);
		expect(cup!.noise).toBeCloseTo(Math.hypot(0.03, 0.03, 0.01), 12);
		expect(tank!.noise).toBeGreaterThan(cup!.noise);
	});
	it('goes on from a fork without changing where it came from', () => {
		const finder = new PairFinder('ph', () => false);
		finder.take(at('a', 0));
		const other = finder.fork();
		expect(other.take(at('b', 1))).toHaveLength(1);
		expect(finder.take(at('b', 2))).toHaveLength(1);
	});
	it('a value that is none in EC makes no pair', () => {
		const zero = [at('a', 0, { value: 0, uRepeat: 1 }), at('b', 1, { value: 1400, uRepeat: 10 })];
		expect(pairsOf('ec', zero, () => false)).toEqual([]);
	});
});
