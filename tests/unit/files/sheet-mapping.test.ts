import { describe, expect, it } from 'vitest';
import type { SheetMapping } from '@/core/reading/sheet';
import { dateBy, guessUse, mappedReadings, possibleOrders } from '@/files/sheet-mapping';

/** How growers keep their sheets (common practice, no source): wide rows, titles above, days first or months first, °F, ppm. */
const quantity = (q: 'ph' | 'ec' | 'tds' | 'temp', unit: string) => ({ as: 'quantity', quantity: q, unit }) as const;
const mapping: SheetMapping = {
	linesBefore: 2,
	columns: [
		{ name: 'Date', use: { as: 'date' } },
		{ name: 'Time', use: { as: 'clock' } },
		{ name: 'Tank', use: { as: 'station' } },
		{ name: 'pH', use: quantity('ph', 'pH') },
		{ name: 'TDS', use: quantity('tds', 'ppm 500') },
		{ name: 'Temp °F', use: quantity('temp', 'F') },
		{ name: 'Remarks', use: { as: 'note' } },
	],
	dateOrder: 'dmy',
	station: '',
	instrument: 'plum',
	clock: '07:30',
};

describe('a spreadsheet of a grower', () => {
	it('wide rows become readings: a line for each value, °F and ppm with their scale, the temperature beside each', () => {
		const { csv, readings, rows, problems } = mappedReadings(
			[
				['My tanks'],
				[],
				['Date', 'Time', 'Tank', 'pH', 'TDS', 'Temp °F', 'Remarks'],
				['03/04/2026', '7:45', 'pond', '5,9', 850, 68, 'clear'],
				['03/04/2026', '', 'slabs', '', '900', '', ''],
				[],
				['04/04/2026', '4:05 pm', 'pond', 6.1, '-', null, ''],
			],
			mapping,
			'Europe/Amsterdam',
		);
		expect(problems).toEqual([]);
		expect(csv.trim().split('\n')).toEqual([
			'time,station,instrument,quantity,value,unit,temp_c,wait_s,note',
			'2026-04-03T05:45:00Z,pond,plum,ph,"5,9",pH,20.0,,clear',
			'2026-04-03T05:45:00Z,pond,plum,tds,850,ppm500,20.0,,clear',
			'2026-04-03T05:45:00Z,pond,plum,temp,68,F,,,clear',
			'2026-04-03T05:30:00Z,slabs,plum,tds,900,ppm500,,,',
			'2026-04-04T14:05:00Z,pond,plum,ph,6.1,pH,,,',
		]);
		expect([readings, rows.slice(2)]).toEqual([5, [4, 4, 4, 5, 7]]);
	});
	it('dates of a workbook are those of its own clock', () => {
		const { csv } = mappedReadings(
			[[], [], [], [new Date(Date.UTC(2026, 3, 3)), '07:45', 'pond', 6, null, null, null]],
			mapping,
			'UTC',
		);
		expect(csv).toContain('2026-04-03T07:45:00Z,pond');
	});
	it('what cannot be read is named with its row and column, and the rest is taken', () => {
		const { readings, problems } = mappedReadings(
			[
				[],
				[],
				[],
				['31/02/2026', '', 'pond', 6, '', '', ''],
				['03/04/2026', '', '', 6, '', '', ''],
				['03/04/2026', '', 'pond', 'abc', 900, '', ''],
			],
			mapping,
			'UTC',
		);
		expect(readings).toBe(1);
		expect(problems).toEqual([
			{ row: 4, column: 'Date', message: '“31/02/2026” is not a time as it was said to be written' },
			{ row: 5, column: 'Tank', message: 'has no station' },
			{ row: 6, column: 'pH', message: '“abc” is not a number' },
		]);
	});
	it('whether days or months come first is told by the dates, and asked where they do not tell', () => {
		expect(possibleOrders(['25/04/2026', '03/04/2026'])).toEqual(['dmy']);
		expect(possibleOrders(['04/25/2026'])).toEqual(['mdy']);
		expect(possibleOrders(['03/04/2026', '05/06/2026'])).toEqual(['dmy', 'mdy']);
		expect(possibleOrders(['2026-04-25', '2026-04-03'])).toContain('ymd');
		expect([dateBy('3.4.26', 'dmy'), dateBy('29/02/2026', 'dmy'), dateBy('29/02/2028', 'dmy')]).toEqual([
			'2026-04-03',
			null,
			'2028-02-29',
		]);
	});
	it.each([
		['EC (mS/cm)', { as: 'quantity', quantity: 'ec', unit: 'mS/cm' }],
		['Water temp (°F)', { as: 'quantity', quantity: 'temp', unit: 'F' }],
		['pH', { as: 'quantity', quantity: 'ph', unit: 'pH' }],
		['ppm', { as: 'quantity', quantity: 'tds', unit: 'ppm' }],
		['Reservoir', { as: 'station' }],
		['Timestamp', { as: 'time' }],
		['Weather', { as: 'ignore' }],
	])('%s is guessed', (name, use) => {
		expect(guessUse(name)).toEqual(use);
	});
});
