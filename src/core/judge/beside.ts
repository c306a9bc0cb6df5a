import type { SeriesQuantity } from '../quantity';
import type { Reading } from '../reading/model';
import { PUTS_RIGHT } from '../series/disturbances';
import type { Subject } from './checks/check';
import { eventsBetween } from './events-between';
import { type Last, type Memory, seriesInstrument } from './memory';
import { compareWith, driftOf, noDrift, withoutDrift } from './second-instrument';

/** Readings of two instruments this close in time are of the same water. */
export const TOGETHER_MS = 15 * 60_000;
/** Instruments of one quantity that are remembered at a station. */
const MOST_BESIDE = 8;
const NO_LASTS: readonly Last[] = [];

/** What other instruments showed here just before, with nothing added in between. */
export function neighbours(memory: Memory, reading: Reading, quantity: SeriesQuantity): readonly Last[] {
	const { lasts: all, events } = memory.look(reading.station);
	const lasts = all.get(quantity);
	if (!lasts || (lasts.length === 1 && lasts[0]!.instrument === reading.instrument)) return NO_LASTS;
	return lasts.filter(
		(l) =>
			l.instrument !== reading.instrument &&
			l.at < reading.at &&
			reading.at - l.at <= TOGETHER_MS &&
			eventsBetween(events, l.at, reading.at).length === 0,
	);
}

/** How far this sensor is known to have moved away from hand readings; null where it has not, or was put right since. */
export function driftHere(memory: Memory, reading: Reading, quantity: SeriesQuantity): Subject['drifted'] {
	const { drifts, events } = memory.look(reading.station);
	const drift = drifts.size === 0 ? undefined : drifts.get(seriesInstrument(quantity, reading.instrument));
	if (!drift) return null;
	const restored = eventsBetween(events, drift.at, reading.at).some((e) => PUTS_RIGHT.has(e.kind));
	return restored ? null : driftOf(drift);
}

/** Keeps what this instrument showed, and holds a sensor against the hand readings beside it. */
export function remember(memory: Memory, isSensor: (instrument: string) => boolean, s: Subject): void {
	const { reading, quantity } = s;
	if (quantity !== 'ph' && quantity !== 'ec') return;
	const here = memory.of(reading.station);
	const value = s.drifted ? withoutDrift(quantity, reading.value, s.drifted.offset) : reading.value;
	let lasts = here.lasts.get(quantity);
	if (!lasts) {
		lasts = [];
		here.lasts.set(quantity, lasts);
	}
	const own = lasts.find((l) => l.instrument === reading.instrument);
	if (own) {
		own.at = reading.at;
		own.shown = reading.value;
		own.value = value;
		own.u = s.u;
		own.missed = s.missed;
	} else if (lasts.length < MOST_BESIDE)
		lasts.push({
			instrument: reading.instrument,
			at: reading.at,
			shown: reading.value,
			value,
			u: s.u,
			missed: s.missed,
		});
	if (s.continuous) return;
	const beside = new Map<string, number>();
	for (const n of s.neighbours) beside.set(n.instrument, n.shown);
	for (const m of s.mates)
		if (m.quantity === quantity && m.reading.instrument !== reading.instrument)
			beside.set(m.reading.instrument, m.reading.value);
	for (const [instrument, value] of beside) {
		if (!isSensor(instrument)) continue;
		const driftKey = seriesInstrument(quantity, instrument);
		let drift = here.drifts.get(driftKey);
		const since = drift ? eventsBetween(here.events, drift.at, reading.at) : [];
		if (!drift || since.some((e) => PUTS_RIGHT.has(e.kind))) {
			drift = noDrift(reading.at);
			here.drifts.set(driftKey, drift);
		}
		compareWith(drift, quantity, reading.at, value, reading.value, reading.instrument);
	}
}
