import { describe, expect, it } from 'vitest';
import { wantedWait } from '@/core/judge/waits';
import { INSTRUMENT_KINDS, MEASURES, STEPS, skippedSteps, usualProtocol } from '@/core/reading/protocol';
import { stepsHere, stepWords } from '@/words/en/protocol';

/** Facts of the trade (common practice, no source) unless a source is named. */

describe('protocols', () => {
	it('run the tap at a source, catch the drip at a drain, EC before pH in pure water, no probe steps for a kit', () => {
		expect(usualProtocol('source', 'combined', false).slice(0, 3)).toEqual(['run', 'cup', 'rinse']);
		expect(usualProtocol('drain', 'ph', false)[0]).toBe('catch');
		expect(usualProtocol('source', 'ph', true)).toContain('ec-first');
		expect(usualProtocol('reservoir', 'drop_kit', false)).toEqual(['place', 'drops', 'daylight']);
		expect(STEPS.map(stepWords).every((s) => s.text.length > 10 && s.why.length > 20)).toBe(true);
		expect(stepsHere([{ code: 'own-1', text: 'Gloves on' }], STEPS)).toEqual([
			{ code: 'own-1', text: 'Gloves on', why: '' },
		]);
	});
	it('no cup for what is not dipped; an ion pen wants a fresh film, an oxygen probe moving water', () => {
		expect(usualProtocol('root_zone', 'substrate', false)).toEqual(['insert', 'wait']);
		expect(usualProtocol('reservoir', 'air', false)).not.toContain('place');
		expect(usualProtocol('drain', 'ion', false)).toEqual(['catch', 'rinse', 'blot', 'wait']);
		expect(usualProtocol('reservoir', 'oxygen', false)).toContain('move');
		for (const kind of INSTRUMENT_KINDS) expect(new Set(MEASURES[kind]).size).toBe(MEASURES[kind].length);
	});
	it('what was passed over on the way to the last step done is left out; nothing ticked says nothing', () => {
		const steps = usualProtocol('reservoir', 'combined', false).map((code) => ({ code }));
		expect(skippedSteps(steps, new Set(), new Set())).toBeUndefined();
		expect(skippedSteps(steps, new Set(['place', 'deep']), new Set())).toEqual(['rinse', 'shake']);
		expect(skippedSteps(steps, new Set(steps.map((s) => s.code)), new Set())).toEqual([]);
	});
	it('waits: 30 s in tap or nutrient, 180 s in water of few minerals, 8 s for an EC pen; the grower may change them', () => {
		expect([wantedWait('ph', 1800), wantedWait('ph', 30), wantedWait('ec', 30), wantedWait('temp', 30)]).toEqual([
			30,
			180,
			8,
			null,
		]);
		expect(wantedWait('ph', 30, { ph: 60, phLowMineral: 240, ec: 10 })).toBe(240);
	});
});
