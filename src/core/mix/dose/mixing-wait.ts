import type { Aeration } from '../../chem/degassing';

/**
 * How long what was poured takes to reach the whole tank: minutes with an air stone, much longer where nothing moves it.
 * Common practice, no source; a grower who knows the tank sets it.
 */
const BASE_MIN: Record<Aeration, number> = { 'air stone': 8, 'falling return': 15, stirred: 15, still: 90 };
const UNKNOWN_MIN = 30;
const SMALL_L = 20;
const MOST_MIN = 240;

/** @example mixMinutes('air stone', 100) // 14 */
export function mixMinutes(aeration: Aeration | null, litres: number, set: number | null = null): number {
	if (set !== null) return set;
	const base = aeration === null ? UNKNOWN_MIN : BASE_MIN[aeration];
	return Math.min(Math.ceil(base * (1 + Math.log10(Math.max(litres / SMALL_L, 1)))), MOST_MIN);
}

/** A tank that batches are mixed in is stirred for it, by hand or by pump: what was set, else this; null for others. */
const MIXING_TANK_MIN = 10;
/**
 * Minutes that a dose is given to mix at a station, where they were set or its kind says; null: by its size and movement.
 * @example setMinutes({ kind: 'mix', mixMinutes: null }) // 10
 */
export const setMinutes = (station: { kind: string; mixMinutes: number | null }): number | null =>
	station.mixMinutes ?? (station.kind === 'mix' ? MIXING_TANK_MIN : null);

/** Doses further apart than this are of different visits: moved water has lost carbon dioxide in between. */
export const visitGapMs = (mixMin: number): number => 60_000 * Math.max(180, 2 * mixMin);
