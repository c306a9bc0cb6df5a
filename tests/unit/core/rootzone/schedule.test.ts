import { describe, expect, it } from 'vitest';
import {
	readRunTimes,
	readSeasons,
	runsOf,
	seasonShare,
	showRunTimes,
	showSeasons,
	withRuns,
} from '@/core/rootzone/schedule';
import { runsADay } from '@/core/rootzone/watering';

/** Watering by clock, by interval and by light sum; every two hours becomes every hour (common practice, no source). */
describe('times of watering', () => {
	it.each([
		['7:00 9.30, 13h00', '07:00 09:30 13:00', 3],
		['every 2 h 7:00 to 19:00', 'every 120 min 07:00 to 19:00', 7],
		['every 45 min from 6:00 until 20:00', 'every 45 min 06:00 to 20:00', 19],
		['each 120 J/cm², 1800 a day', 'each 120 J/cm2, 1800 a day', 15],
	])('%s', (typed, shown, runs) => {
		const times = readRunTimes(typed)!;
		expect([showRunTimes(times), runsOf(times)]).toEqual([shown, runs]);
		expect(readRunTimes(shown)).toEqual(times);
	});
	it.each([
		'',
		'often',
		'25:00',
		'every 0 min 7:00 to 19:00',
		'every 60 min 19:00 to 7:00',
		'each 0 J/cm2, 1800 a day',
	])('“%s” is none', (text) => expect(readRunTimes(text)).toBeNull());
	it('with more runs the day stays as long, and no run is lost', () => {
		for (const typed of ['7:00 19:00', 'every 2 h 7:00 to 19:00', 'each 130 J/cm2, 1800 a day'])
			for (let runs = 2; runs <= 40; runs++)
				expect(runsOf(withRuns(readRunTimes(typed)!, runs))).toBeGreaterThanOrEqual(runs);
		expect(withRuns(readRunTimes('7:00 11:00 15:00')!, 5)).toEqual({
			by: 'clock',
			at: ['07:00', '09:00', '11:00', '13:00', '15:00'],
		});
	});
	it('say the runs a day by themselves', () => {
		expect(runsADay({ runTimes: '7:00 12:00', runsADay: 9 })).toBe(2);
		expect(runsADay({ runsADay: 9 })).toBe(9);
		expect(runsADay({})).toBeNull();
	});
});

describe('a share of drain by season', () => {
	const seasons = readSeasons('1 Apr 20 to 35; from 1 October 15-30 %')!;
	it('is read as it is typed, and shown so that it is read again', () => {
		expect(seasons).toEqual([
			{ from: '04-01', pct: [20, 35] },
			{ from: '10-01', pct: [15, 30] },
		]);
		expect(readSeasons(showSeasons(seasons))).toEqual(seasons);
		expect(readSeasons('summer 20 to 35')).toBeNull();
		expect(readSeasons('1 Apr 35 to 20')).toBeNull();
	});
	it('holds from its day on, over the turn of the year', () => {
		expect(seasonShare(seasons, '2026-08-14')).toEqual([20, 35]);
		expect(seasonShare(seasons, '2026-10-01')).toEqual([15, 30]);
		expect(seasonShare(seasons, '2027-02-01')).toEqual([15, 30]);
		expect(seasonShare([], '2026-08-14')).toBeUndefined();
	});
});
