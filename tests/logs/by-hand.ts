import type { HandLog } from './hand-log';

/** Logs written by hand, each for what it shows; what waters and people do in them is common practice, no source. */
const PH = 'ph 5.90|5.94|5.88|5.92|5.91 pH';
const EC = 'ec 1.80|1.82|1.79|1.83|1.81 mS/cm';
const RO = 'ec 24|26|25|27|24 uS/cm';
const mornings = (to: number, from = 1, at = '7:30') =>
	`day ${from}..${to} ${at} pond plum ${PH}\nday ${from}..${to} ${at} pond plum ${EC}`;
const dated = (dates: readonly string[], value = ['5.90', '5.94', '5.88', '5.92', '5.91']) =>
	dates.map((d, i) => `${d} 7:3${i % 10} pond plum ph ${value[i % value.length]} pH`).join('\n');
const march = (from: number, to: number) =>
	Array.from({ length: to - from + 1 }, (_, i) => `2026-03-${String(from + i).padStart(2, '0')}`);
/** A node of every so many minutes through some days: a pH that swings with the day and steps of its display. */
const node = (days: number, every: number, step = 0.01, code = 'post', from = 1) =>
	Array.from({ length: (days * 1440) / every }, (_, i) => {
		const minute = i * every;
		const at = `day ${from + Math.floor(minute / 1440)} ${Math.floor((minute % 1440) / 60)}:${String(minute % 60).padStart(2, '0')}`;
		const wobble = ((i * 7919) % 13) / 13 - 0.5;
		const ph = Math.round((5.9 + 0.12 * Math.sin((minute / 1440) * 2 * Math.PI) + 0.03 * wobble) / step) * step;
		const ec =
			Math.round((1800 + 40 * Math.cos((minute / 1440) * 2 * Math.PI) + 12 * wobble) / (step * 500)) * step * 500;
		return `${at} pond ${code} ph ${ph.toFixed(2)} pH\n${at} pond ${code} ec ${ec.toFixed(0)} uS/cm`;
	}).join('\n');
const every = (
	day: number,
	from: number,
	times: number,
	minutes: number,
	line: (i: number) => readonly string[],
	code = 'post',
) =>
	Array.from({ length: times }, (_, i) => {
		const minute = from + i * minutes;
		const at = `day ${day + Math.floor(minute / 1440)} ${Math.floor((minute % 1440) / 60)}:${String(minute % 60).padStart(2, '0')}`;
		return line(i)
			.map((l) => `${at} pond ${code} ${l}`)
			.join('\n');
	}).join('\n');

export const HAND_LOGS: readonly HandLog[] = [
	{ name: 'twelve quiet mornings', lines: mornings(12) },
	{
		name: 'the pH typed without its mark',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 591 pH → decimal-slip meant 5.91\nday 9 7:30 pond plum ec 1.81 mS/cm`,
	},
	{
		name: 'the mark one place too far',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ec 18.1 mS/cm → decimal-slip meant 1810`,
	},
	{ name: 'mS written as µS', lines: `${mornings(8)}\nday 9 7:30 pond plum ec 1.81 uS/cm → unit-slip meant 1810` },
	{ name: 'µS written as mS', lines: `${mornings(8)}\nday 9 7:30 pond plum ec 1810 mS/cm → unit-slip meant 1810` },
	{
		name: 'a decimal slip in an EC right after water and feed',
		lines: `${mornings(8)}\nday 9 7:00 pond water_added 40 L\nday 9 7:05 pond nutrient_added 200 mL\nday 9 7:30 pond plum ec 18.4 mS/cm → decimal-slip meant 1840\nday 10 7:30 pond plum ec 1.85 mS/cm`,
	},
	{
		name: 'a unit slip in an EC right after water and feed',
		lines: `${mornings(8)}\nday 9 7:00 pond water_added 40 L\nday 9 7:05 pond nutrient_added 200 mL\nday 9 7:30 pond plum ec 1.84 uS/cm → unit-slip meant 1840\nday 10 7:30 pond plum ec 1.82 mS/cm`,
	},
	{
		name: 'water and feed that lift the EC are believed',
		lines: `${mornings(8)}\nday 9 7:00 pond water_added 40 L\nday 9 7:05 pond nutrient_added 400 mL\nday 9 7:30 pond plum ec 2.20 mS/cm\nday 10 7:30 pond plum ec 2.22 mS/cm`,
	},
	{
		name: 'pH and EC of one pen exchanged',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 1.81 pH → swapped meant 5.92\nday 9 7:30 pond plum ec 5.92 mS/cm → swapped meant 1810`,
	},
	{
		name: 'pH and EC exchanged between two pens',
		lines: `day 1..8 7:30 pond plum ${PH}\nday 1..8 7:30 pond fern ${EC}\nday 9 7:30 pond plum ph 1.81 pH → swapped meant 5.92\nday 9 7:30 pond fern ec 5.92 mS/cm → swapped meant 1810`,
	},
	{
		name: 'exchanged between two pens right after water, feed and acid',
		lines: `day 1..8 7:30 pond plum ${PH}\nday 1..8 7:30 pond fern ${EC}\nday 9 7:00 pond water_added 30 L\nday 9 7:05 pond nutrient_added 100 mL\nday 9 7:10 pond acid_added 8 mL\nday 9 7:30 pond plum ph 1.84 pH → swapped meant 5.72\nday 9 7:30 pond fern ec 5.72 mS/cm → swapped meant 1840`,
	},
	{
		name: 'a short wait explains a pH that is off',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 6.45 pH wait 6 → not-settled\nday 9 7:30 pond plum ec 1.81 mS/cm`,
	},
	{
		name: 'a short wait that did no harm is still said',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 5.91 pH wait 6 → not-settled`,
	},
	{ name: 'a wait of a little less is none', lines: `${mornings(8)}\nday 9 7:30 pond plum ph 5.91 pH wait 25` },
	{
		name: 'a short wait is not blamed for a number without its mark',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 592 pH wait 6 → decimal-slip meant 5.92`,
	},
	{
		name: 'the rinse left out before pure water',
		stations: { ro: 'source' },
		lines: `day 1..8 7:20 pond plum ${EC}\nday 1..8 7:30 ro plum ${RO}\nday 9 7:20 pond plum ec 1.81 mS/cm\nday 9 7:30 ro plum ec 41 uS/cm no rinse → carry-over`,
	},
	{
		name: 'salt carried into pure water, with nothing said of the rinse',
		stations: { ro: 'source' },
		lines: `day 1..8 7:20 pond plum ${EC}\nday 1..8 7:30 ro plum ${RO}\nday 9 7:20 pond plum ec 1.81 mS/cm\nday 9 7:30 ro plum ec 170 uS/cm → carry-over`,
	},
	{
		name: 'day and month exchanged: that line, and none after it',
		lines: `${dated(march(1, 3))}\n2026-04-03 7:33 pond plum ph 5.92 pH\n${dated(march(5, 9))}`.replace(
			'2026-04-03 7:33 pond plum ph 5.92 pH',
			'2026-04-03 7:33 pond plum ph 5.92 pH → clock',
		),
	},
	{
		name: 'two days in a row with day and month exchanged',
		lines: `${dated(march(1, 3))}\n2026-04-03 7:33 pond plum ph 5.92 pH → clock\n2026-05-03 7:34 pond plum ph 5.91 pH → clock\n${dated(march(6, 9))}`,
	},
	{
		name: 'a wrong month that nothing contradicts at first: two lines later it is known',
		lines: `${dated(march(1, 8))}\n2026-03-29 7:38 pond plum ph 5.92 pH\n2026-03-30 7:31 pond plum ph 5.90 pH\n2026-03-09 7:33 pond plum ph 5.91 pH → clock\n2026-03-10 7:34 pond plum ph 5.93 pH → clock\n${dated(march(11, 16))}`,
	},
	{
		name: 'exchanged into the past',
		lines: `${dated(['2026-05-01', '2026-05-02', '2026-05-03'])}\n2026-04-05 7:33 pond plum ph 5.92 pH → clock\n${dated(['2026-05-05', '2026-05-06'])}`,
	},
	{
		name: 'three weeks of holiday are no wrong date',
		lines: `${dated(march(1, 9))}\n${dated(['2026-03-30', '2026-03-31', '2026-04-01', '2026-04-02'])}`,
	},
	{
		name: 'five weeks away from a water read once a week',
		lines: dated(['2026-02-02', '2026-02-09', '2026-02-16', '2026-02-23', '2026-03-30', '2026-04-06', '2026-04-13']),
	},
	{
		name: 'the year of the last page',
		lines: `${dated(march(1, 5))}\n2025-03-06 7:35 pond plum ph 5.92 pH → clock\n${dated(march(7, 9))}`,
	},
	{
		name: 'the hour that autumn has twice, every ten minutes',
		zone: 'Europe/Berlin',
		lines: [
			'01:40',
			'01:50',
			'02:00',
			'02:10',
			'02:20',
			'02:30',
			'02:40',
			'02:50',
			'02:00',
			'02:10',
			'02:20',
			'02:30',
			'02:40',
			'02:50',
			'03:00',
			'03:10',
		]
			.map((t, i) => `2025-10-26 ${t} pond post ph ${(5.9 + (i % 3) / 100).toFixed(2)} pH`)
			.join('\n'),
	},
	{
		name: 'entered twice',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 5.91 pH\nday 9 7:30 pond plum ph 5.91 pH → duplicate`,
	},
	{
		name: 'entered twice, and not alike',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ph 5.91 pH\nday 9 7:30 pond plum ph 5.97 pH → duplicate`,
	},
	{
		name: 'last week pasted again',
		lines: `${Array.from({ length: 14 }, (_, i) => `day ${i + 1} ${7 + (i % 2)}:${10 + ((i * 17) % 47)} pond plum ph ${(5.8 + ((i * 37) % 29) / 100).toFixed(2)} pH\nday ${i + 1} ${7 + (i % 2)}:${10 + ((i * 17) % 47)} pond plum ec ${1750 + ((i * 53) % 97)} uS/cm`).join('\n')}\nday 15 8:40 pond plum ph 6.02 pH\nday 16 8:27 pond plum ph ${(5.8 + ((1 * 37) % 29) / 100).toFixed(2)} pH → pasted\nday 16 8:27 pond plum ec ${1750 + 53} uS/cm → pasted`,
	},
	{
		name: 'always at half past seven, in a still water, the same again: nothing',
		lines: `day 1..16 7:30 pond plum ph 5.90|5.91|5.90 pH\nday 1..16 7:30 pond plum ec 1.80|1.80|1.81 mS/cm`,
	},
	{
		name: 'the sample of another tank',
		lines: `${mornings(9)}\nday 1..9 7:40 mix plum ph 6.30|6.34|6.28|6.31 pH\nday 1..9 7:40 mix plum ec 2.60|2.58|2.61 mS/cm\nday 10 7:30 pond plum ph 6.31 pH → wrong-station\nday 10 7:30 pond plum ec 2.60 mS/cm → wrong-station`,
	},
	{
		name: 'a ppm on the scale of the other meter',
		lines: `day 1..8 7:30 pond plum ${EC}\nday 1..8 7:30 pond moss tds 902|911|895|913 ppm500\nday 9 7:30 pond plum ec 1.80 mS/cm\nday 9 7:30 pond moss tds 1262 ppm500 → scale-mismatch meant 1800`,
	},
	{
		name: 'EC and ppm of one pen: a scale named wrongly',
		lines: `day 1..6 7:30 pond plum ${EC}\nday 7 7:30 pond plum ec 1.81 mS/cm\nday 7 7:30 pond plum tds 1267 ppm500 → scale-mismatch meant 1810`,
	},
	{
		name: 'a pen without compensation in cold water',
		lines: `${mornings(8)}\nday 9 7:30 pond old ec 1.44 mS/cm at 15 °C → no-compensation meant 1800`,
	},
	{
		name: 'compensation switched off',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ec 1.44 mS/cm at 15 °C → no-compensation meant 1800`,
	},
	{
		name: 'a borehole of ten degrees is read for months: nothing',
		stations: { well: 'source' },
		lines: `day 1..60 7:30 well plum ec 610|612|608|611|615 uS/cm at 10.5 °C\nday 1..60 7:30 well plum ph 7.30|7.32|7.28 pH at 10.5 °C`,
	},
	{
		name: 'rain thins a borehole: to be confirmed, no slip of the hand',
		stations: { well: 'source' },
		lines: `day 1..12 7:30 well plum ec 610|612|608|611|615 uS/cm at 10 °C\nday 13 7:30 well plum ec 436 uS/cm at 10 °C → source-shift\nday 14 7:30 well plum ec 610 uS/cm at 10 °C`,
	},
	{
		name: 'a source that fell tenfold, read three times alike',
		stations: { tap: 'source' },
		lines: `day 1..12 7:30 tap plum ec 710|712|708|711 uS/cm\nday 13..16 7:30 tap plum ec 71|72 uS/cm → source-shift\nday 17..20 7:30 tap plum ec 71|72 uS/cm`,
	},
	{
		name: 'one slip of ten at a source stays a slip',
		stations: { tap: 'source' },
		lines: `day 1..12 7:30 tap plum ec 710|712|708|711 uS/cm\nday 13 7:30 tap plum ec 71 uS/cm → decimal-slip meant 710\nday 14 7:30 tap plum ec 711 uS/cm`,
	},
	{
		name: 'a source that swings with the season',
		stations: { tap: 'source' },
		lines: Array.from(
			{ length: 60 },
			(_, i) => `day ${i * 2 + 1} 7:30 tap plum ec ${Math.round(700 + 120 * Math.sin(i / 9) + ((i * 31) % 9))} uS/cm`,
		).join('\n'),
	},
	{
		name: 'feed was added and the EC fell',
		lines: `${mornings(8)}\nday 8 20:00 pond nutrient_added 200 mL\nday 9 7:30 pond plum ec 1.50 mS/cm → against-event`,
	},
	{
		name: 'acid was added and the pH rose',
		lines: `${mornings(8)}\nday 8 20:00 pond acid_added 10 mL\nday 9 7:30 pond plum ph 6.50 pH → against-event`,
	},
	{
		name: 'water and feed of one visit are learned together',
		lines: `${[0, 1, 2, 3]
			.map(
				(k) =>
					`day ${3 * k + 1}..${3 * k + 2} 7:30 pond plum ec ${(1.7 - 0.02 * k).toFixed(2)}|1.62 mS/cm\nday ${3 * k + 2} 18:00 pond water_added 60 L\nday ${3 * k + 2} 18:05 pond nutrient_added 300 mL\nday ${3 * k + 3} 7:30 pond plum ec ${(1.95 + 0.01 * k).toFixed(2)} mS/cm\nday ${3 * k + 3} 12:00 pond solution_changed 500 L`,
			)
			.join(
				'\n',
			)}\nday 13..14 7:30 pond plum ec 1.66|1.62 mS/cm\nday 14 18:00 pond water_added 60 L\nday 14 18:05 pond nutrient_added 300 mL\nday 15 7:30 pond plum ec 1.02 mS/cm → unlogged-addition`,
	},
	{
		name: 'a jump of a tank with nothing logged',
		lines: `${mornings(8)}\nday 9 7:30 pond plum ec 2.60 mS/cm → unlogged-addition\nday 10 7:30 pond plum ec 2.62 mS/cm → unlogged-addition\nday 11..12 7:30 pond plum ec 2.61|2.63 mS/cm`,
	},
	{
		name: 'a tank drunk down slowly',
		lines: Array.from(
			{ length: 20 },
			(_, i) => `day ${i + 1} 7:30 pond plum ec ${(1.8 + 0.03 * i).toFixed(2)} mS/cm`,
		).join('\n'),
	},
	{
		name: 'a change of solution explains anything near it',
		lines: `${mornings(8)}\nday 8 20:00 pond solution_changed 600 L\nday 9..11 7:30 pond plum ec 1.30|1.32|1.31 mS/cm`,
	},
	{
		name: '°F written as °C',
		lines: `day 1..8 7:30 pond plum temp 20.1|20.4|19.8 C\nday 9 7:30 pond plum temp 68.5 C → unit-slip`,
	},
	{
		name: 'a pH of pure water is not telling',
		stations: { ro: 'source' },
		lines: `day 1..6 7:30 ro plum ph 6.1|6.3|5.9 pH → low-ionic-strength\nday 1..6 7:30 ro plum ec 24|26|25 uS/cm`,
	},
	{
		name: 'two pens that cannot both be right',
		lines: `day 1..9 7:30 pond plum ${PH}\nday 1..8 7:30 pond fern ${PH}\nday 9 7:30 pond fern ph 6.44 pH → disagreement`,
	},
	{
		name: 'two pens a tenth apart',
		lines: `day 1..9 7:30 pond plum ${PH}\nday 1..9 7:30 pond fern ph 5.98|6.01|5.97 pH`,
	},
	{ name: 'a node of five minutes, three quiet days', lines: node(3, 5) },
	{ name: 'a node of a minute on a coarse display, two days', lines: node(2, 1, 0.1) },
	{ name: 'a node of a quarter of an hour on a coarse display', lines: node(4, 15, 0.1) },
	{
		name: 'a node that hangs for twelve hours',
		lines: `${node(3, 15)}\n${every(4, 0, 1, 15, () => ['ph 5.93 pH', 'ec 1833 uS/cm'])}\n${every(4, 15, 47, 15, () => ['ph 5.93 pH → stuck', 'ec 1833 uS/cm → stuck'])}`,
	},
	{
		name: 'one value of a node hangs, the other goes on',
		lines: `${node(3, 15)}\n${every(4, 0, 1, 15, () => ['ph 5.93 pH', 'ec 1833 uS/cm'])}\n${every(4, 15, 40, 15, (i) => ['ph 5.93 pH → stuck', `ec ${1830 - ((i * 5) % 11)} uS/cm`])}`,
	},
	{
		name: 'a pH probe in its cap while the EC goes on',
		lines: `${node(2, 15)}\n${every(3, 0, 12, 15, (i) => [`ph ${(4.02 + (i % 2) / 100).toFixed(2)} pH → probe-in-storage`, `ec ${1836 - ((i * 5) % 11)} uS/cm`])}\n${every(3, 180, 8, 15, (i) => [`ph ${(5.98 + (i % 3) / 100).toFixed(2)} pH`, `ec ${1830 - ((i * 5) % 11)} uS/cm`])}`,
	},
	{
		name: 'out of the water: both values, from the first to the last',
		lines: `${node(2, 15)}\n${every(3, 0, 8, 15, (i) => [`ph ${(5.9 + (i % 3) / 5).toFixed(2)} pH → probe-in-air`, `ec ${i % 4} uS/cm → probe-in-air`])}\n${every(3, 120, 8, 15, (i) => [`ph ${(5.95 + (i % 3) / 100).toFixed(2)} pH`, `ec ${1830 - ((i * 5) % 11)} uS/cm`])}`,
	},
	{
		name: 'both in storage solution',
		lines: `${node(2, 15)}\n${every(3, 0, 6, 15, () => ['ph 4.10 pH → probe-in-storage', 'ec 82000 uS/cm → probe-in-storage'])}`,
	},
	{
		name: 'one spike and back',
		lines: `${node(2, 15)}\nday 3 0:00 pond post ph 7.45 pH → spike\nday 3 0:00 pond post ec 1836 uS/cm\n${every(3, 15, 6, 15, (i) => [`ph ${(5.91 + (i % 3) / 100).toFixed(2)} pH`, `ec ${1836 - ((i * 5) % 11)} uS/cm`])}`,
	},
	{
		name: 'a calibration of the node that nobody logged',
		lines: `${node(2, 15)}\n${every(3, 0, 12, 15, (i) => [`ph ${(6.38 + (i % 3) / 100).toFixed(2)} pH${i < 3 ? ' → calibration-step' : ''}`, `ec ${1836 - ((i * 5) % 11)} uS/cm`])}`,
	},
	{
		name: 'a node that was off for five hours',
		lines: `${node(2, 15)}\n${every(3, 300, 8, 15, (i) => [`ph ${(6.0 + (i % 3) / 100).toFixed(2)} pH`, `ec ${1800 - ((i * 5) % 11)} uS/cm`])}`,
	},
	{
		name: 'beyond what any meter shows',
		lines: `${mornings(4)}\nday 5 7:30 pond plum ph 27 pH → out-of-range`,
	},
	{
		name: 'the first reading of a new tank is asked for a slip of a factor only',
		lines:
			'day 1 7:30 fresh plum ph 5.4 pH\nday 1 7:30 fresh plum ec 2.9 mS/cm\nday 1 8:30 other plum ec 2100 mS/cm → unit-slip',
	},
	{
		name: 'a source that went over to another water for good, not tenfold',
		stations: { tap: 'source' },
		lines: `day 1..10 7:30 tap plum ec 410|412|408|411 uS/cm\nday 11 7:30 tap plum ec 655 uS/cm → source-shift\nday 12 7:30 tap plum ec 651 uS/cm → source-shift\nday 13..16 7:30 tap plum ec 652|655 uS/cm`,
	},
];
