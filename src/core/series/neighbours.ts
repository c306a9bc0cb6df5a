import { compareWith, driftOf, noDrift, SOUND } from '../judge/second-instrument';
import { median } from './robust';

/**
 * Two sensors in one water: whether they have come apart, and which of them hands vouch for. Neither is flagged for it, since one of
 * them is right: it is told beside both.
 */
export interface Told {
	/** ms; ascending. */
	at: number;
	/** Canonical: pH, µS/cm. */
	value: number;
}
export interface Apart {
	/** Since when, ms. */
	since: number;
	/** How much more the first shows, pH or share of the second's EC. */
	by: number;
	comparisons: number;
	/** The one that hands speak against while they vouch for the other; null where nobody knows. */
	off: 'first' | 'second' | null;
}

/** So often two sensors are compared: closer together their noise is one noise. Common practice, no source. */
export const COMPARE_MS = 6 * 3_600_000;
/** A hand reading within this time is of the same water. */
const SAME_WATER_MS = 3_600_000;
/** So many hand readings must agree with one before the other is named. */
const VOUCHES = 2;

/** The first value of each stretch between two comparisons. */
function sampled(all: readonly Told[]): Map<number, number> {
	const found = new Map<number, number>();
	for (const { at, value } of all) {
		const slot = Math.floor(at / COMPARE_MS);
		if (!found.has(slot)) found.set(slot, value);
	}
	return found;
}

/** How far a sensor is from hand readings beside it, by their median; null where there are too few. */
function fromHands(quantity: 'ph' | 'ec', sensor: readonly Told[], hands: readonly Told[]): number | null {
	const differences = hands.flatMap((h) => {
		const near = sensor.filter((s) => Math.abs(s.at - h.at) <= SAME_WATER_MS);
		if (near.length === 0 || !(h.value > 0)) return [];
		const value = near.reduce((sum, s) => sum + s.value, 0) / near.length;
		return [quantity === 'ph' ? value - h.value : (value - h.value) / h.value];
	});
	// Some were read while something was poured.
	return differences.length < VOUCHES ? null : median(differences);
}

/**
 * Holds two sensors of one quantity in one water against one another (tabular CUSUM, judge/second-instrument).
 * @param hands what was read there by hand and is believed
 * @returns null while they agree as two sound instruments do
 * @example apart('ph', [], [], []) // null
 */
export function apart(
	quantity: 'ph' | 'ec',
	first: readonly Told[],
	second: readonly Told[],
	hands: readonly Told[],
): Apart | null {
	const others = sampled(second);
	const drift = noDrift(0);
	let since = 0;
	for (const [slot, value] of sampled(first)) {
		const other = others.get(slot);
		if (other === undefined) continue;
		if (drift.up === 0 && drift.down === 0) since = slot * COMPARE_MS;
		compareWith(drift, quantity, slot * COMPARE_MS, value, other, '');
	}
	const found = driftOf(drift);
	if (!found) return null;
	const lately = hands.filter((h) => h.at >= since);
	const [a, b] = [fromHands(quantity, first, lately), fromHands(quantity, second, lately)];
	const sound = SOUND[quantity];
	const off =
		a === null || b === null
			? null
			: Math.abs(b) <= sound && Math.abs(a) > sound
				? 'first'
				: Math.abs(a) <= sound && Math.abs(b) > sound
					? 'second'
					: null;
	return { since, by: found.offset, comparisons: found.comparisons, off };
}
