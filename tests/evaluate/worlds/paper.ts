import { seeded } from '@/sim/random';
import {
	DAY,
	HOUR,
	heavy,
	instrument,
	line,
	MINUTE,
	type Row,
	shown,
	siteOf,
	slip,
	station,
	Water,
	Weather,
	type World,
} from './world';

const local = new Intl.DateTimeFormat('sv-SE', {
	timeZone: 'Europe/Berlin',
	dateStyle: 'short',
	timeStyle: 'medium',
});
const localTime = (at: number): string => local.format(at).replace(' ', 'T');

/**
 * A book kept on paper and typed later, in local time, across the end of summer time: a day and month exchanged, a week that was
 * filled in with the numbers of the week before, holidays of weeks, a node whose clock says the same hour twice.
 */
function paperWorld(
	name: string,
	seed: number,
	start: number,
	days: number,
	chanceOf: { swap: number; paste: number },
): World {
	const chance = seeded(seed);
	const weather = new Weather(chance);
	const water = new Water(
		{ litres: 150, ec: 1300, ph: 6, tempC: 20, drinks: 3, takes: 0.7, rises: 0.05, swings: 4 },
		chance,
	);
	const rows: Row[] = [];
	let away = 0;
	const written: { day: number; lines: Row[] }[] = [];
	for (let day = 0; day < days; day++) {
		for (let h = 0; h < 24; h++) water.pass(1, weather.sun(start + day * DAY + h * HOUR));
		if (water.litres < 140) water.pour(150 - water.litres, 300);
		if (water.ph > 6.3) water.acid(0.3);
		if (water.ec < 1200) water.feed(0.08);
		if (away === 0 && chance.chance(0.012)) away = Math.floor(chance.between(12, 40));
		if (away > 0) {
			away--;
			continue;
		}
		const at = start + day * DAY + Math.round(chance.between(7, 10) * 60) * MINUTE;
		const before = written.find((w) => w.day === day - 7);
		const pasted = before !== undefined && written.length > 20 && chance.chance(chanceOf.paste);
		const fresh = (): Row[] => {
			const lines = [
				line(at, 'tank', 'finch', 'ph', shown(water.showsPh + 0.02 * heavy(chance), 0.01), 'pH'),
				line(at, 'tank', 'finch', 'ec', shown(water.ec * (1 + 0.008 * heavy(chance)), 1), 'uS/cm'),
				line(at, 'tank', 'finch', 'temp', shown(water.tempC + 0.1 * chance.normal(), 0.1), 'C'),
			];
			if (chance.chance(0.015)) slip(lines[0]!, 'decimal-slip');
			return lines;
		};
		const lines = pasted
			? before.lines.map((l) => ({
					...l,
					at: l.at + 7 * DAY,
					time: localTime(l.at + 7 * DAY),
					fault: 'pasted',
					episode: `pasted ${day}`,
					truth: null,
				}))
			: fresh();
		if (!pasted) {
			const date = new Date(at);
			const [d, m] = [date.getUTCDate(), date.getUTCMonth() + 1];
			const turns = chance.chance(chanceOf.swap) && d <= 12 && Math.abs(d - m) > 1;
			const other = turns ? Date.UTC(date.getUTCFullYear(), d - 1, m) + (at % DAY) : at;
			for (const l of lines) {
				if (turns && l.fault === '') Object.assign(l, { at: other, fault: 'clock', episode: `turned ${day}` });
				l.time = localTime(l.at);
			}
			if (!turns && lines.every((l) => l.fault === '')) written.push({ day, lines });
		}
		rows.push(...lines);
	}
	return {
		name,
		rows,
		events: [],
		calibrations: [],
		zone: 'Europe/Berlin',
		site: siteOf([station('tank', 'reservoir', 150)], [instrument('finch', false)]),
	};
}
export const paperSeen = (seed: number): World =>
	paperWorld('paper (seen)', seed * 6029 + 7, Date.UTC(2025, 0, 8), 330, { swap: 0.12, paste: 0.03 });
export const paper = (seed: number): World =>
	paperWorld('paper', seed * 7057 + 13, Date.UTC(2024, 4, 2), 360, { swap: 0.2, paste: 0.05 });

/** A node that writes local time every ten minutes through the night in which the clocks go back. */
export function autumn(seed: number): World {
	const chance = seeded(seed * 3919 + 23);
	const weather = new Weather(chance);
	const water = new Water(
		{ litres: 150, ec: 1500, ph: 6, tempC: 18, drinks: 2, takes: 0.7, rises: 0.04, swings: 2 },
		chance,
	);
	const rows: Row[] = [];
	const start = Date.UTC(2025, 9, 20);
	for (let at = start; at < start + 10 * DAY; at += 10 * MINUTE) {
		water.pass(1 / 6, weather.sun(at));
		if (water.litres < 146) water.pour(4, 300);
		const time = localTime(at);
		rows.push(
			line(at, 'tank', 'node', 'ph', shown(water.showsPh + 0.01 * heavy(chance), 0.01), 'pH', { time }),
			line(at, 'tank', 'node', 'ec', shown(water.ec * (1 + 0.004 * heavy(chance)), 1), 'uS/cm', { time }),
		);
	}
	return {
		name: 'autumn',
		rows,
		events: [],
		calibrations: [],
		zone: 'Europe/Berlin',
		site: siteOf([station('tank', 'reservoir', 150)], [instrument('node', true)]),
	};
}
