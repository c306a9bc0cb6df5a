import { skippedOf } from '@/core/format/readings-row';
import { Engine } from '@/core/judge/engine';
import { unitNamed } from '@/core/quantity';
import type { Reading, WaterEvent } from '@/core/reading/model';
import { type EventRecord, listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import { type JudgedReading, recentReadings } from '@/store/readings';
import { fleet, type ProbeView, probeState } from './probes';
import type { SiteContext } from './site';

/** Readings of each series that an engine looks back on: its window and the misses behind its spread, with room. */
const LOOK_BACK = 40;

export const asReading = (r: JudgedReading): Reading => ({
	at: r.at,
	station: r.station,
	instrument: r.instrument ?? '',
	quantity: r.quantity,
	unit: r.unit,
	digits: r.digits,
	value: r.value,
	halfWidth: r.halfWidth,
	tempC: r.tempC,
	waitS: r.waitS,
	...skippedOf(r.extra),
});

export const asEvent = (e: EventRecord): WaterEvent => ({
	at: e.at,
	station: e.station,
	kind: e.kind,
	amount: e.amount,
	unit: unitNamed(e.unitText) ?? null,
});

/**
 * Runs stored readings and events through an engine in order of time. What a person kept is believed, what a person
 * discarded is not learned from.
 */
export function replay(engine: Engine, readings: readonly JudgedReading[], events: readonly EventRecord[]): void {
	let nextEvent = 0;
	for (let i = 0; i < readings.length; ) {
		const first = readings[i]!;
		let end = i + 1;
		while (end < readings.length && readings[end]!.at === first.at && readings[end]!.station === first.station) end++;
		while (nextEvent < events.length && events[nextEvent]!.at <= first.at) engine.note(asEvent(events[nextEvent++]!));
		const sample = readings.slice(i, end);
		const undecided = sample.filter((r) => r.decision !== 'keep' && r.decision !== 'discard');
		for (const kept of sample.filter((r) => r.decision === 'keep')) engine.trust(asReading(kept));
		if (undecided.length > 0) engine.take(undecided.map(asReading));
		i = end;
	}
	while (nextEvent < events.length) engine.note(asEvent(events[nextEvent++]!));
}

/** An engine that knows each station's recent history up to a time. */
export async function primedEngine(
	db: Db,
	context: SiteContext,
	upTo: number,
	now: number,
	probes?: readonly ProbeView[],
): Promise<Engine> {
	const states = new Map(
		(probes ?? (await fleet(db, context, now))).map((p) => [`${p.instrument.code} ${p.quantity}`, probeState(p)]),
	);
	const probe = (instrument: string, quantity: string, at: number) => {
		const state = states.get(`${instrument} ${quantity}`);
		return state && state.at <= at ? state : null;
	};
	const engine = new Engine({ ...context.known, probe }, () => now);
	const readings = await recentReadings(db, context.site.id, upTo, LOOK_BACK);
	const from = readings[0]?.at;
	const events = from === undefined ? [] : await listEvents(db, context.site.id, { from, to: upTo + 1, limit: 5000 });
	replay(engine, readings, events);
	return engine;
}
