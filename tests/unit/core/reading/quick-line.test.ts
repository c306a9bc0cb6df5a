import { describe, expect, it } from 'vitest';
import { NO_EFFECT } from '@/core/judge/event-effect';
import { placeMark } from '@/core/reading/place-mark';
import { parseQuickLine, type QuickContext } from '@/core/reading/quick-line';

describe('the quick line', () => {
	const context: QuickContext = {
		stations: [
			{ code: 'pond', name: 'Pond' },
			{ code: 'rain', name: 'Rain tank' },
			{ code: 'gutters-feed', name: 'Gutters feed' },
			{ code: 'gutters-drain', name: 'Gutters drain' },
		],
		instruments: [
			{ code: 'plum', name: 'Plum', ppmScale: null },
			{ code: 'minnow', name: 'Minnow', ppmScale: 700 },
		],
		ecUnit: 'mS/cm',
		tempUnit: 'C',
	};
	const parse = (line: string, c = context) => parseQuickLine(line, c);
	it('what was done is told from what was read, after the station', () => {
		expect(parse('pond +65L')).toMatchObject({
			station: 'pond',
			event: { kind: 'water_added', amount: 65 },
			readings: [],
			asks: [],
		});
		expect(parse('gutters drain drained 12 L # half')).toMatchObject({
			station: 'gutters-drain',
			event: { kind: 'drained', amount: 12 },
			note: 'half',
		});
		expect(parse('pond note yellow tips')).toMatchObject({ event: { kind: 'note', note: 'yellow tips' }, asks: [] });
		expect(parse('pond note')).toMatchObject({ asks: [{ about: 'value' }] });
		expect(parse('+65L')).toMatchObject({ asks: [{ about: 'station' }] });
	});
	it('pond ph 5.8 ec 1.92 t 21.4', () => {
		expect(parse('pond ph 5.8 ec 1.92 t 21.4')).toMatchObject({
			station: 'pond',
			asks: [],
			readings: [
				{ quantity: 'ph', digits: '5.8', unit: 'pH' },
				{ quantity: 'ec', digits: '1.92', unit: 'mS/cm' },
				{ quantity: 'temp', digits: '21.4', unit: 'C' },
			],
		});
	});
	it('the air around the plants: pond air 24.5 rh 62', () => {
		expect(parse('pond air 24.5 rh 62')).toMatchObject({
			station: 'pond',
			asks: [],
			readings: [
				{ quantity: 'air_temp', digits: '24.5', unit: 'C' },
				{ quantity: 'humidity', digits: '62', unit: '%' },
			],
		});
		expect(parse('pond air 76', { ...context, tempUnit: 'F' }).readings).toMatchObject([{ unit: 'F' }]);
	});
	it('what roots grow in, and what flows: pond moisture 62 sec 2.4 flow 30', () => {
		expect(parse('pond moisture 62 sec 2.4 flow 30')).toMatchObject({
			station: 'pond',
			asks: [],
			readings: [
				{ quantity: 'moisture', digits: '62', unit: '%' },
				{ quantity: 'substrate_ec', digits: '2.4', unit: 'mS/cm' },
				{ quantity: 'flow', digits: '30', unit: 'L/h' },
			],
		});
	});
	it('rain 36ppm takes the only ppm meter’s scale; with two it asks', () => {
		expect(parse('rain 36ppm')).toMatchObject({
			station: 'rain',
			instrument: 'minnow',
			readings: [{ quantity: 'tds', digits: '36', unit: 'ppm700' }],
			asks: [],
		});
		const two = { ...context, instruments: [...context.instruments, { code: 'b', name: 'B', ppmScale: 500 as const }] };
		expect(parse('rain 36ppm', two).asks).toEqual([{ about: 'ppm-scale' }]);
		expect(parse('rain 36ppm with b', two)).toMatchObject({ asks: [], readings: [{ unit: 'ppm500' }] });
	});
	it('gutters drain 6.4 2.9: numbers without a word are pH, then EC', () => {
		expect(parse('gutters drain 6.4 2.9')).toMatchObject({
			station: 'gutters-drain',
			readings: [
				{ quantity: 'ph', digits: '6.4' },
				{ quantity: 'ec', digits: '2.9' },
			],
			asks: [],
		});
	});
	it('asks only what is ambiguous', () => {
		expect(parse('gutters 6.4').asks).toEqual([{ about: 'station', candidates: ['gutters-feed', 'gutters-drain'] }]);
		expect(parse('pond ph five').asks).toEqual([{ about: 'word', word: 'five' }]);
		expect(parse('pond').asks).toEqual([{ about: 'value' }]);
	});
	it('takes units, commas, an instrument, an interval and a note', () => {
		expect(parse('pond ph 5,8 ec 1920 us t 70F by plum # after rain')).toMatchObject({
			instrument: 'plum',
			note: 'after rain',
			readings: [{ digits: '5.8' }, { digits: '1920', unit: 'uS/cm' }, { digits: '70', unit: 'F' }],
			asks: [],
		});
		expect(parse('pond ph 5.0..6.0').readings[0]).toMatchObject({ digits: '5.0..6.0' });
	});
	it('puts the decimal mark where the station’s expectation says, and leaves fitting digits alone', () => {
		const at = (level: number) => ({ level, spread: 0.1, from: 9, seen: 9, event: NO_EFFECT });
		expect(placeMark('58', 'ph', 'pH', at(5.9))).toBe('5.8');
		expect(placeMark('214', 'temp', 'C', at(21))).toBe('21.4');
		expect(placeMark('192', 'ec', 'mS/cm', at(Math.log(1950)))).toBe('1.92');
		expect(placeMark('950', 'ec', 'ppm500', at(Math.log(1950)))).toBe('950');
		expect(placeMark('7', 'ph', 'pH', at(5.9))).toBe('7');
		expect(placeMark('58', 'ph', 'pH', null)).toBe('58');
	});
});
