import { oxygenHeld } from '@/core/chem/oxygen';
import { seeded } from '@/sim/random';
import { channel, type NodeFault, type NodeSample, SensorNode, type Truth } from '@/sim/sensor-node';
import type { DemoEvent, TankPoint } from './written';

/**
 * The two sensor nodes of Saltmarsh Yard, every five minutes: what hangs in the pond with its air, and what stands in a slab and its
 * tank. Their truth is that of the tanks that the pens read; a day swings around it, and what is poured takes its time to mix.
 */
export const POSTS = [
	{ code: 'pond-post', name: 'Pond post', station: 'pond' },
	{ code: 'slab-post', name: 'Slab post', station: 'slabs' },
] as const;
export type Post = (typeof POSTS)[number]['code'];
export const POST_DAYS = 92;
const STEP_MS = 5 * 60_000;
const DAY = 86_400_000;
const HOUR = 3_600_000;
const SEED = 20260715;

/** Full at 2,400 L, 300 mm deep. */
const POND_MM_PER_L = 300 / 2400;
/** How fast what was poured mixes. */
const MIXES_MS = 18 * 60_000;

export interface PostSample extends NodeSample {
	at: number;
}

/** What happens to the nodes, in days before the end: from, for how many hours, and what. */
const FAULTS: Record<Post, readonly (readonly [daysAgo: number, hours: number, fault: NodeFault])[]> = {
	'pond-post': [
		[83.3, 0.6, 'probe-in-air'],
		[61.72, 9, 'stuck'],
		[48.4, 30, 'silent'],
		[20.1, 0.7, 'probe-in-storage'],
		[9.55, 0.08, 'spike'],
		[6.31, 0.5, 'probe-in-air'],
		[3.4, 5, 'silent'],
		[1.62, 0.08, 'spike'],
	],
	'slab-post': [
		[77.2, 12, 'stuck'],
		[40.6, 0.5, 'probe-in-air'],
		[26.9, 0.08, 'spike'],
		[8.4, 7, 'stuck'],
		[2.25, 0.6, 'probe-in-air'],
	],
};
/** The pH electrode of the slab post creeps; it was put right a month before the end and creeps again. */
const SLAB_DRIFT = 0.016;
const SLAB_CALIBRATED_DAYS_AGO = 33;

/** Swings with the hour around the value of the morning, −1 to 1. */
const swing = (at: number, peakHour: number): number => {
	const hour = (at / HOUR + 2) % 24;
	const of = (h: number) => Math.cos(((h - peakHour) / 24) * 2 * Math.PI);
	return of(hour) - of(7.5);
};

/** Follows the course of a tank, straight between its points. */
function following(points: readonly TankPoint[]): (at: number) => TankPoint {
	let i = 0;
	return (at) => {
		while (i + 2 < points.length && points[i + 1]!.at <= at) i++;
		const [a, b] = [points[i]!, points[Math.min(i + 1, points.length - 1)]!];
		const w = b.at > a.at ? Math.min(Math.max((at - a.at) / (b.at - a.at), 0), 1) : 0;
		const mix = (x: number, y: number) => x + w * (y - x);
		return {
			...a,
			at,
			ph: mix(a.ph, b.ph),
			ecUsCm: mix(a.ecUsCm, b.ecUsCm),
			tempC: mix(a.tempC, b.tempC),
			volumeL: mix(a.volumeL, b.volumeL),
		};
	};
}

/** Everything that a post sends in its last days, oldest first. */
export function postSamples(
	post: Post,
	{ course, events }: { course: readonly TankPoint[]; events: readonly DemoEvent[] },
	end: number,
	days = POST_DAYS,
): PostSample[] {
	const pond = post === 'pond-post';
	const station = pond ? 'pond' : 'slabs';
	const from = Math.ceil((end - days * DAY) / STEP_MS) * STEP_MS;
	const tank = following(course.filter((p) => p.station === station));
	const node = new SensorNode(
		SEED + (pond ? 0 : 1),
		pond
			? [
					channel('ph'),
					channel('ec'),
					channel('temp'),
					channel('do'),
					channel('level'),
					channel('air_temp'),
					channel('humidity'),
				]
			: [
					channel('ph', { driftPerDay: SLAB_DRIFT }),
					channel('ec'),
					channel('temp'),
					channel('moisture'),
					channel('substrate_ec'),
				],
		end - SLAB_CALIBRATED_DAYS_AGO * DAY - 20 * DAY,
	);
	const poured = events.filter((e) => e.station === station && e.at >= from - DAY).map((e) => e.at);
	const chance = seeded(SEED + (pond ? 2 : 3));
	const result: PostSample[] = [];
	let [cloud, unmixed, wet, calibrated] = [0, 0, 62, false];
	for (let at = from; at <= end; at += STEP_MS) {
		const t = tank(at);
		const ago = (end - at) / DAY;
		cloud += 0.02 * (0 - cloud) + 0.03 * chance.normal();
		const sun = Math.max(swing(at, 14) + 0.2, 0) * (1 - Math.min(Math.max(cloud, 0), 0.7));
		if (poured.some((p) => p > at - STEP_MS && p <= at)) unmixed = 1;
		unmixed *= Math.exp(-STEP_MS / MIXES_MS);
		const tempC = t.tempC + 1.1 * swing(at, 17) * 0.6;
		const air = t.tempC + 1 + 5 * sun + 1.5 * swing(at, 15) * 0.4;
		// A run every hour of the day wets the slab, which dries in between.
		const hour = (at / HOUR + 2) % 24;
		const runs = hour > 7 && hour < 20 && at % HOUR < STEP_MS;
		wet = Math.max(wet - (0.18 + 0.4 * sun) * (hour > 6 && hour < 21 ? 1 : 0.3), 45) + (runs ? 3.4 : 0);
		wet = Math.min(wet, 72);
		const truth: Truth = {
			ph: t.ph + 0.03 * swing(at, 15) - 0.12 * unmixed,
			ec: (t.ecUsCm * (1 + 0.004 * swing(at, 13)) + 60 * unmixed) / 1000,
			temp: tempC,
			do: 0.93 * (oxygenHeld({ tempC: Math.min(Math.max(tempC, 0), 40) }) ?? 8) + 0.25 * sun,
			level: t.volumeL * POND_MM_PER_L,
			air_temp: air,
			humidity: Math.min(Math.max(82 - 26 * sun + 6 * cloud, 35), 97),
			moisture: wet,
			substrate_ec: (t.ecUsCm / 1000) * (1.25 + (70 - wet) / 90),
		};
		if (!pond && !calibrated && ago <= SLAB_CALIBRATED_DAYS_AGO) {
			node.calibrate('ph', at);
			calibrated = true;
		}
		const fault = FAULTS[post].find(([begins, hours]) => ago <= begins && ago > begins - hours / 24)?.[2] ?? null;
		for (const s of node.sample(at, truth, fault)) result.push({ at, ...s });
	}
	return result;
}
/** When the electrode of the slab post was put right. */
export const slabCalibratedAt = (end: number): number => end - SLAB_CALIBRATED_DAYS_AGO * DAY;
