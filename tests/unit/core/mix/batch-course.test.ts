import { describe, expect, it } from 'vitest';
import { batchCourse, type CoursePlan, type CourseStep, ecAim } from '@/core/mix/batch-course';

describe('a batch goes on from its log', () => {
	const plan: CoursePlan = { pours: [{}, {}], targetEcUsCm: 1900, expectedEcUsCm: 1890 };
	const step = (s: string, measured: number | null = null, expected: number | null = null): CourseStep => ({
		step: s,
		measured,
		expected,
	});
	const parts = [step('part'), step('part')];
	it('parts, EC, pH last', () => {
		expect(batchCourse(plan, [])).toMatchObject({ phase: 'parts', part: 0, expectedEcUsCm: 1890 });
		expect(batchCourse(plan, [step('part')])).toMatchObject({ phase: 'parts', part: 1 });
		expect(batchCourse(plan, parts)).toMatchObject({ phase: 'ec', seenEcUsCm: null });
		expect(batchCourse(plan, [...parts, step('ec', 1920)])).toMatchObject({ phase: 'ph', phRead: false });
		expect(batchCourse(plan, [...parts, step('ec', 1920), step('ph', 6.6)])).toMatchObject({ phRead: true });
		expect(batchCourse(plan, [...parts, step('ec', 1920), step('done')])).toMatchObject({ phase: 'done' });
	});
	it('an EC off the target waits for a correction, or for a word that it may stay', () => {
		const high = [...parts, step('ec', 2100)];
		expect(batchCourse(plan, high)).toMatchObject({ phase: 'ec', seenEcUsCm: 2100 });
		expect(batchCourse(plan, [...high, step('diluted', null, 1900)])).toMatchObject({
			phase: 'ec',
			seenEcUsCm: null,
			expectedEcUsCm: 1900,
		});
		expect(batchCourse(plan, [...high, step('next')])).toMatchObject({ phase: 'ph' });
	});
	it('the other school: pH of the water, feed, EC, and pH once more', () => {
		const first = { ...plan, phFirst: true };
		expect(batchCourse(first, [])).toMatchObject({ phase: 'water-ph', phRead: false });
		const set = [step('ph', 7.4), step('dosed'), step('ph', 6.2), step('next')];
		expect(batchCourse(first, set)).toMatchObject({ phase: 'parts', phRead: false });
		expect(batchCourse(first, [...set, ...parts, step('ec', 1890)])).toMatchObject({ phase: 'ph', phRead: false });
	});
	it('without a target any EC is right', () => {
		expect(batchCourse({ pours: [{}], targetEcUsCm: null }, [step('part'), step('ec', 400)])).toMatchObject({
			phase: 'ph',
		});
	});
	it('without a target the tank’s own range says what is right', () => {
		const ranged: CoursePlan = { pours: [{}], targetEcUsCm: null, ecRangeUsCm: [1500, 2500] };
		expect(batchCourse(ranged, [step('part'), step('ec', 1600)])).toMatchObject({ phase: 'ph' });
		expect(batchCourse(ranged, [step('part'), step('ec', 900)])).toMatchObject({ phase: 'ec', seenEcUsCm: 900 });
		expect([ecAim(ranged), ecAim(plan), ecAim({ targetEcUsCm: null })]).toEqual([2000, 1900, null]);
	});
});
