import { describe, expect, it } from 'vitest';
import { readingFromText } from '@/core/reading/from-text';
import { StreamIntake } from '@/core/reading/stream';
import { REFUSED_WORDS, readingProblem } from '@/words/en/reading';

/** What was wrong with a line, as a file says it behind the name of the column: `line 3: value “5.8.1” is not a number`. */
describe('what was written and is no reading', () => {
	const said = (
		quantity: string,
		value: string,
		unit: string,
		more: { tempC?: number; waitS?: number; scale?: 500 | 640 | 700 } = {},
	): string => {
		const { tempC = null, waitS = null, scale = null } = more;
		const r = readingFromText({ quantity, value, unit, tempC, waitS }, { ppmScale: scale, altitudeM: 0 });
		return r.ok ? 'a reading' : `${r.problem.field} ${readingProblem(r.problem)}`;
	};
	it('names the column, quotes what stood there, and says what would be understood', () => {
		expect(said('ph', '', 'pH')).toBe('value has no value');
		expect(said('ph', '5.8.1', 'pH')).toBe('value “5.8.1” is not a number');
		expect(said('acidity', '5', 'pH')).toBe('quantity “acidity” is not a quantity; use ph, ec, tds, temp, …');
		expect(said('ph', '5.8', 'furlong')).toBe('unit “furlong” is not a unit of the readings file');
		expect(said('ph', '5.8', 'mS/cm')).toBe('unit pH is not measured in mS/cm');
		expect(said('ec', `9${'0'.repeat(14)}`, 'mS/cm')).toBe(`value “9${'0'.repeat(14)}” is beyond any instrument`);
	});
	it('ppm without a scale asks for the scale; with one it is a reading', () => {
		expect(said('tds', '950', 'ppm')).toContain('write ppm500, ppm640 or ppm700');
		expect(said('tds', '950', 'ppm', { scale: 700 })).toBe('a reading');
	});
	it('a temperature that no water has, and a wait before the dip', () => {
		expect(said('ph', '5.8', 'pH', { tempC: 95 })).toBe('temp_c 95 °C is no temperature of water');
		expect(said('ph', '5.8', 'pH', { waitS: -3 })).toBe('wait_s “-3” is not a number of seconds');
		expect(said('ph', '5.8', 'pH', { tempC: 21, waitS: 45 })).toBe('a reading');
	});
	it('quotes no more than forty letters of a wrong cell', () => {
		expect(said('ph', 'x'.repeat(500), 'pH')).toBe(`value “${'x'.repeat(40)}” is not a number`);
	});
});

describe('why a message of a meter was left out', () => {
	it('every reason that the intake gives has its words', () => {
		const intake = new StreamIntake();
		intake.take({ s: 1, ph: 6 }, 1000);
		for (const [raw, at] of [
			['six', 2000],
			[{ s: 1, ph: 6 }, 3000],
			[{ s: 0.5, ph: 6 }, 4000],
			[{ s: 2, ph: 6 }, 1001],
		] as const)
			intake.take(raw, at);
		expect(Object.values(intake.refused)).toEqual([1, 1, 1, 1]);
		for (const why of Object.keys(intake.refused))
			expect(REFUSED_WORDS[why as keyof typeof REFUSED_WORDS]).toMatch(/^[a-z]/);
	});
});
