import { toCanonical, unitNamed } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import { Pen } from '@/sim/pen';
import { seeded } from '@/sim/random';
import { Tank } from '@/sim/tank';
import { demoBatch } from './batches';
import { measuredBeside } from './beside';
import { besideIt, calibrate, tend, writeDown } from './grower';
import { demoRun } from './run';
import type { Sample, Season } from './written';

/**
 * Eight months at Saltmarsh Yard, day by day: what the water truly was, what the pens showed, what was written down,
 * and every fault that was made on the way. One seed, so that everybody sees the same numbers.
 */
export const DEMO_SEED = 20260714;
export const DEMO_DAYS = 243;

const DAY = 86_400_000;
const HOUR = 3_600_000;
const MINUTE = 60_000;
const BATCH_DAYS = 112;
/**
 * What the drain of the gutters gains or loses in a day: ten weeks before the end a hot spell was watered too little, then the advice
 * was followed.
 * @param left days to the end
 */
function builtUp(left: number): number {
	if (left <= 78 && left > 64) return 55;
	if (left <= 64 - ANSWERS_AFTER && left > 50) return -62;
	return 0;
}
/** So long after the step that was taken its drain begins to fall. */
const ANSWERS_AFTER = 1;
/** Days before the end on which what was advised was done. */
export const STEP_DAYS_AGO = [64, 58] as const;

/** For so many days at the end the Bench tank is left to its plants, but for two additions; days before the end. */
const BENCH_ALONE_DAYS = 40;
const BENCH_ADDITIONS: readonly number[] = [27, 10];

/** Day of the week on which two pens are held against one another. */
const CUP_DAY = 5;

export function season(end: number, seed = DEMO_SEED, days = DEMO_DAYS): Season {
	const chance = seeded(seed);
	const faultChance = seeded(seed + 1);
	const checkChance = seeded(seed + 2);
	const besideChance = seeded(seed + 3);
	const runChance = seeded(seed + 4);
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
		{ fullL: 40, drinkLPerDay: 0.9, uptakeEcUsCm: 2150, phRisePerDay: 0.05, bufferMeq: 0.6, meanTempC: 20 },
		{ volumeL: 38, ecUsCm: 1800, ph: 6.1, tempC: 20 },
	);
	let feedEc = 1380;
	let feedPh = 5.8;
	let mixEc = 1900;
	let mixPh = 5.8;
	let drainRise = 380;
	let rainEc = 62;
	let drainPh = 6.1;

	const result: Season = { readings: [], events: [], calibrations: [], batches: [], runs: [], course: [] };
	const event = (
		at: number,
		station: string,
		kind: EventKind,
		amount: number | null,
		unit: string,
		product: string,
		note = '',
	) => result.events.push({ at, station, kind, amount, unit, product, note });

	const note = (at: number) => {
		for (const [station, { state }] of [
			['pond', pond],
			['slabs', slabs],
			['bench', bench],
		] as const)
			result.course.push({ at, station, ...state });
	};

	for (let d = 0; d < days; d++) {
		const morning = end - (days - 1 - d) * DAY;
		// Day 0 lies in November, so that the demo ends in July.
		const warmth = -Math.cos(((d + 318) / 365) * 2 * Math.PI - 0.2);
		for (const pen of Object.values(pens)) pen.age(1);
		for (const tank of [pond, slabs, bench]) tank.live(18, warmth, chance);
		feedPh += 0.02 * chance.normal();
		rainEc = Math.min(90, Math.max(38, rainEc + 3 * chance.normal()));
		drainRise = Math.max(120, drainRise + 18 * chance.normal() + (d > days - 30 ? 9 : 0) + builtUp(days - d));
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
			result.runs.push(demoRun(morning + 12 * MINUTE, feedEc, drainRise, runChance));
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

		for (const s of samples) {
			writeDown(s, pens, result.readings, faultChance, samples, d === days - 1);
			// Once a week both pens go into one cup of the pond.
			if (s.station === 'pond' && d % 7 === CUP_DAY) result.readings.push(besideIt(s, pens, besideChance));
		}
		note(morning);
		note(morning + 9 * HOUR - MINUTE);
		const quietEnd = d >= days - 1;
		const left = days - 1 - d;
		const benchDay = left > BENCH_ALONE_DAYS ? d % 9 === 4 : BENCH_ADDITIONS.includes(left);
		const eventsBefore = result.events.length;
		if (!quietEnd) tend(morning + 9 * HOUR, { pond, slabs, bench, mixEc, mixPh }, event, d, chance, benchDay);
		if (!quietEnd) note(morning + 10 * HOUR);
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
	result.readings.push(...measuredBeside(result, end, seed + 5));
	result.readings.sort((a, b) => a.at - b.at);
	result.events.sort((a, b) => a.at - b.at);
	return result;
}
