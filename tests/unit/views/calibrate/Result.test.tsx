import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import { evaluateCalibration } from '@/core/probe/calibration';
import { FoundStep } from '@/views/calibrate/FoundStep';
import { LeftSteps } from '@/views/calibrate/LeftSteps';
import { LiveVerdict } from '@/views/calibrate/LiveVerdict';
import { Result } from '@/views/calibrate/Result';
import { blank, standardsFor, start } from '@/views/calibrate/step';
import { WrongBottle } from '@/views/calibrate/WrongBottle';
import { draw, nothing, read } from '../../../helpers/drawn';

describe('a calibration', () => {
	it('begins with two buffers or one conductivity standard', () => {
		expect(start('ph').map((s) => s.standard)).toEqual(['pH 7.00', 'pH 4.01']);
		expect(start('ec').map((s) => s.standard)).toEqual(['KCl 1413']);
		expect(standardsFor('ec')).toContain('KCl 12880');
	});
	const step = (more: object) =>
		createElement(FoundStep, {
			number: 0,
			step: blank('pH 7.00'),
			quantity: 'ph',
			nominal: null,
			show: (v: number) => v.toFixed(2),
			unit: '',
			showsMv: false,
			lots: [
				{
					id: 1,
					name: 'seven A',
					standard: 'pH 7.00',
					own_table: null,
					tolerance: null,
					opened: null,
					expires: null,
					single_use: false,
					retired: false,
				},
				{
					id: 2,
					name: 'four A',
					standard: 'pH 4.01',
					own_table: null,
					tolerance: null,
					opened: null,
					expires: null,
					single_use: false,
					retired: false,
				},
			],
			onChange: nothing,
			...more,
		});
	it('says what a standard should show at this temperature, or how far its table runs', () => {
		expect(draw(step({}))).toContain('data-nominal="0">–<');
		expect(draw(step({ nominal: { ok: true, value: 7.02 } }))).toContain('data-nominal="0">7.02<');
		expect(read(step({ nominal: { ok: false, text: 'its table runs from 5 to 40 °C' } }))).toContain(
			'runs from 5 to 40',
		);
	});
	it('offers the bottles of this standard alone, and mV where the meter shows it', () => {
		expect(draw(step({}))).toContain('<option>seven A</option>');
		expect(draw(step({}))).not.toContain('four A');
		expect(draw(step({ showsMv: true }))).toContain('mV');
		expect(draw(step({ showsMv: true }))).toContain('seven A');
	});
	it('offers a bottle of a standard that no table here knows, by its own', () => {
		const own = [{ name: 'lab five', standard: 'pH 5.00', own_table: [[20, 5]] }] as unknown as Parameters<
			typeof FoundStep
		>[0]['lots'];
		expect(draw(step({ lots: own }))).toContain('<option>pH 5.00</option>');
		expect(draw(step({ lots: own, quantity: 'ec' }))).not.toContain('pH 5.00');
	});
	it('as left has a field for each standard with what it should be', () => {
		const left = draw(createElement(LeftSteps, { steps: start('ph'), placeholders: ['7.02', ''], onChange: nothing }));
		expect(left.match(/id="c-left-/g)).toHaveLength(2);
		expect(left).toContain('placeholder="7.02"');
	});
	it('asks which bottle it is before it calls the probe wrong', () => {
		const asked = read(
			createElement(WrongBottle, { found: '4.05', other: 'pH 4.01', lots: [], onOther: nothing, onRight: nothing }),
		);
		expect(asked).toBe('It reads 4.05: is this the pH 4.01 bottle? Yes, pH 4.01 No, it is right as it is');
		const lots = [{ name: 'four A', standard: 'pH 4.01' }] as unknown as Parameters<typeof WrongBottle>[0]['lots'];
		expect(
			read(createElement(WrongBottle, { found: '4.05', other: 'pH 4.01', lots, onOther: nothing, onRight: nothing })),
		).toContain('is this your “four A” (pH 4.01)?');
	});
	const live = (points: { nominal: number; asFound: number }[]) =>
		createElement(LiveVerdict, {
			quantity: 'ph',
			result: evaluateCalibration('ph', points, 25),
			points: points.length,
		});
	it('tells while it is typed what the values say, in the words of its reasons', () => {
		expect(
			read(
				live([
					{ nominal: 7, asFound: 7.02 },
					{ nominal: 4, asFound: 4.03 },
				]),
			),
		).toBe('Good · offset +0.02 pH, slope 99.7 %');
		const bad = live([
			{ nominal: 7, asFound: 7.5 },
			{ nominal: 4, asFound: 5.1 },
		]);
		expect(read(bad)).toMatch(/^Fails · offset \+0.50 pH, slope 80.0 % Slope 80.0 % is below 85 %/);
		expect(draw(bad)).toContain('data-live="fail"');
		expect(read(live([{ nominal: 7, asFound: 7.02 }]))).toContain('One buffer shows the offset only');
		expect(
			read(
				live([
					{ nominal: 7, asFound: 7 },
					{ nominal: 7, asFound: 7.1 },
				]),
			),
		).toContain('The same standard is given twice');
	});
	it('and afterwards what it means for the readings before', () => {
		const outcome = {
			id: 3,
			result: { offset: 0.31, offset_mv: null, slope_pct: 96.2, cell_factor: null, verdict: 'watch', reasons: [] },
			doubts: ['The bottle four A expired on 2026-05-01; check with a fresh one.'],
			points: [],
			restated: 1,
			rejected: 2,
			provisional: true,
		} as Parameters<typeof Result>[0]['outcome'];
		const probe = { name: 'Plum', instrument: 'plum', quantity: 'ph', last_offset: null } as Parameters<
			typeof Result
		>[0]['probe'];
		const words = read(createElement(Result, { outcome, probe, onAgain: nothing }));
		expect(words).toContain('Plum: watch it As found it was 0.31 too high, slope 96.2 %.');
		expect(words).toContain('It is the first calibration of this probe here.');
		expect(words).toContain('1 reading since the last calibration has been restated');
		expect(words).toContain('It is provisional');
		expect(words).toContain('2 lie too far off to be put right.');
		expect(words).toContain('the bulb stays wet');
	});
});
