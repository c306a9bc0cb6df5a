import type { SeriesQuantity, Unit } from '@/core/quantity';
import { type Random, seeded } from './random';

/**
 * A sensor node as it is in a glasshouse: what it measures has noise and steps, drifts until somebody calibrates it, and now and then
 * goes wrong. What it is told is the truth of the water and the air; what it answers is what it would send.
 */
export const NODE_FAULTS = ['spike', 'stuck', 'probe-in-air', 'probe-in-storage', 'silent'] as const;
export type NodeFault = (typeof NODE_FAULTS)[number];

export interface Channel {
	quantity: SeriesQuantity;
	unit: Unit;
	decimals: number;
	/** Standard deviation of its noise, in its unit. */
	noise: number;
	/** What it gains in a day, in its unit. */
	driftPerDay: number;
	/** How far a spike goes, in its unit. */
	spike: number;
}

/** What nodes are usually made of (common practice, no source). */
const CHANNELS = {
	ph: { quantity: 'ph', unit: 'pH', decimals: 2, noise: 0.012, driftPerDay: 0, spike: 1.6 },
	ec: { quantity: 'ec', unit: 'mS/cm', decimals: 3, noise: 0.004, driftPerDay: 0, spike: 0.9 },
	temp: { quantity: 'temp', unit: 'C', decimals: 2, noise: 0.04, driftPerDay: 0, spike: 9 },
	do: { quantity: 'do', unit: 'mg/L', decimals: 2, noise: 0.05, driftPerDay: 0, spike: 4 },
	level: { quantity: 'level', unit: 'mm', decimals: 0, noise: 0.7, driftPerDay: 0, spike: 90 },
	air_temp: { quantity: 'air_temp', unit: 'C', decimals: 1, noise: 0.1, driftPerDay: 0, spike: 14 },
	humidity: { quantity: 'humidity', unit: '%', decimals: 0, noise: 0.7, driftPerDay: 0, spike: 30 },
	moisture: { quantity: 'moisture', unit: '%', decimals: 1, noise: 0.3, driftPerDay: 0, spike: 25 },
	substrate_ec: { quantity: 'substrate_ec', unit: 'mS/cm', decimals: 2, noise: 0.02, driftPerDay: 0, spike: 1.5 },
	flow: { quantity: 'flow', unit: 'L/h', decimals: 1, noise: 0.2, driftPerDay: 0, spike: 20 },
} as const satisfies Partial<Record<SeriesQuantity, Channel>>;
export type NodeQuantity = keyof typeof CHANNELS;
export const isNodeQuantity = (q: string): q is NodeQuantity => Object.hasOwn(CHANNELS, q);
/** A channel as it usually is, or with something of it otherwise. */
export const channel = (quantity: NodeQuantity, other: Partial<Channel> = {}): Channel => ({
	...CHANNELS[quantity],
	...other,
});

/** What is true where the node hangs, in the units of its channels. */
export type Truth = Partial<Record<NodeQuantity, number>>;
export interface NodeSample {
	quantity: SeriesQuantity;
	value: number;
	unit: Unit;
}

const DAY = 86_400_000;
/** What a probe shows out of the water, and in its cap: EC in mS/cm, pH. */
const AIR_EC = 0.004;
const CAP_EC = 82;
const CAP_PH = 4.02;

export class SensorNode {
	private readonly chance: Random;
	private readonly calibratedAt = new Map<string, number>();
	private readonly shown = new Map<string, number>();

	constructor(
		seed: number,
		readonly channels: readonly Channel[],
		private readonly from: number,
	) {
		this.chance = seeded(seed);
	}

	/** Somebody puts a channel right. */
	calibrate(quantity: NodeQuantity, at: number): void {
		this.calibratedAt.set(quantity, at);
	}

	/** What it sends at a time; nothing while it is silent. */
	sample(at: number, truth: Truth, fault: NodeFault | null = null): NodeSample[] {
		const { chance } = this;
		if (fault === 'silent') return [];
		return this.channels.flatMap((c) => {
			const true_ = truth[c.quantity as NodeQuantity];
			if (true_ === undefined) return [];
			const days = (at - (this.calibratedAt.get(c.quantity) ?? this.from)) / DAY;
			let value = true_ + c.driftPerDay * Math.max(days, 0) + c.noise * chance.normal();
			if (fault === 'spike' && c.quantity !== 'temp') value += (chance.chance(0.5) ? 1 : -1) * c.spike;
			if (fault === 'probe-in-air') {
				if (c.quantity === 'ec') value = AIR_EC * Math.abs(chance.normal());
				if (c.quantity === 'ph') value = true_ + 0.5 * chance.normal();
			}
			if (fault === 'probe-in-storage') {
				if (c.quantity === 'ec') value = CAP_EC + 0.4 * chance.normal();
				if (c.quantity === 'ph') value = CAP_PH + 0.01 * chance.normal();
			}
			const signed = c.quantity === 'air_temp' || c.quantity === 'temp' ? value : Math.max(value, 0);
			const held = fault === 'stuck' ? this.shown.get(c.quantity) : undefined;
			const shows = held ?? Number(signed.toFixed(c.decimals));
			this.shown.set(c.quantity, shows);
			return [{ quantity: c.quantity, value: shows, unit: c.unit }];
		});
	}
}
