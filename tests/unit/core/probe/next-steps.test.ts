import { describe, expect, it } from 'vitest';
import { evaluateCalibration } from '@/core/probe/calibration';
import { nextSteps } from '@/core/probe/next-steps';

/** What growers do with a pen that fails: common practice, no source. */
const found = (points: [number, number][], quantity: 'ph' | 'ec' = 'ph') => {
	const r = evaluateCalibration(
		quantity,
		points.map(([nominal, asFound]) => ({ nominal, asFound })),
		25,
	);
	if (!r.ok) throw new Error(r.problem);
	return r.value;
};

describe('what to do after a dip in standards', () => {
	it('nothing, where it is good', () => {
		expect(
			nextSteps(
				found([
					[7, 7.02],
					[4, 4.03],
				]),
				'check',
				false,
			),
		).toEqual([]);
	});
	it('one dip that reads 0.3 off: a second bottle, then adjust', () => {
		expect(nextSteps(found([[7, 7.3]]), 'check', false)).toEqual(['second-bottle', 'adjust']);
	});
	it('0.15 off is adjusted; the bottle is not asked about', () => {
		expect(nextSteps(found([[7, 7.15]]), 'check', false)).toEqual(['adjust']);
	});
	it('a weak slope is cleaned and soaked before it is adjusted away, and looked at again', () => {
		const weak = found([
			[7, 7.02],
			[4, 4.55],
		]);
		expect(nextSteps(weak, 'adjust', false)).toEqual(['clean', 'rehydrate', 'recheck']);
		expect(nextSteps(weak, 'check', false)).toEqual(expect.arrayContaining(['clean', 'recheck', 'adjust']));
	});
	it('and where that helped nothing, the electrode is at its end', () => {
		expect(
			nextSteps(
				found([
					[7, 7.02],
					[4, 4.55],
				]),
				'adjust',
				true,
			),
		).toContain('replace');
	});
	it('a slope of 120 % is no electrode’s: the bottle', () => {
		expect(
			nextSteps(
				found([
					[7, 7],
					[4, 3.4],
				]),
				'check',
				false,
			),
		).toContain('second-bottle');
	});
	it('a cell that is 10 % off is cleaned, looked at again, and adjusted', () => {
		expect(nextSteps(found([[1413, 1270]], 'ec'), 'check', false)).toEqual(['clean', 'adjust', 'recheck']);
	});
});
