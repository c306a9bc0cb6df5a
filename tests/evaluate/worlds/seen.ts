import type { WaterEvent } from '@/core/reading/model';
import { seeded } from '@/sim/random';
import {
	byTime,
	DAY,
	event,
	HOUR,
	happenings,
	heavy,
	instrument,
	line,
	MINUTE,
	nodeLines,
	type Row,
	shown,
	siteOf,
	slip,
	station,
	untold,
	Water,
	Weather,
	type World,
	watch,
} from './world';

/** Worlds that the checks may be developed with. */
const START = Date.UTC(2026, 1, 2);

/** A node that reports every minute on a coarse display, filled up by a float valve that nobody notes. */
export function minutes(seed: number): World {
	const chance = seeded(seed * 7919 + 11);
	const weather = new Weather(chance);
	const plan = { litres: 200, ec: 1700, ph: 5.9, tempC: 20, drinks: 4, takes: 0.8, rises: 0.05, swings: 4 };
	const water = new Water(plan, chance);
	const days = 7;
	const node = {
		station: 'channel',
		code: 'nod',
		everyMin: 1,
		steps: { ph: 0.1, ec: 10, temp: 0.5 },
		noise: { ph: 0.01, ec: 0.003 },
	};
	const befalls = happenings(
		chance,
		START,
		START + days * DAY,
		[
			{ fault: 'stuck', hours: [10, 16], times: 1 },
			{ fault: 'probe-in-air', hours: [0.1, 0.5], times: 2 },
			{ fault: 'probe-in-storage', hours: [1, 3], times: 1 },
			{ fault: 'spike', hours: [0, 0], times: 3 },
		],
		1,
	);
	const tend = () => {
		if (water.litres < 196) water.pour(4, 250);
		if (chance.chance(1 / 900)) water.acid(chance.between(0.02, 0.1));
	};
	const rows = watch(node, water, { chance, weather, start: START, days, befalls, tend });
	return {
		name: 'minutes',
		rows,
		events: [],
		calibrations: [],
		site: siteOf([station('channel', 'reservoir', 200)], [instrument('nod', true)]),
	};
}

/** Two people, two samples a day; what they pour is noted late, in round numbers, or not at all. */
export function lateNotes(seed: number): World {
	const chance = seeded(seed * 6151 + 5);
	const weather = new Weather(chance);
	const water = new Water(
		{ litres: 400, ec: 1900, ph: 5.8, tempC: 21, drinks: 5, takes: 0.75, rises: 0.06, swings: 3 },
		chance,
	);
	const [rows, events]: [Row[], WaterEvent[]] = [[], []];
	const pens = { mull: { ph: 0.03, ec: 1.01 }, ash: { ph: -0.04, ec: 0.985 } };
	const noted = (at: number, kind: WaterEvent['kind'], amount: number, unit: WaterEvent['unit']) => {
		if (chance.chance(0.12)) return;
		events.push(event(at + chance.between(0, 45) * MINUTE, 'tank', kind, amount, unit));
	};
	for (let hour = 0; hour < 150 * 24; hour++) {
		const at = START + hour * HOUR;
		water.pass(1, weather.sun(at));
		const clock = hour % 24;
		if (clock === 8 && chance.chance(0.75)) {
			const litres = Math.max(400 - water.litres, 5);
			water.pour(litres, 300);
			noted(at + 10 * MINUTE, 'water_added', Math.max(5, Math.round(litres / 10) * 10), 'L');
			if (water.ec < 1800) {
				const share = 1900 / water.ec - 1;
				water.feed(share);
				noted(at + 15 * MINUTE, 'nutrient_added', Math.round((share * 4000) / 50) * 50, 'mL');
			}
			if (water.ph > 6.1) {
				const by = (water.ph - 5.8) * chance.between(0.7, 1.1);
				water.acid(by);
				noted(at + 20 * MINUTE, 'acid_added', Math.max(1, Math.round(by * 40)), 'mL');
			}
		}
		if (clock !== 7 && clock !== 17) continue;
		const when = at + chance.between(-50, 50) * MINUTE;
		const who = chance.chance(0.6) ? 'mull' : 'ash';
		const short = chance.chance(0.03);
		const ph = water.showsPh + pens[who].ph + 0.02 * heavy(chance) + (short ? chance.pick([-1, 1]) * 0.5 : 0);
		const sample = [
			line(when, 'tank', who, 'ph', shown(ph, 0.01), 'pH', {
				waitS: short ? 8 : Math.round(chance.between(60, 120)),
				fault: short ? 'not-settled' : '',
			}),
			line(
				when,
				'tank',
				who,
				'ec',
				shown((water.ec * pens[who].ec * (1 + 0.006 * heavy(chance))) / 1000, 0.01),
				'mS/cm',
			),
		];
		if (chance.chance(0.02)) slip(sample[1]!, chance.pick(['decimal-slip', 'unit-slip']));
		else if (!short && chance.chance(0.015)) slip(sample[0]!, 'decimal-slip');
		rows.push(...sample);
	}
	return {
		name: 'late notes',
		rows: byTime(rows),
		events: byTime(events),
		calibrations: [],
		site: siteOf([station('tank', 'reservoir', 400)], [instrument('mull', false), instrument('ash', false)]),
	};
}

/** One pen for pH, another for EC, a ppm meter beside them; numbers land in each other's fields, and slips come right after feeding. */
export function twoPens(seed: number): World {
	const chance = seeded(seed * 4259 + 3);
	const weather = new Weather(chance);
	const water = new Water(
		{ litres: 90, ec: 1400, ph: 6, tempC: 23, drinks: 1.5, takes: 0.6, rises: 0.08, swings: 5 },
		chance,
	);
	const [rows, events]: [Row[], WaterEvent[]] = [[], []];
	for (let day = 0; day < 120; day++) {
		for (let h = 0; h < 24; h++) water.pass(1, weather.sun(START + day * DAY + h * HOUR));
		const at = START + day * DAY + chance.between(8, 20) * HOUR;
		const fed = day % 4 === 3;
		if (fed) {
			const litres = Math.max(90 - water.litres, 2);
			water.pour(litres, 120);
			water.feed(Math.max(1450 / water.ec - 1, 0.02));
			events.push(event(at - 30 * MINUTE, 'bucket', 'water_added', Math.round(litres), 'L'));
			events.push(event(at - 25 * MINUTE, 'bucket', 'nutrient_added', Math.round(litres * 4), 'mL'));
			if (water.ph > 6.2) {
				const by = water.ph - 5.9;
				water.acid(by);
				events.push(event(at - 20 * MINUTE, 'bucket', 'acid_added', Math.ceil(by * 8), 'mL'));
			}
		}
		const ph = line(at, 'bucket', 'sorrel', 'ph', shown(water.showsPh + 0.015 * heavy(chance), 0.01), 'pH');
		const ec = line(at, 'bucket', 'fern', 'ec', shown((water.ec * (1 + 0.008 * heavy(chance))) / 1000, 0.01), 'mS/cm');
		const ppm = line(at, 'bucket', 'moss', 'tds', shown(water.ec * 0.5 * (1 + 0.01 * heavy(chance)), 1), 'ppm500');
		if (chance.chance(0.04))
			for (const [own, other] of [
				[ph, ec],
				[ec, ph],
			] as const) {
				own.fault = 'swapped';
				own.truth = own === ph ? Number(ph.value) : 1000 * Number(ec.value);
				own.episode = `swap ${day}`;
				own.note = other.value;
			}
		for (const r of [ph, ec]) if (r.note !== undefined) r.value = r.note;
		if (ec.fault === '' && chance.chance(fed ? 0.2 : 0.02)) slip(ec, chance.pick(['decimal-slip', 'unit-slip']));
		if (chance.chance(0.02)) {
			Object.assign(ppm, { value: shown(water.ec * 0.7, 1), fault: 'scale-mismatch', truth: water.ec });
		}
		rows.push(ph, ec, ...(chance.chance(0.5) || ppm.fault ? [ppm] : []));
	}
	return {
		name: 'two pens',
		rows: byTime(rows),
		events: byTime(events),
		calibrations: [],
		site: siteOf(
			[station('bucket', 'reservoir', 90)],
			[instrument('sorrel', false), instrument('fern', false), instrument('moss', false)],
		),
	};
}

/** A borehole that swings with the season, cold all year, and once really becomes another water. */
export function borehole(seed: number): World {
	const chance = seeded(seed * 3571 + 1);
	const [rows, episode]: [Row[], string] = [[], 'another water'];
	const turned = Math.floor(chance.between(150, 250));
	for (let day = 0; day < 300; day += chance.chance(0.7) ? 1 : 2) {
		const at = START + day * DAY + chance.between(6, 9) * HOUR;
		const season = 1 + 0.25 * Math.sin((2 * Math.PI * day) / 180);
		const rain = 1 - 0.15 * Math.max(0, chance.normal() - 1);
		const other = day >= turned && day < turned + 25;
		const ec = 620 * season * rain * (other ? 0.1 : 1);
		const tempC = 10.5 + 0.8 * chance.normal();
		const of = { tempC: Math.round(tempC * 10) / 10 };
		const since = day - turned;
		// Another water comes, and goes again.
		const marks =
			since >= 0 && since % 25 < 6 && since < 31 ? { fault: 'source-shift', episode: `${episode} ${since < 25}` } : {};
		const ecLine = line(at, 'well', 'teal', 'ec', shown(ec * (1 + 0.01 * heavy(chance)), 1), 'uS/cm', {
			...of,
			...marks,
		});
		const phLine = line(
			at,
			'well',
			'teal',
			'ph',
			shown(7.3 + 0.1 * Math.sin(day / 40) + 0.04 * heavy(chance), 0.01),
			'pH',
			of,
		);
		if (!other && chance.chance(0.02)) slip(phLine, 'decimal-slip');
		rows.push(phLine, ecLine);
	}
	const point = (nominal: number) => ({ standard: '', nominal, asFound: nominal, asLeft: nominal, lot: '', mv: null });
	return {
		name: 'borehole',
		rows: byTime(rows),
		events: [],
		calibrations: Array.from({ length: 10 }, (_, i) => ({
			at: START + i * 30 * DAY,
			instrument: 'teal',
			quantity: 'ec' as const,
			kind: 'adjust' as const,
			tempC: 25,
			note: '',
			settleS: null,
			points: [point(1413)],
		})),
		site: siteOf([station('well', 'source', null)], [instrument('teal', false)]),
	};
}

/** A node of ten minutes beside pens that are each a little off, as pens are; one is replaced; the node's pH creeps away and is calibrated. */
export function beside(seed: number): World {
	const chance = seeded(seed * 2939 + 71);
	const weather = new Weather(chance);
	const water = new Water(
		{ litres: 500, ec: 1600, ph: 6, tempC: 20, drinks: 6, takes: 0.7, rises: 0.05, swings: 4 },
		chance,
	);
	const node = {
		station: 'tank',
		code: 'nod',
		everyMin: 10,
		steps: { ph: 0.01, ec: 5, temp: 0.1 },
		noise: { ph: 0.012, ec: 0.005 },
	};
	const days = 50;
	const creeps = START + chance.between(14, 20) * DAY;
	const until = creeps + 14 * DAY;
	let pen = [0.05 * chance.normal(), 1 + 0.012 * chance.normal()] as const;
	const replaced = Math.floor(chance.between(8, 45));
	const [rows, events]: [Row[], WaterEvent[]] = [[], [event(until, 'tank', 'calibrated', null, null)]];
	for (let at = START; at < START + days * DAY; at += 10 * MINUTE) {
		water.pass(1 / 6, weather.sun(at));
		if (water.litres < 485) water.pour(15, 300);
		if (water.ph > 6.15) water.acid(0.03);
		if (water.ec < 1550) water.feed(0.006);
		const off = at > creeps && at < until ? (0.035 * (at - creeps)) / DAY : 0;
		const lines = nodeLines(node, water, at, chance, undefined, new Map());
		// What is off by less than pens are is told by nobody.
		if (off > 0)
			for (const l of lines)
				if (l.quantity === 'ph')
					Object.assign(l, {
						value: shown(Number(l.value) + off, 0.01),
						...(off > 0.25 ? { fault: 'drift', episode: 'creeps' } : { exempt: true }),
					});
		rows.push(...lines);
		const day = Math.floor((at - START) / DAY);
		if (![8, 17].includes((at % DAY) / HOUR)) continue;
		if (day === replaced) pen = [0.05 * chance.normal(), 1 + 0.012 * chance.normal()];
		const when = at + 2 * MINUTE;
		const [offset, gain] = pen;
		rows.push(
			line(when, 'tank', 'pen', 'ph', shown(water.showsPh + offset + 0.015 * heavy(chance), 0.01), 'pH', {
				exempt: off > 0,
			}),
			line(when, 'tank', 'pen', 'ec', shown((water.ec * gain * (1 + 0.006 * heavy(chance))) / 1000, 0.01), 'mS/cm'),
		);
	}
	return {
		name: 'beside',
		rows,
		events,
		calibrations: [],
		site: siteOf([station('tank', 'reservoir', 500)], [instrument('nod', true), instrument('pen', false)]),
	};
}

/** A logger of every half hour in a bucket that is filled up by hand, untold. */
export function halfHours(seed: number): World {
	const chance = seeded(seed * 1931 + 83);
	const weather = new Weather(chance);
	const days = 30;
	const water = new Water(
		{ litres: 60, ec: 1500, ph: 6.1, tempC: 22, drinks: 0.8, takes: 0.6, rises: 0.05, swings: 5 },
		chance,
	);
	const node = {
		station: 'bucket',
		code: 'log',
		everyMin: 30,
		steps: { ph: 0.02, ec: 10, temp: 0.2 },
		noise: { ph: 0.015, ec: 0.006 },
	};
	const befalls = happenings(
		chance,
		START,
		START + days * DAY,
		[
			{ fault: 'stuck', hours: [12, 30], times: 2 },
			{ fault: 'probe-in-air', hours: [1, 4], times: 2 },
			{ fault: 'probe-in-storage', hours: [2, 5], times: 1 },
			{ fault: 'spike', hours: [0, 0], times: 5 },
		],
		30,
	);
	const poured = [...Array(2)].map(() => START + chance.between(4, days - 3) * DAY);
	const tend = (at: number) => {
		if (water.litres < 57) water.pour(3, 350);
		if (water.ph > 6.25) water.acid(0.04);
		if (water.ec < 1450) water.feed(0.006);
		if (!poured.some((t) => t <= at && at < t + 30 * MINUTE)) return;
		water.feed(0.22);
		water.acid(0.25);
	};
	const mark = untold(poured, 3 * HOUR);
	const rows = watch(node, water, { chance, weather, start: START, days, befalls, tend, mark });
	return {
		name: 'half hours',
		rows,
		events: [],
		calibrations: [],
		site: siteOf([station('bucket', 'mix', 60)], [instrument('log', true)]),
	};
}
