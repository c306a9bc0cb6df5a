import type { EventKind } from '@/core/reading/model';
import { type Random, seeded } from './random';
import { Tank } from './tank';

/**
 * Some weeks of a tank watched by a sensor node every five minutes: uptake, daily rhythm, top-ups and doses with their
 * mixing, a sensor with noise and steps, and faults at known times. For the evaluation of the checks.
 */
export type SensorFault = 'spike' | 'stuck' | 'probe-in-air' | 'probe-in-storage';

export interface SensorReading {
	at: number;
	quantity: 'ph' | 'ec' | 'temp';
	value: string;
	unit: string;
	fault: SensorFault | '';
	/** Honest, but the water was still mixing: a check may mask it without being wrong. */
	mixing: boolean;
}
export interface SensorWorld {
	readings: SensorReading[];
	events: { at: number; kind: EventKind; amount: number; unit: string }[];
}

const STEP_MIN = 5;
const DAY_STEPS = (24 * 60) / STEP_MIN;

function faultPlan(days: number, chance: Random): Map<number, SensorFault> {
	const plan = new Map<number, SensorFault>();
	const put = (from: number, steps: number, fault: SensorFault) => {
		for (let i = 0; i < steps; i++) plan.set(from + i, fault);
	};
	const when = () => Math.floor(chance.between(1.5, days - 1) * DAY_STEPS);
	for (let i = 0; i < days / 2; i++) put(when(), 1, 'spike');
	put(when(), Math.floor(chance.between(60, 140)), 'stuck');
	put(when(), Math.floor(chance.between(4, 10)), 'probe-in-air');
	put(when(), Math.floor(chance.between(4, 10)), 'probe-in-storage');
	return plan;
}

/** @param coarse a display of one decimal in pH and 0.1 mS/cm: it repeats itself honestly */
export function sensorWorld(seed: number, start: number, days = 21, coarse = false): SensorWorld {
	const chance = seeded(seed);
	const tank = new Tank(
		{ fullL: 600, drinkLPerDay: 45, uptakeEcUsCm: 1700, phRisePerDay: 0.12, bufferMeq: 0.6, meanTempC: 21 },
		{ volumeL: 590, ecUsCm: 1900, ph: 5.8, tempC: 21 },
	);
	const plan = faultPlan(days, chance);
	const world: SensorWorld = { readings: [], events: [] };
	const frozen: Partial<Record<string, string>> = {};
	/** What is not yet mixed in shows as a deviation that dies away. */
	let unmixedEc = 0;
	let unmixedPh = 0;
	let mixingUntil = 0;
	for (let i = 0; i < days * DAY_STEPS; i++) {
		const at = start + i * STEP_MIN * 60_000;
		const hour = ((i % DAY_STEPS) / DAY_STEPS) * 24;
		tank.live(STEP_MIN / 60, 0, chance);
		unmixedEc *= 0.72;
		unmixedPh *= 0.72;
		if (hour === 16) {
			if (tank.state.volumeL < 540) {
				const litres = Math.round(595 - tank.state.volumeL);
				const before = tank.state.ecUsCm;
				tank.add(litres, 400, 7);
				unmixedEc = 0.5 * (before - tank.state.ecUsCm);
				world.events.push({ at: at - 60_000, kind: 'water_added', amount: litres, unit: 'L' });
				mixingUntil = at + 3_600_000;
			}
			if (tank.state.ecUsCm < 1700) {
				tank.feed(220);
				unmixedEc += 180;
				world.events.push({ at: at - 30_000, kind: 'nutrient_added', amount: 300, unit: 'mL' });
				mixingUntil = at + 3_600_000;
			}
			if (tank.state.ph > 6.2) {
				tank.dose((tank.state.ph - 5.75) * 0.6 * tank.state.volumeL);
				unmixedPh = -0.3;
				world.events.push({ at: at - 20_000, kind: 'acid_added', amount: 40, unit: 'mL' });
				mixingUntil = at + 3_600_000;
			}
		}
		const rhythm = Math.sin(((hour - 9) / 24) * 2 * Math.PI);
		const ph = tank.state.ph + 0.04 * rhythm + unmixedPh + 0.012 * chance.normal();
		const ec = tank.state.ecUsCm * (1 + 0.006 * rhythm) + unmixedEc + 4 * chance.normal();
		const temp = tank.state.tempC + 1.5 * rhythm + 0.05 * chance.normal();
		const fault = plan.get(i) ?? '';
		const show = (
			quantity: 'ph' | 'ec' | 'temp',
			value: number,
			decimals: number,
			unit: string,
			faulty: SensorFault | '',
		) => {
			const text =
				faulty === 'stuck' && frozen[quantity] !== undefined ? frozen[quantity] : Math.max(value, 0).toFixed(decimals);
			frozen[quantity] = text;
			world.readings.push({ at, quantity, value: text, unit, fault: faulty, mixing: at <= mixingUntil });
		};
		const sign = chance.chance(0.5) ? 1 : -1;
		const air = fault === 'probe-in-air';
		const cap = fault === 'probe-in-storage';
		const spike = fault === 'spike';
		show(
			'ph',
			spike
				? ph + sign * chance.between(0.9, 2.5)
				: cap
					? 4.1 + 0.01 * chance.normal()
					: air
						? ph + 0.8 * chance.normal()
						: ph,
			coarse ? 1 : 2,
			'pH',
			fault === 'stuck' || spike || cap ? fault : '',
		);
		show(
			'ec',
			air ? 8 * Math.abs(chance.normal()) : cap ? 80_000 + 500 * chance.normal() : ec,
			0,
			'uS/cm',
			air || cap ? fault : '',
		);
		show('temp', temp, 1, 'C', '');
	}
	// A pH that wanders in air is neither an honest reading nor a fault a check must name.
	world.readings = world.readings.filter(
		(r) => !(r.quantity === 'ph' && plan.get(Math.round((r.at - start) / (STEP_MIN * 60_000))) === 'probe-in-air'),
	);
	return world;
}
