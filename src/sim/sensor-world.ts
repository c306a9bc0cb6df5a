import type { EventKind } from '@/core/reading/model';
import { type Random, seeded } from './random';
import { Tank } from './tank';

/**
 * Some weeks of a tank watched by a sensor node every five minutes, with a hand reading each morning: uptake, daily
 * rhythm, top-ups and doses with their mixing, a sensor with noise and steps that drifts until it is calibrated, a gap,
 * and faults at known times. For the evaluation of the checks.
 */
export type SensorFault =
	| 'spike'
	| 'stuck'
	| 'probe-in-air'
	| 'probe-in-storage'
	| 'drift'
	| 'unlogged-addition'
	| 'calibration-step';

export interface SensorReading {
	at: number;
	instrument: 'post' | 'plum';
	quantity: 'ph' | 'ec' | 'temp';
	value: string;
	unit: string;
	fault: SensorFault | '';
	/** Faults of one name in one place are one episode. */
	episode: string;
	/** Honest, but the water was still mixing, or the sensor a little off: a check may say so without being wrong. */
	mixing: boolean;
}
export interface SensorWorld {
	readings: SensorReading[];
	events: { at: number; kind: EventKind; amount: number; unit: string }[];
}

/** These last through days and are one episode. */
const EPISODE = new Map<SensorFault, number>([['drift', 0]]);

const STEP_MIN = 5;
const DAY_STEPS = (24 * 60) / STEP_MIN;

function faultPlan(days: number, chance: Random): Map<number, SensorFault> {
	const plan = new Map<number, SensorFault>();
	const put = (from: number, steps: number, fault: SensorFault) => {
		for (let i = 0; i < steps; i++) plan.set(from + i, fault);
	};
	const when = () => Math.floor(chance.between(1.5, days - 1) * DAY_STEPS);
	for (let i = 0; i < days / 2; i++) put(when(), 1, 'spike');
	for (let i = 0; i < 2; i++) put(when(), Math.floor(chance.between(60, 140)), 'stuck');
	put(when(), Math.floor(chance.between(4, 10)), 'probe-in-air');
	put(when(), Math.floor(chance.between(4, 10)), 'probe-in-storage');
	return plan;
}

/** What happens once: steps with nothing logged, a slow drift that a calibration ends, a gap. In steps of the node. */
interface Story {
	addition: number;
	calibration: number;
	driftFrom: number;
	driftTo: number;
	driftPerStep: number;
	gap: number;
}
const storyOf = (days: number, chance: Random): Story => {
	const at = (from: number, to: number) => Math.floor(chance.between(from, to) * days * DAY_STEPS);
	return {
		// In the morning, so that no logged addition of the afternoon explains it.
		addition: Math.floor(chance.between(4, 6)) * DAY_STEPS + Math.floor((chance.between(6, 14) / 24) * DAY_STEPS),
		calibration: at(0.28, 0.34),
		driftFrom: at(0.45, 0.5),
		driftTo: at(0.88, 0.93),
		driftPerStep: ((chance.chance(0.5) ? 1 : -1) * chance.between(0.04, 0.08)) / DAY_STEPS,
		gap: at(0.38, 0.42),
	};
};
/** A drift this large misleads. */
const DRIFT_MATTERS_PH = 0.3;
/** A step is told within this many readings. */
const STEP_READINGS = 6;
const GAP_STEPS = 40;

/** @param coarse a display of one decimal in pH and 0.1 mS/cm: it repeats itself honestly */
export function sensorWorld(seed: number, start: number, days = 28, coarse = false): SensorWorld {
	const chance = seeded(seed);
	const story = storyOf(days, chance);
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
	let offset = 0;
	let wholeNode = false;
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
		if (i === story.addition) {
			tank.feed(0.15 * tank.state.ecUsCm);
			tank.state.ph -= 0.05;
		}
		if (i === story.calibration) offset = chance.chance(0.5) ? 0.45 : -0.45;
		if (i === story.driftFrom) {
			offset = 0;
			world.events.push({ at: at - 30_000, kind: 'calibrated', amount: 1, unit: '' });
			mixingUntil = at + 3_600_000;
		}
		if (i > story.driftFrom && i < story.driftTo) offset += story.driftPerStep;
		if (i === story.driftTo) {
			offset = 0;
			world.events.push({ at: at - 30_000, kind: 'calibrated', amount: 1, unit: '' });
			mixingUntil = at + 3_600_000;
		}
		const rhythm = Math.sin(((hour - 9) / 24) * 2 * Math.PI);
		const truePh = tank.state.ph + 0.04 * rhythm + unmixedPh;
		const ph = truePh + offset + 0.012 * chance.normal();
		const ec = tank.state.ecUsCm * (1 + 0.006 * rhythm) + unmixedEc + 4 * chance.normal();
		const temp = tank.state.tempC + 1.5 * rhythm + 0.05 * chance.normal();
		const fault = plan.get(i) ?? '';
		if (i >= story.gap && i < story.gap + GAP_STEPS) continue;
		if (fault === 'stuck' && plan.get(i - 1) !== 'stuck') wholeNode = chance.chance(0.6);
		const within = (from: number) => i >= from && i < from + STEP_READINGS;
		const drifting = i < story.driftTo && i > story.driftFrom && Math.abs(offset) > DRIFT_MATTERS_PH;
		// Between the unlogged calibration and its end the sensor honestly shows what it was set to.
		const phStory: SensorFault | '' = drifting ? 'drift' : within(story.calibration) ? 'calibration-step' : '';
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
			world.readings.push({
				at,
				instrument: 'post',
				quantity,
				value: text,
				unit,
				fault: faulty,
				episode: faulty === '' ? '' : `${faulty} ${EPISODE.get(faulty) ?? Math.floor(i / DAY_STEPS)}`,
				mixing: at <= mixingUntil || (quantity === 'ph' && faulty === '' && Math.abs(offset) > 0.1),
			});
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
			fault === 'stuck' || spike || cap ? fault : phStory,
		);
		show(
			'ec',
			air ? 8 * Math.abs(chance.normal()) : cap ? 80_000 + 500 * chance.normal() : ec,
			0,
			'uS/cm',
			air || cap || (fault === 'stuck' && wholeNode) ? fault : within(story.addition) ? 'unlogged-addition' : '',
		);
		show('temp', temp, 1, 'C', fault === 'stuck' && wholeNode ? 'stuck' : '');
		if (i % DAY_STEPS === 90) {
			const hand = {
				at: at + 60_000,
				instrument: 'plum' as const,
				fault: '' as const,
				episode: '',
				mixing: at <= mixingUntil,
			};
			world.readings.push(
				{ ...hand, quantity: 'ph', value: (truePh + 0.03 * chance.normal()).toFixed(2), unit: 'pH' },
				{
					...hand,
					quantity: 'ec',
					value: (tank.state.ecUsCm * (1 + 0.006 * rhythm) * (1 + 0.008 * chance.normal())).toFixed(0),
					unit: 'uS/cm',
				},
			);
		}
	}
	// A pH that wanders in air is neither an honest reading nor a fault a check must name.
	world.readings = world.readings.filter(
		(r) => !(r.quantity === 'ph' && plan.get(Math.round((r.at - start) / (STEP_MIN * 60_000))) === 'probe-in-air'),
	);
	return world;
}
