import { countWhile } from '../../src/core/series/search';
import { type Random, seeded } from '../../src/sim/random';

/**
 * Fleets of probes whose every error is known: what they showed in standards and in water, and what the water truly was.
 *
 * Richer than what the error curve assumes: an electrode that is wrong by an offset and a gain, glass that ages by fits and starts,
 * water that is not a buffer (a bias of each probe that no standard shows), bottles that are off, noise with heavy tails, slips of
 * the hand, jumps that nobody wrote down, second pens dipped minutes later while the water goes on.
 */
const MINUTE = 60_000;

export interface FleetCalibration {
	id: number;
	probe: string;
	at: number;
	kind: 'check' | 'adjust';
	points: { nominal: number; asFound: number | null; asLeft: number | null; u: number }[];
}
export interface FleetReading {
	id: number;
	probe: string;
	station: string;
	/** Dipped into one cup. */
	sample: number;
	at: number;
	value: number;
	/** As an application that knows the maker's accuracy and the display would state it. */
	u: number;
	uRepeat: number;
	truth: number;
}
export interface Fleet {
	quantity: 'ph' | 'ec';
	kind: FleetKind;
	probes: { code: string; kind: 'hand' | 'continuous' | 'kit' }[];
	calibrations: FleetCalibration[];
	/** What people wrote down of their probes. */
	jumps: { probe: string; at: number; kind: string }[];
	readings: FleetReading[];
	/** What a probe was truly wrong by, at a value that its station shows. */
	errorAt(probe: string, at: number, value: number): number;
	/** Errors of at least 0.3 pH (9 %) that began all at once and were not written down. */
	hidden: { probe: string; at: number; size: number }[];
	days: number;
}

export const FLEET_KINDS = [
	'two pens, one round a day',
	'pens that share cups',
	'nodes and a hand pen',
	'unlogged jumps',
	'heavy tails and slips',
	'drift that begins halfway',
	'rehydrating bulbs',
	'one never calibrated',
	'drop kit beside one pen',
	'never meet',
] as const;
export type FleetKind = (typeof FLEET_KINDS)[number];

interface Truth {
	times: number[];
	offset: number[];
	gain: number[];
}

const START = Date.UTC(2024, 1, 5, 8);

/** Student's t with three degrees of freedom, scaled to a standard deviation of one. */
function heavy(r: Random): number {
	const chi = r.normal() ** 2 + r.normal() ** 2 + r.normal() ** 2;
	return r.normal() / Math.sqrt(chi / 3) / Math.sqrt(3);
}

export function simulateFleet(kind: FleetKind, quantity: 'ph' | 'ec', seed: number): Fleet {
	const r = seeded(seed * 7919 + FLEET_KINDS.indexOf(kind) * 104729 + (quantity === 'ec' ? 13 : 0));
	const ph = quantity === 'ph';
	const days = Math.round(r.between(70, 160));
	const alone = kind === 'never meet';
	const nodes = kind === 'nodes and a hand pen' ? (r.chance(0.5) ? 1 : 2) : 0;
	const hands =
		kind === 'pens that share cups' ? Math.round(r.between(4, 8)) : nodes || kind === 'drop kit beside one pen' ? 1 : 2;
	const probes: Fleet['probes'] = [
		...Array.from({ length: hands }, (_, i) => ({ code: `pen ${i + 1}`, kind: 'hand' as const })),
		...Array.from({ length: nodes }, (_, i) => ({ code: `node ${i + 1}`, kind: 'continuous' as const })),
		...(kind === 'drop kit beside one pen' ? [{ code: 'kit', kind: 'kit' as const }] : []),
	];
	const unit = ph ? 1 : 0.15; // a pH error of 0.2 is to growers what 3 % of EC is
	const tailed = kind === 'heavy tails and slips';
	const jumpy = kind === 'unlogged jumps';

	// Each probe as it truly is.
	const traits = new Map(
		probes.map((p) => [
			p.code,
			{
				sigma: unit * 0.025 * Math.exp(0.5 * r.normal()),
				rate: unit * 0.004 * r.normal(),
				matrix: unit * 0.02 * r.normal(),
				noise: unit * r.between(0.008, 0.025),
				step: ph ? (r.chance(0.2) ? 0.1 : 0.01) : r.chance(0.4) ? 10 : 1,
				accuracy: ph ? r.pick([0.05, 0.1]) : r.pick([0.01, 0.02]),
				late: kind === 'drift that begins halfway' && r.chance(0.6) ? r.between(0.25, 0.75) * days : null,
				lateRate: unit * r.between(0.015, 0.04) * (r.chance(0.5) ? 1 : -1),
				calibratedEvery:
					p.kind === 'continuous'
						? r.between(25, 60)
						: kind === 'drift that begins halfway'
							? r.between(20, 40)
							: r.between(6, 24),
				adjusts: r.between(0.5, 1),
			},
		]),
	);
	const truths = new Map<string, Truth>();
	const calibrations: FleetCalibration[] = [];
	const jumps: Fleet['jumps'] = [];
	const hidden: Fleet['hidden'] = [];
	let id = 0;

	const bottles = [0, 1, 2].map(() => unit * 0.01 * r.normal());
	for (const p of probes) {
		const t = traits.get(p.code)!;
		const truth: Truth = { times: [], offset: [], gain: [] };
		truths.set(p.code, truth);
		if (p.kind === 'kit') {
			truth.times.push(0);
			truth.offset.push(0.12 * r.normal());
			truth.gain.push(1);
			continue;
		}
		let offset = unit * 0.02 * r.normal();
		let gain = 1 + (ph ? 0.004 : 0.002) * r.normal();
		let relax = 0;
		const never = kind === 'one never calibrated' && p.code === 'pen 2';
		if (never) offset = unit * 0.25 * r.normal();
		let next = never ? Number.POSITIVE_INFINITY : r.between(0.2, 3);
		const HOURS = 6;
		for (let h = 0; h <= days * 24; h += HOURS) {
			const day = h / 24;
			const dt = HOURS / 24;
			// By fits and starts: quiet weeks and restless ones.
			const restless = 0.6 + 0.8 * (Math.sin((day + 17 * t.sigma) / 9) > 0 ? 1 : 0);
			offset += restless * t.sigma * Math.sqrt(dt) * (tailed ? heavy(r) : r.normal()) + t.rate * dt;
			if (t.late !== null && day > t.late) offset += t.lateRate * dt;
			offset -= relax * (1 - Math.exp(-dt / 3));
			relax *= Math.exp(-dt / 3);
			gain += (ph ? 0.0006 : 0.0002) * Math.sqrt(dt) * r.normal();
			if (jumpy && r.chance(dt / 55)) {
				const size = unit * r.between(0.12, 0.55) * (r.chance(0.5) ? 1 : -1);
				offset += size;
				if (Math.abs(size) >= 0.3 * unit) hidden.push({ probe: p.code, at: START + h * 3_600_000, size });
			}
			if (kind === 'rehydrating bulbs' && r.chance(dt / 40)) {
				const size = unit * r.between(0.15, 0.4) * (r.chance(0.5) ? 1 : -1);
				offset += size;
				relax += size;
				if (r.chance(0.6)) jumps.push({ probe: p.code, at: START + h * 3_600_000, kind: 'dried_out' });
			}
			if (day >= next) {
				next = day + t.calibratedEvery * r.between(0.7, 1.3);
				const at = START + h * 3_600_000;
				const two = ph && r.chance(0.6);
				const nominals = ph ? (two ? [7.01, 4.01] : [7.01]) : [1413];
				const adjust = r.chance(t.adjusts);
				const shown = (nominal: number, bottle: number, o: number, g: number) => {
					const pure = ph ? 7 + (nominal + bottle - 7) * g + o : nominal * (1 + bottle) * (1 + o) * g;
					const seen = pure + (ph ? t.noise * r.normal() : pure * t.noise * r.normal());
					return Math.round(seen / t.step) * t.step;
				};
				const found = nominals.map((n, i) => shown(n, bottles[i]!, offset, gain));
				let leftOffset = offset;
				let leftGain = gain;
				if (adjust) {
					leftOffset = ph ? unit * 0.008 * r.normal() + bottles[0]! * -1 : -bottles[0]! + unit * 0.008 * r.normal();
					leftGain = two ? 1 + 0.002 * r.normal() : gain;
				}
				const readsLeft = adjust && r.chance(0.6);
				calibrations.push({
					id: ++id,
					probe: p.code,
					at,
					kind: adjust ? 'adjust' : 'check',
					points: nominals.map((n, i) => ({
						nominal: n,
						asFound: found[i]!,
						asLeft: readsLeft ? shown(n, bottles[i]!, leftOffset, leftGain) : null,
						u: ph ? 0.02 / Math.sqrt(3) : (0.01 * n) / Math.sqrt(3),
					})),
				});
				offset = leftOffset;
				gain = leftGain;
				if (adjust) relax = 0;
			}
			truth.times.push(START + h * 3_600_000);
			truth.offset.push(offset);
			truth.gain.push(gain);
		}
	}

	const wrongBy = (probe: string, at: number, value: number): number => {
		const truth = truths.get(probe)!;
		const i = Math.max(countWhile(truth.times, (t) => t <= at) - 1, 0);
		const { matrix } = traits.get(probe)!;
		return ph
			? truth.offset[i]! + (truth.gain[i]! - 1) * (value - 7) + matrix
			: value * ((1 + truth.offset[i]!) * truth.gain[i]! * (1 + matrix) - 1);
	};
	const readings: FleetReading[] = [];
	const read = (probe: string, station: string, sample: number, at: number, truth: number) => {
		const t = traits.get(probe)!;
		if (probe === 'kit') {
			// Colours by half a pH unit.
			const seen = truth + wrongBy(probe, at, truth) + 0.12 * r.normal();
			const value = Math.round(seen * 2) / 2;
			readings.push({
				id: readings.length + 1,
				probe,
				station,
				sample,
				at,
				value,
				u: 0.5 / Math.sqrt(12),
				uRepeat: 0.5 / Math.sqrt(12),
				truth,
			});
			return;
		}
		const noise = (ph ? t.noise : t.noise * truth) * (tailed ? 1.3 * heavy(r) : r.normal());
		let value = truth + wrongBy(probe, at, truth) + noise;
		if (tailed && r.chance(0.012)) value += (ph ? 1 : truth * 0.15) * r.pick([-1, 1, 0.5, -0.3]);
		value = Math.max(Math.round(value / t.step) * t.step, 0);
		const accuracy = ph ? t.accuracy : t.accuracy * value;
		readings.push({
			id: readings.length + 1,
			probe,
			station,
			sample,
			at,
			value,
			u: Math.hypot(t.step / Math.sqrt(12), accuracy / Math.sqrt(3)),
			uRepeat: Math.hypot(t.step / Math.sqrt(12), accuracy / (2 * Math.sqrt(3))),
			truth,
		});
	};

	// The waters: each tank wanders and is put right now and then.
	const stations = alone ? probes.map((_, i) => `tank ${i + 1}`) : ['tank 1', 'tank 2', 'tank 3'];
	const waters = stations.map(() => ({
		value: ph ? r.between(5.6, 6.3) : r.between(1100, 2200),
		pace: r.between(0.5, 1.5),
	}));
	const step = nodes > 0 ? 0.5 : 2; // hours
	let sample = 0;
	const bedtime = r.between(0.2, 0.7);
	for (let h = 0; h < days * 24; h += step) {
		for (const w of waters) {
			w.value += (ph ? 0.03 : 15) * w.pace * Math.sqrt(step / 2) * (tailed ? heavy(r) : r.normal());
			if (ph ? w.value < 5.2 || w.value > 6.8 : w.value < 800 || w.value > 2600) w.value = ph ? 5.9 : 1600;
		}
		const at = START + h * 3_600_000;
		for (let n = 0; n < nodes; n++) read(`node ${n + 1}`, stations[n]!, -1 - n, at, waters[n]!.value);
		const hour = h % 24;
		if (hour !== 0 && !(hour === 10 && r.chance(bedtime))) continue;
		if (r.chance(0.08)) continue;
		for (const [s, station] of stations.entries()) {
			const when = at + Math.round(r.between(0, 12)) * MINUTE;
			const mover = () => (ph ? 0.008 : 6) * r.normal();
			if (alone) {
				read(probes[s]!.code, station, ++sample, when, waters[s]!.value);
				continue;
			}
			++sample;
			const order = [...probes].filter((p) => p.kind === 'hand');
			const first = kind === 'pens that share cups' ? r.pick(order) : r.chance(0.85) ? order[0]! : order.at(-1)!;
			read(first.code, station, sample, when, waters[s]!.value);
			const others = order.filter((p) => p !== first);
			if (kind === 'pens that share cups') {
				for (const o of others) if (r.chance(0.35)) read(o.code, station, sample, when, waters[s]!.value + mover());
			} else if (others.length > 0 && r.chance(0.5))
				read(
					others[0]!.code,
					station,
					sample,
					when + (r.chance(0.3) ? Math.round(r.between(1, 9)) * MINUTE : 0),
					waters[s]!.value + mover(),
				);
			if (kind === 'drop kit beside one pen' && s === 0 && r.chance(0.3))
				read('kit', station, sample, when, waters[s]!.value);
		}
	}
	readings.sort((a, b) => a.at - b.at || a.id - b.id);
	return { quantity, kind, probes, calibrations, jumps, readings, errorAt: wrongBy, hidden, days };
}
