import { describe, expect, it } from 'vitest';
import { AVAILABLE_PH, NUTRIENTS, scarceAt } from '@/core/crop/availability';
import {
	fromLeaf,
	LEAF_CAUSES,
	LEAF_EVIDENCE,
	type LeafBook,
	type LeafCause,
	type Leaves,
	SIGNS,
	type Sign,
} from '@/core/crop/leaf';
import { LEAF_CAUSE_WORDS, leafEvidenceWords, SIGN_WORDS } from '@/words/en/leaf';

const NOTHING: LeafBook = {
	ph: null,
	phValues: [],
	ec: null,
	drain: null,
	tempC: null,
	oxygenMgL: null,
	sodiumMmolL: null,
};
const ph = (...values: number[]): Pick<LeafBook, 'ph' | 'phValues'> => ({
	ph: {
		median: values[values.length >> 1]!,
		aboveShare: values.filter((v) => v > 6.8).length / values.length,
		belowShare: values.filter((v) => v < 5.2).length / values.length,
		readings: values.length,
	},
	phValues: values,
});
const place = (cause: LeafCause, leaves: Leaves, signs: Sign[], book: Partial<LeafBook> = {}) =>
	fromLeaf(leaves, signs, { ...NOTHING, ...book }).findIndex((f) => f.cause === cause);
const FINE: Partial<LeafBook> = {
	...ph(5.8, 5.9, 6, 6.1, 5.9),
	ec: { medianUsCm: 1800, range: [1400, 2200] },
	tempC: 20,
};

describe('from leaf to cause', () => {
	/** Keys of textbooks (Marschner, Mineral Nutrition of Higher Plants, from memory): where water and feed are in order. */
	it.each([
		['old', ['pale_between_veins'], 'magnesium'],
		['young', ['pale_between_veins'], 'iron'],
		['old', ['pale_all_over'], 'nitrogen'],
		['old', ['burnt_edges'], 'potassium'],
		['old', ['purple'], 'phosphorus'],
		['young', ['deformed', 'burnt_tips'], 'calcium'],
		['young', ['fruit_end_rot'], 'calcium'],
	] as const)('%s leaves, %s: %s', (leaves, signs, cause) => {
		expect(place(cause, leaves, [...signs], FINE)).toBeLessThan(2);
	});
	it('pH first: above its range for weeks it stands before iron', () => {
		const high = { ...FINE, ...ph(7, 7.1, 7.2, 7, 7.3) };
		expect(place('ph_high', 'young', ['pale_between_veins'], high)).toBe(0);
		// And what is locked out stands before what is not.
		expect(place('iron', 'young', ['pale_between_veins'], high)).toBeLessThan(
			place('boron', 'young', ['pale_between_veins'], high),
		);
		expect(place('ph_high', 'young', ['pale_between_veins'], FINE)).toBeGreaterThan(1);
	});
	it('a drain far above its feed, a weak feed, cold, airless or salty water are seen in the book', () => {
		const first = (cause: LeafCause, leaves: Leaves, signs: Sign[], book: Partial<LeafBook>) =>
			expect([cause, place(cause, leaves, signs, { ...FINE, ...book })]).toEqual([cause, 0]);
		first('salts', 'all', ['burnt_tips'], { drain: { aboveUsCm: 1400, actUsCm: 500 } });
		first('too_weak', 'old', ['pale_all_over', 'slow'], { ec: { medianUsCm: 700, range: [1400, 2200] } });
		first('cold', 'all', ['purple', 'slow'], { tempC: 12 });
		expect(place('cold', 'all', ['purple', 'slow'], FINE)).toBeGreaterThan(0);
		first('roots', 'all', ['wilting'], { tempC: 28, oxygenMgL: 3 });
		first('sodium', 'old', ['burnt_edges'], { sodiumMmolL: 8 });
		expect(place('sodium', 'old', ['burnt_edges'], { ...FINE, sodiumMmolL: 0.3 })).toBeGreaterThan(1);
	});
	it('chances leave room for what it does not know, and an empty book changes nothing', () => {
		const found = fromLeaf('young', ['spots'], NOTHING);
		expect(found.reduce((n, f) => n + f.chance, 0)).toBeCloseTo(0.85, 9);
		expect(found.every((f) => f.evidence.every((e) => e.says === 'signs' || e.says === 'leaves'))).toBe(true);
	});
	it('has words for every sign, cause and fact', () => {
		for (const s of SIGNS) expect(SIGN_WORDS[s].length).toBeGreaterThan(3);
		for (const c of LEAF_CAUSES) expect(LEAF_CAUSE_WORDS[c].next.length).toBeGreaterThan(10);
		const as = { ec: (v: number) => `${v / 1000} mS/cm`, temp: (v: number) => `${v} °C` };
		for (const says of LEAF_EVIDENCE)
			for (const weight of [1, -1])
				expect(leafEvidenceWords({ says, value: 0.5, weight }, as).length).toBeGreaterThan(8);
	});
});

describe('availability over pH', () => {
	it('too high costs iron, manganese and phosphorus first, too low calcium and magnesium (common diagrams, from memory)', () => {
		expect(scarceAt(6)).toEqual([]);
		expect(scarceAt(6.7)).toEqual(['phosphorus', 'iron', 'manganese']);
		expect(scarceAt(5.2)).toEqual(['calcium', 'magnesium', 'molybdenum']);
		for (const n of NUTRIENTS) expect(AVAILABLE_PH[n][0]).toBeLessThan(AVAILABLE_PH[n][1]);
	});
});
