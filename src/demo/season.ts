import { type Quantity, toCanonical, unitNamed } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import { Pen } from '@/sim/pen';
import { type Random, seeded } from '@/sim/random';
import { Tank } from '@/sim/tank';
import { type DemoBatch, demoBatch } from './batches';

/**
 * Eight months at Saltmarsh Yard, day by day: what the water truly was, what the pens showed, what was written down,
 * and every fault that was made on the way. One seed, so that everybody sees the same numbers.
 */
export const DEMO_SEED = 20260714;
export const DEMO_DAYS = 243;

export interface DemoReading {
	at: number;
	station: string;
	instrument: string;
	quantity: Quantity;
	digits: string;
	unit: string;
	tempC: number | null;
	waitS: number | null;
	note: string;
	/** What the water truly was, canonical. Not stored: for tests against the truth. */
	truth: number;
	/** What the display showed, canonical: where undoing a slip must lead. */
	shown: number;
	/** The fault behind it, empty for an honest reading. */
	fault: Fault | '';
}
export type Fault =
	| 'unit-slip'
	| 'decimal-slip'
	| 'swapped'
	| 'scale-mismatch'
	| 'wrong-station'
	| 'fahrenheit'
	| 'duplicate';

export interface DemoEvent {
	at: number;
	station: string;
	kind: EventKind;
	amount: number | null;
	unit: string;
	product: string;
	note: string;
}

/** A probe adjusted or checked, with what was found. */
export interface DemoCalibration {
	at: number;
	instrument: string;
	quantity: 'ph' | 'ec';
	kind: 'check' | 'adjust';
	points: { standard: string; nominal: number; asFound: number; asLeft: number | null }[];
	tempC: number;
}

export interface Season {
	readings: DemoReading[];
	events: DemoEvent[];
	calibrations: DemoCalibration[];
	batches: DemoBatch[];
}

const DAY = 86_400_000;
const HOUR = 3_600_000;
const MINUTE = 60_000;
const BATCH_DAYS = 112;

interface Sample {
	at: number;
	station: string;
	ph: number | null;
	ecUsCm: number | null;
	tempC: number;
	phPen: 'plum' | 'brass';
	ecPen: 'plum' | 'minnow' | null;
}

export function season(end: number, seed = DEMO_SEED, days = DEMO_DAYS): Season {
	const chance = seeded(seed);
	const faultChance = seeded(seed + 1);
	const checkChance = seeded(seed + 2);
	const pens = {
		plum: new Pen(
			{
				phDriftPerDay: 0.003,
				phWanderPerRootDay: 0.012,
				ecWanderPerRootDay: 0.002,
				phDecimals: 2,
				ecStepUsCm: 10,
				noisePh: 0.015,
				noiseEc: 0.005,
			},
			chance,
		),
		brass: new Pen(
			{
				phDriftPerDay: 0.016,
				phWanderPerRootDay: 0.03,
				ecWanderPerRootDay: 0,
				phDecimals: 1,
				ecStepUsCm: 10,
				noisePh: 0.03,
				noiseEc: 0.005,
			},
			chance,
		),
		minnow: new Pen(
			{
				phDriftPerDay: 0,
				phWanderPerRootDay: 0,
				ecWanderPerRootDay: 0.002,
				phDecimals: 1,
				ecStepUsCm: 10,
				noisePh: 0,
				noiseEc: 0.006,
			},
			chance,
		),
	};
	const pond = new Tank(
		{ fullL: 2400, drinkLPerDay: 70, uptakeEcUsCm: 1750, phRisePerDay: 0.1, bufferMeq: 0.55, meanTempC: 19 },
		{ volumeL: 2350, ecUsCm: 1880, ph: 5.9, tempC: 18 },
	);
	const slabs = new Tank(
		{ fullL: 600, drinkLPerDay: 55, uptakeEcUsCm: 1600, phRisePerDay: 0.12, bufferMeq: 0.6, meanTempC: 20 },
		{ volumeL: 580, ecUsCm: 2050, ph: 5.7, tempC: 19 },
	);
	const bench = new Tank(
		{ fullL: 40, drinkLPerDay: 0.9, uptakeEcUsCm: 1500, phRisePerDay: 0.05, bufferMeq: 0.6, meanTempC: 20 },
		{ volumeL: 38, ecUsCm: 1800, ph: 6.1, tempC: 20 },
	);
	let feedEc = 1380;
	let feedPh = 5.8;
	let mixEc = 1900;
	let mixPh = 5.8;
	let drainRise = 380;
	let rainEc = 62;
	let drainPh = 6.1;

	const result: Season = { readings: [], events: [], calibrations: [], batches: [] };
	const event = (
		at: number,
		station: string,
		kind: EventKind,
		amount: number | null,
		unit: string,
		product: string,
		note = '',
	) => result.events.push({ at, station, kind, amount, unit, product, note });

	for (let d = 0; d < days; d++) {
		const morning = end - (days - 1 - d) * DAY;
		// Day 0 lies in November, so that the demo ends in July.
		const warmth = -Math.cos(((d + 318) / 365) * 2 * Math.PI - 0.2);
		for (const pen of Object.values(pens)) pen.age(1);
		for (const tank of [pond, slabs, bench]) tank.live(18, warmth, chance);
		feedPh += 0.02 * chance.normal();
		rainEc = Math.min(90, Math.max(38, rainEc + 3 * chance.normal()));
		drainRise = Math.max(120, drainRise + 18 * chance.normal() + (d > days - 30 ? 9 : 0));
		drainPh += 0.15 * (6.15 - drainPh) + 0.05 * chance.normal();
		const boreholeEc = (d < 168 ? 780 : 872) * (1 + 0.006 * chance.normal());
		const roEc = boreholeEc * (0.03 + 0.062 * (d / days) ** 2) + 1.5 * chance.normal();

		if (d % 7 === 2) {
			mixEc = 1900 * (1 + 0.012 * chance.normal());
			mixPh = 5.82 + 0.05 * chance.normal();
			if (days - d <= BATCH_DAYS) {
				// The batches of the last months were made step by step, and kept.
				const batch = demoBatch(morning - 3 * HOUR, boreholeEc, mixEc, seed + d, days - d > 10 && days - d <= 17);
				result.batches.push(batch);
				for (const e of batch.events) event(e.at, 'mix', e.kind, e.amount, e.unit, e.product, e.note);
				for (const r of batch.readings)
					result.readings.push({
						...r,
						station: 'mix',
						instrument: 'plum',
						tempC: null,
						waitS: null,
						truth: toCanonical(Number(r.digits), unitNamed(r.unit)!),
						shown: toCanonical(Number(r.digits), unitNamed(r.unit)!),
						fault: '',
					});
			} else event(morning - HOUR, 'mix', 'solution_changed', 1000, 'L', '', 'new batch');
			feedEc = 1400 * (1 + 0.012 * chance.normal());
			feedPh = 5.82 + 0.05 * chance.normal();
			event(morning - HOUR, 'gutters-feed', 'solution_changed', null, '', '', 'new batch');
		}

		const brassDay = d % 3 === 1;
		const samples: Sample[] = [];
		const at = (minutes: number) => morning + minutes * MINUTE + Math.floor(chance.next() * 3) * MINUTE;
		if (d % 7 === 0 || d === days - 6) {
			samples.push({
				at: at(-40),
				station: 'borehole',
				ph: 7.42 + 0.04 * chance.normal(),
				ecUsCm: boreholeEc,
				tempC: 11.5 + warmth,
				phPen: 'plum',
				ecPen: 'plum',
			});
			samples.push({
				at: at(-34),
				station: 'rain',
				ph: null,
				ecUsCm: rainEc,
				tempC: 12 + 6 * warmth,
				phPen: 'plum',
				ecPen: 'minnow',
			});
			samples.push({
				at: at(-28),
				station: 'ro',
				ph: null,
				ecUsCm: roEc,
				tempC: 13 + 2 * warmth,
				phPen: 'plum',
				ecPen: 'minnow',
			});
		}
		if (d % 7 === 2 || d % 7 === 5 || d === days - 1)
			samples.push({
				at: at(-20),
				station: 'mix',
				ph: mixPh,
				ecUsCm: mixEc,
				tempC: 17 + 3 * warmth,
				phPen: 'plum',
				ecPen: 'plum',
			});
		samples.push({
			at: at(0),
			station: 'pond',
			ph: pond.state.ph,
			ecUsCm: pond.state.ecUsCm,
			tempC: pond.state.tempC,
			phPen: brassDay ? 'brass' : 'plum',
			ecPen: brassDay ? 'minnow' : 'plum',
		});
		if (d % 2 === 0 || d === days - 1) {
			samples.push({
				at: at(8),
				station: 'gutters-feed',
				ph: feedPh,
				ecUsCm: feedEc,
				tempC: 17 + 3 * warmth,
				phPen: 'plum',
				ecPen: 'plum',
			});
			samples.push({
				at: at(14),
				station: 'gutters-drain',
				ph: drainPh,
				ecUsCm: feedEc + drainRise,
				tempC: 18 + 4 * warmth,
				phPen: 'plum',
				ecPen: 'plum',
			});
		}
		samples.push({
			at: at(22),
			station: 'slabs',
			ph: slabs.state.ph,
			ecUsCm: slabs.state.ecUsCm,
			tempC: slabs.state.tempC,
			phPen: brassDay ? 'brass' : 'plum',
			ecPen: brassDay ? 'minnow' : 'plum',
		});
		if (d % 3 === 0)
			samples.push({
				at: at(30),
				station: 'bench',
				ph: bench.state.ph,
				ecUsCm: bench.state.ecUsCm,
				tempC: bench.state.tempC,
				phPen: 'brass',
				ecPen: 'minnow',
			});

		for (const s of samples) writeDown(s, pens, result.readings, faultChance, samples, d === days - 1);
		const quietEnd = d >= days - 1;
		const eventsBefore = result.events.length;
		if (!quietEnd) tend(morning + 9 * HOUR, { pond, slabs, bench, mixEc, mixPh }, event, d, chance);
		// After acid the grower looks again, once it has mixed.
		for (const dose of result.events.slice(eventsBefore).filter((e) => e.kind === 'acid_added')) {
			const tank = { pond, slabs, bench }[dose.station as 'pond'];
			const digits = (tank.state.ph + pens.plum.phOffset + 0.015 * checkChance.normal()).toFixed(2);
			result.readings.push({
				at: dose.at + 70 * MINUTE,
				station: dose.station,
				instrument: 'plum',
				quantity: 'ph',
				digits,
				unit: 'pH',
				tempC: Number(tank.state.tempC.toFixed(1)),
				waitS: 30,
				note: 'after the acid',
				truth: tank.state.ph,
				shown: Number(digits),
				fault: '',
			});
		}
		calibrate(d, morning + 90 * MINUTE, pens, result.calibrations, chance, days);
		for (const tank of [pond, slabs, bench]) tank.live(6, warmth, chance);
	}
	result.readings.sort((a, b) => a.at - b.at);
	result.events.sort((a, b) => a.at - b.at);
	return result;
}

/** The afternoon: what the grower does after reading. */
function tend(
	at: number,
	w: { pond: Tank; slabs: Tank; bench: Tank; mixEc: number; mixPh: number },
	event: (at: number, station: string, kind: EventKind, amount: number | null, unit: string, product: string) => void,
	day: number,
	chance: Random,
): void {
	const care = (tank: Tank, station: string, acidMeqPerMl: number, highPh: number) => {
		const { state, traits } = tank;
		if (state.volumeL < traits.fullL * 0.9) {
			const litres = Math.round((traits.fullL * 0.98 - state.volumeL) / 5) * 5;
			if (litres > 0) {
				// A tank that grows salty is topped up with rain water instead of mix.
				const salty = state.ecUsCm > (station === 'bench' ? 1900 : 2150);
				tank.add(litres, salty ? 60 : w.mixEc, salty ? state.ph : w.mixPh);
				event(at, station, 'water_added', litres, 'L', salty ? 'rain' : 'mix');
			}
		}
		if (state.ecUsCm < 1650 && station === 'pond') {
			tank.feed(220);
			event(at + 10 * MINUTE, station, 'nutrient_added', 500, 'mL', 'feed A and B');
		}
		if (state.ph > highPh) {
			const meq = (state.ph - (highPh - 0.55)) * traits.bufferMeq * state.volumeL * 0.8;
			const mL = Math.max(Math.round(meq / acidMeqPerMl), 1);
			tank.dose(mL * acidMeqPerMl);
			event(at + 20 * MINUTE, station, 'acid_added', mL, 'mL', 'pH down');
		}
	};
	care(w.pond, 'pond', 4.2, 6.35);
	care(w.slabs, 'slabs', 4.2, 6.1);
	if (day % 9 === 4) care(w.bench, 'bench', 0.5, 6.6);
	if (day % 60 === 50) {
		w.slabs.state.ecUsCm = 2050 * (1 + 0.01 * chance.normal());
		w.slabs.state.ph = 5.75;
		w.slabs.state.volumeL = 590;
		event(at + 60 * MINUTE, 'slabs', 'solution_changed', 590, 'L', '');
	}
}

function calibrate(
	day: number,
	at: number,
	pens: { plum: Pen; brass: Pen; minnow: Pen },
	out: DemoCalibration[],
	chance: Random,
	days: number,
): void {
	const tempC = 20;
	const phPoints = (pen: Pen, adjusted: boolean) => {
		const found = [7.02, 4.0].map((n) => Number(pen.ph(n)));
		if (adjusted) pen.adjust();
		return [
			{ standard: 'pH 7.00', nominal: 7.02, asFound: found[0]!, asLeft: adjusted ? Number(pen.ph(7.02)) : null },
			{ standard: 'pH 4.01', nominal: 4.0, asFound: found[1]!, asLeft: adjusted ? Number(pen.ph(4.0)) : null },
		];
	};
	if (day % 14 === 6)
		out.push({ at, instrument: 'plum', quantity: 'ph', kind: 'adjust', points: phPoints(pens.plum, true), tempC });
	// Brass is checked when somebody thinks of it.
	if ([5, 31, 64, 88, 119, 150, 171, 199, days - 20].includes(day))
		out.push({
			at: at + 10 * MINUTE,
			instrument: 'brass',
			quantity: 'ph',
			kind: 'adjust',
			points: phPoints(pens.brass, true),
			tempC,
		});
	if (day % 30 === 11)
		for (const name of ['plum', 'minnow'] as const) {
			const found = pens[name].ecUsCm(1420);
			pens[name].ecFactor = 1 + 0.003 * chance.normal();
			out.push({
				at: at + 20 * MINUTE,
				instrument: name,
				quantity: 'ec',
				kind: 'adjust',
				points: [{ standard: 'KCl 1413', nominal: 1420, asFound: found, asLeft: pens[name].ecUsCm(1420) }],
				tempC,
			});
		}
}

/** What the grower writes, slips included. */
function writeDown(
	s: Sample,
	pens: { plum: Pen; brass: Pen; minnow: Pen },
	out: DemoReading[],
	chance: Random,
	today: readonly Sample[],
	lastDay: boolean,
): void {
	const tempText = pens.plum.temp(s.tempC);
	const tempC = Number(tempText);
	const base = { at: s.at, station: s.station, tempC, waitS: 30, note: '' };
	const sample: Omit<DemoReading, 'shown'>[] = [];
	if (s.ph !== null)
		sample.push({
			...base,
			instrument: s.phPen,
			quantity: 'ph',
			digits: pens[s.phPen].ph(s.ph),
			unit: 'pH',
			truth: s.ph,
			fault: '',
		});
	if (s.ecUsCm !== null && s.ecPen !== null) {
		const shown = pens[s.ecPen].ecUsCm(s.ecUsCm);
		if (s.ecPen === 'minnow')
			sample.push({
				...base,
				instrument: 'minnow',
				quantity: 'tds',
				digits: String(Math.round((shown * 0.7) / 10) * 10),
				unit: 'ppm700',
				truth: s.ecUsCm,
				fault: '',
			});
		else
			sample.push({
				...base,
				instrument: s.ecPen,
				quantity: 'ec',
				digits: (shown / 1000).toFixed(2),
				unit: 'mS/cm',
				truth: s.ecUsCm,
				fault: '',
			});
	}
	sample.push({
		...base,
		instrument: s.ecPen ?? s.phPen,
		quantity: 'temp',
		digits: tempText,
		unit: 'C',
		tempC: null,
		truth: s.tempC,
		fault: '',
	});
	const shown = sample.map((r) => toCanonical(Number(r.digits), unitNamed(r.unit)!));
	// The last morning has one slip, chosen, so that a first look at the demo has something to decide.
	if (lastDay) {
		const ec = sample.find((r) => r.quantity === 'ec');
		if (s.station === 'slabs' && ec)
			Object.assign(ec, { digits: (Number(ec.digits) * 10).toFixed(1), fault: 'decimal-slip' });
	} else slipOnce(sample, s, chance, today);
	out.push(...sample.map((r, i) => ({ ...r, shown: shown[i]! })));
}

function slipOnce(sample: Omit<DemoReading, 'shown'>[], s: Sample, chance: Random, today: readonly Sample[]): void {
	if (!chance.chance(0.02)) return;
	const ph = sample.find((r) => r.quantity === 'ph');
	const ec = sample.find((r) => r.quantity === 'ec');
	const tds = sample.find((r) => r.quantity === 'tds');
	const temp = sample.find((r) => r.quantity === 'temp');
	const kind = chance.pick([
		'unit',
		'decimal-ph',
		'decimal-ec',
		'swapped',
		'scale',
		'fahrenheit',
		'wrong-station',
	] as const);
	if (kind === 'unit' && ec)
		Object.assign(ec, { digits: String(Math.round(Number(ec.digits) * 1000)), fault: 'unit-slip' });
	else if (kind === 'decimal-ph' && ph)
		Object.assign(ph, { digits: ph.digits.replace('.', ''), fault: 'decimal-slip' });
	else if (kind === 'decimal-ec' && ec)
		Object.assign(ec, { digits: (Number(ec.digits) * 10).toFixed(1), fault: 'decimal-slip' });
	else if (kind === 'swapped' && ph && ec) {
		[ph.digits, ec.digits] = [ec.digits, ph.digits];
		ph.fault = 'swapped';
		ec.fault = 'swapped';
	} else if (kind === 'scale' && tds && s.ecUsCm! > 300)
		Object.assign(tds, { unit: 'ppm500', fault: 'scale-mismatch' });
	else if (kind === 'fahrenheit' && temp)
		Object.assign(temp, { digits: ((Number(temp.digits) * 9) / 5 + 32).toFixed(1), fault: 'fahrenheit' });
	else if (kind === 'wrong-station' && ph && ec) {
		const other = today.find((o) => o.station === 'gutters-drain' || o.station === 'borehole');
		if (other && other.station !== s.station && s.station !== 'mix')
			for (const r of sample) Object.assign(r, { station: other.station, fault: 'wrong-station' });
	}
}
