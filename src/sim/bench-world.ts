import type { EventKind } from '@/core/reading/model';
import { PLAIN_METER, SimulatedMeter, type Water } from './meter';
import { type Random, seeded } from './random';
import { Tank } from './tank';

/**
 * A hundred and forty days of daily rounds with a simulated meter, and everything that goes wrong in the minute of
 * measuring: no rinse, no patience, compensation off, a dirty cup, a second pen that is off, lines entered twice or
 * under a wrong date, additions not logged or logged at the wrong tank, a probe long without a buffer. Beside them the
 * innocent: top-ups, doses, changes, cold days, a source that drifts with the season. For the evaluation of the checks.
 */
export type BenchFault =
	| 'carry-over'
	| 'not-settled'
	| 'no-compensation'
	| 'disagreement'
	| 'duplicate'
	| 'clock'
	| 'unlogged-addition'
	| 'against-event'
	| 'calibration-overdue'
	| 'calibration-failed';

export interface BenchReading {
	at: number;
	station: string;
	instrument: string;
	quantity: 'ph' | 'ec' | 'temp';
	value: string;
	unit: string;
	tempC: number | null;
	waitS: number | null;
	skipped: string;
	fault: BenchFault | '';
	/** What the display would have shown without the fault, canonical; null where that is not one number. */
	truth: number | null;
	/** Neither honest nor a fault that must be named: the day after, when the change is not yet confirmed. */
	exempt: boolean;
}
export interface BenchWorld {
	readings: BenchReading[];
	events: { at: number; station: string; kind: EventKind; amount: number; unit: string }[];
	calibrations: {
		at: number;
		instrument: string;
		quantity: 'ph' | 'ec';
		kind: 'check' | 'adjust';
		nominal: number;
		asFound: number;
		asLeft: number | null;
		tempC: number;
	}[];
}

const DAY = 86_400_000;
const MINUTE = 60_000;
const DAYS = 140;
/** The last calibration of the main meter, and of the second pen, which fails it. */
const LAST_CALIBRATION = 55;
const BRASS_FAILS = 100;

type Plan = Map<number, BenchFault>;

function plan(chance: Random): Plan {
	const days: Plan = new Map();
	const kinds: BenchFault[] = [
		'carry-over',
		'not-settled',
		'no-compensation',
		'disagreement',
		'duplicate',
		'clock',
		'unlogged-addition',
		'against-event',
	];
	for (const kind of kinds)
		for (let n = 0; n < 3; n++) {
			let day: number;
			// A second reading of the same fault the next day would be learned as a new level.
			do day = Math.floor(chance.between(14, DAYS - 4));
			while ([-2, -1, 0, 1, 2].some((d) => days.has(day + d)));
			days.set(day, kind);
		}
	return days;
}

export function benchWorld(seed: number, start: number): BenchWorld {
	const chance = seeded(seed);
	const faults = plan(chance);
	const world: BenchWorld = { readings: [], events: [], calibrations: [] };
	const plum = new SimulatedMeter({ ...PLAIN_METER, phOffset: 0.02 * chance.normal() }, chance);
	const tank = new Tank(
		{ fullL: 600, drinkLPerDay: 45, uptakeEcUsCm: 1700, phRisePerDay: 0.1, bufferMeq: 0.6, meanTempC: 14 },
		{ volumeL: 580, ecUsCm: 1900, ph: 5.8, tempC: 14 },
	);
	for (const day of [1, 28, LAST_CALIBRATION])
		for (const quantity of ['ph', 'ec'] as const) {
			const nominal = quantity === 'ph' ? 7 : 1413;
			world.calibrations.push({
				at: start + day * DAY - 3_600_000,
				instrument: 'plum',
				quantity,
				kind: 'adjust',
				nominal,
				asFound: quantity === 'ph' ? nominal + 0.04 * chance.normal() : nominal * (1 + 0.008 * chance.normal()),
				asLeft: nominal,
				tempC: 20,
			});
		}
	world.calibrations.push({
		at: start + BRASS_FAILS * DAY,
		instrument: 'brass',
		quantity: 'ph',
		kind: 'check',
		nominal: 7,
		asFound: 7.45,
		asLeft: null,
		tempC: 20,
	});

	const lastCalibration = start + LAST_CALIBRATION * DAY - 3_600_000;
	for (let d = 0; d < DAYS; d++) {
		const fault = faults.get(d) ?? '';
		const before = faults.get(d - 1) ?? '';
		const warmth = Math.sin((d / 365) * 2 * Math.PI);
		const at = start + d * DAY + 6 * 3_600_000 + Math.floor(chance.between(0, 40)) * MINUTE;
		tank.live(24, warmth, chance);
		const evening = at - 12 * 3_600_000;
		const log = (kind: EventKind, amount: number, unit: string, station = 'tank') =>
			world.events.push({ at: evening, station, kind, amount, unit });
		if (tank.state.volumeL < 500 && fault === '') {
			const litres = Math.round(590 - tank.state.volumeL);
			tank.add(litres, 350, 7);
			log('water_added', litres, 'L');
			if (tank.state.ecUsCm < 1750) {
				const rise = 1900 - tank.state.ecUsCm;
				tank.feed(rise);
				log('nutrient_added', Math.round(rise), 'mL');
			}
		}
		if (tank.state.ph > 6.25 && fault === '') {
			tank.dose((tank.state.ph - 5.8) * 0.6 * tank.state.volumeL);
			log('acid_added', 30, 'mL');
		}
		if (d % 45 === 44 && fault === '') {
			Object.assign(tank.state, { ecUsCm: 1900 * (1 + 0.02 * chance.normal()), ph: 5.8, volumeL: 590 });
			log('solution_changed', 590, 'L');
		}
		if (fault === 'unlogged-addition') tank.feed(0.35 * tank.state.ecUsCm);
		if (fault === 'against-event') {
			tank.add(0.25 * tank.state.volumeL, 100, 6.5);
			tank.state.volumeL = Math.min(tank.state.volumeL, 590);
			log('nutrient_added', 200, 'mL');
		}
		const waters: Record<'tap' | 'ro' | 'tank', Water> = {
			tap: {
				ph: 7.4 + 0.04 * chance.normal(),
				ecUsCm: (780 + 60 * warmth) * (1 + 0.006 * chance.normal()),
				tempC: 13 + 3 * warmth,
			},
			ro: { ph: 6.2 + 0.15 * chance.normal(), ecUsCm: 28 + 1.2 * chance.normal(), tempC: 15 + 3 * warmth },
			tank: { ph: tank.state.ph, ecUsCm: tank.state.ecUsCm, tempC: tank.state.tempC },
		};
		// A helper who starts at the tank and goes back to the RO tap with the same cup.
		const dirtyCup = fault === 'carry-over' && chance.chance(0.5);
		const order = dirtyCup ? (['tank', 'ro'] as const) : (['ro', 'tap', 'tank'] as const);
		plum.store();
		plum.setCompensation(fault !== 'no-compensation');
		for (const [i, station] of order.entries()) {
			const unrinsed = fault === 'carry-over' && station === 'ro' && !dirtyCup;
			if (!unrinsed) plum.rinse();
			const cup =
				dirtyCup && station === 'ro'
					? { ...waters.ro, ecUsCm: waters.ro.ecUsCm + 0.04 * waters.tank.ecUsCm }
					: waters[station];
			plum.dip(cup);
			plum.swirl();
			const hasty = fault === 'not-settled' && station !== 'tap';
			const waitS = hasty ? (station === 'ro' ? 20 : 6) : station === 'ro' ? 190 : 40;
			for (let s = 5; s < waitS; s += 5) plum.after(5);
			const shown = plum.after(5);
			const mine = at + i * 4 * MINUTE;
			const overdue: BenchFault | '' = mine > lastCalibration + 60 * DAY ? 'calibration-overdue' : '';
			const put = (
				quantity: 'ph' | 'ec' | 'temp',
				value: string,
				unit: string,
				what: BenchFault | '',
				truth: number | null,
			) =>
				world.readings.push({
					at: mine,
					station,
					instrument: 'plum',
					quantity,
					value,
					unit,
					tempC: quantity === 'temp' ? null : shown.tempC,
					waitS,
					skipped: unrinsed && chance.chance(0.5) ? 'rinse' : '',
					fault: what,
					truth,
					exempt:
						(station === 'tank' && (before === 'unlogged-addition' || before === 'against-event')) ||
						(fault === 'no-compensation' && what === '' && quantity === 'ec'),
				});
			// In RO water the pH says nothing anyway, and that is said first.
			put('ph', shown.ph.toFixed(2), 'pH', hasty ? 'not-settled' : station === 'ro' ? '' : overdue, null);
			const ecFault: BenchFault | '' =
				fault === 'carry-over' && station === 'ro'
					? 'carry-over'
					: fault === 'no-compensation' && station !== 'ro' && Math.abs(waters[station].tempC - 25) > 6
						? 'no-compensation'
						: fault === 'unlogged-addition' && station === 'tank'
							? 'unlogged-addition'
							: fault === 'against-event' && station === 'tank'
								? 'against-event'
								: hasty && station === 'tank' && waitS < 5.6
									? 'not-settled'
									: overdue;
			put(
				'ec',
				shown.ecUsCm.toFixed(0),
				'uS/cm',
				ecFault,
				ecFault === 'no-compensation' ? waters[station].ecUsCm : null,
			);
			put('temp', shown.tempC.toFixed(1), 'C', '', null);
			if (station === 'tank' && (d % 7 === 3 || fault === 'disagreement')) {
				const off = fault === 'disagreement' ? (chance.chance(0.5) ? 0.9 : -0.9) : 0.04 * chance.normal();
				world.readings.push({
					at: mine,
					station,
					instrument: 'brass',
					quantity: 'ph',
					value: (waters.tank.ph + off).toFixed(2),
					unit: 'pH',
					tempC: shown.tempC,
					waitS: 40,
					skipped: '',
					fault: fault === 'disagreement' ? 'disagreement' : d > BRASS_FAILS ? 'calibration-failed' : '',
					truth: null,
					exempt: false,
				});
			}
			const sample = world.readings.filter((r) => r.at === mine);
			if (fault === 'duplicate' && station === 'tank')
				world.readings.push(...sample.map((r) => ({ ...r, fault: 'duplicate' as const })));
			if (fault === 'clock' && station === 'tap') {
				const wrong = chance.chance(0.5) ? 365 : -31;
				for (const r of sample) {
					r.at += wrong * DAY;
					r.fault = 'clock';
				}
			}
		}
		plum.store();
	}
	return world;
}
