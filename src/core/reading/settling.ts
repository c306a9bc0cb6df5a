import { median, theilSenSlope } from '../series/robust';

/**
 * Whether a display has settled, from values noted or streamed while it moves.
 *
 * Settled: over the last window no value lies further from their median than the criterion, and their Theil–Sen slope
 * would not carry it there within another window. Noisy: it jumps about without going anywhere. Bubble: conductivity
 * fell at once off a level by much and stays. Presets: ours (10 s within 0.02 pH, 1 % of EC), and the field criterion of the USGS
 * National Field Manual A6 (±0.1 pH; ±5 % of EC to 100 µS/cm, ±3 % above).
 */
export interface SettlePreset {
	windowS: number;
	ph: number;
	/** Share of the value, by conductivity. */
	ec: (usCm: number) => number;
	temp: number;
}
export const TIGHT: SettlePreset = { windowS: 10, ph: 0.02, ec: () => 0.01, temp: 0.2 };
export const FIELD: SettlePreset = { windowS: 10, ph: 0.1, ec: (v) => (v <= 100 ? 0.05 : 0.03), temp: 0.2 };

export interface SettlePoint {
	/** Seconds since the probe went in. */
	s: number;
	value: number;
}

export type Settling =
	| { state: 'too-few' }
	| { state: 'moving'; perMinute: number }
	| { state: 'noisy' | 'bubble' }
	| { state: 'settled'; value: number /** Standard uncertainty of the settled value. */; u: number; afterS: number };

const LEAST_POINTS = 3;
/** A fall by more than this share between two neighbours is air on the electrodes. */
const BUBBLE_FALL = 0.25;
/** So many values within this share of each other are a level. */
const LEVEL_POINTS = 3;
const LEVEL_SHARE = 0.05;
const NOISY_TIMES = 3;

function criterion(quantity: 'ph' | 'ec' | 'temp', value: number, preset: SettlePreset): number {
	return quantity === 'ph' ? preset.ph : quantity === 'temp' ? preset.temp : preset.ec(value) * Math.abs(value);
}

/** @param points in order of time; a time that runs backwards is left out */
export function settling(
	quantity: 'ph' | 'ec' | 'temp',
	points: readonly SettlePoint[],
	preset: SettlePreset = TIGHT,
): Settling {
	const ordered: SettlePoint[] = [];
	for (const p of points)
		if (
			Number.isFinite(p.s) &&
			Number.isFinite(p.value) &&
			(ordered.length === 0 || p.s > ordered[ordered.length - 1]!.s)
		)
			ordered.push(p);
	const last = ordered[ordered.length - 1];
	if (!last) return { state: 'too-few' };
	const window = ordered.filter((p) => last.s - p.s <= preset.windowS);
	if (window.length < LEAST_POINTS || last.s - ordered[0]!.s < preset.windowS) return { state: 'too-few' };
	if (quantity === 'ec')
		for (let i = LEVEL_POINTS; i < ordered.length; i++) {
			// A cell that comes out of stronger water falls from the first second; a bubble falls off a level.
			const level = ordered.slice(i - LEVEL_POINTS, i).map((p) => p.value);
			const before = Math.min(...level);
			if (before <= 0 || Math.max(...level) > (1 + LEVEL_SHARE) * before) continue;
			if (ordered.every((p, j) => j < i || p.value < (1 - BUBBLE_FALL) * before)) return { state: 'bubble' };
		}
	const values = window.map((p) => p.value);
	const centre = median(values);
	const allowed = criterion(quantity, centre, preset);
	const spread = Math.max(...values.map((v) => Math.abs(v - centre)));
	const slope =
		theilSenSlope(
			window.map((p) => p.s),
			values,
		) ?? 0;
	const drift = Math.abs(slope) * preset.windowS;
	if (spread <= allowed && drift <= allowed) {
		const variance = values.reduce((sum, v) => sum + (v - centre) ** 2, 0) / Math.max(values.length - 1, 1);
		return {
			state: 'settled',
			value: centre,
			u: Math.hypot(Math.sqrt(variance / values.length), drift / Math.sqrt(3)),
			afterS: last.s,
		};
	}
	return drift < spread / NOISY_TIMES ? { state: 'noisy' } : { state: 'moving', perMinute: slope * 60 };
}
