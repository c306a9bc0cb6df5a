import type { Quantity, SeriesQuantity } from '../quantity';
import type { WaterEvent } from '../reading/model';
import { countWhile } from '../series/search';
import { insertEvent } from './events-between';
import { emptyHistory, type History } from './history';
import type { Rests, Steps } from './rests';
import type { Drifting } from './second-instrument';

/**
 * What the checks remember: of every station a fixed number of readings for each quantity and instrument, as plain data, so
 * that it can be kept, sent to a browser, and gone on from. Whoever goes on from a memory judges as if all readings before it
 * had just been gone through.
 */

/** The newest reading of one instrument in one series, as it stood in a row. */
export interface Trace {
	at: number;
	value: number;
	/** A time far ahead of the others is not taken as the newest until a later one follows it. */
	ahead: number | null;
	/** When a reading lay before the newest; a second that follows it shows that the newest had the wrong date. */
	behind: number | null;
	/** The usual time between readings. */
	gapMs: number | null;
	/** How its display steps and rests, by itself and with all that the instrument shows. */
	steps: Steps;
	rests: Rests;
	together: Rests;
	/** Whether the newest value was a jump that no water makes. */
	jumped: boolean;
	/** What a hand wrote down last, oldest first. */
	written: { at: number; value: number }[];
}

/** The newest reading of one instrument in one series, as its neighbours see it. */
export interface Last {
	instrument: string;
	at: number;
	/** On its display, and with its known drift taken off. */
	shown: number;
	value: number;
	u: number;
	missed: number;
}

/** Where an instrument's EC was read last. */
export interface LastEc {
	at: number;
	station: string;
	ecUsCm: number;
}

/** One station, as plain data. Times are milliseconds; keys of traces and drifts are quantity and instrument. */
export interface StationMemory {
	histories: (Omit<History, 'lastAt'> & { lastAt: number | null })[];
	traces: [string, Trace][];
	lasts: [SeriesQuantity, Last[]][];
	drifts: [string, Drifting][];
	/** Of the instruments whose EC was read last at this station. */
	lastEc: [string, LastEc][];
}

/** The memory of all stations, with the events that the checks still look at. */
export interface EngineSnapshot {
	stations: [string, StationMemory][];
	events: WaterEvent[];
	lastEc: [string, LastEc][];
}

/** How much longer than the newest believed reading events are looked at: while what was poured mixes. */
const EVENTS_BEFORE_MS = 3_600_000;

/**
 * The key of what one instrument showed of one quantity.
 * @example seriesInstrument('ec', 'minnow') // 'ec minnow'
 */
export function seriesInstrument(quantity: Quantity | SeriesQuantity, instrument: string): string {
	let keys = known.get(quantity);
	if (!keys) {
		keys = new Map();
		known.set(quantity, keys);
	}
	let key = keys.get(instrument);
	if (key === undefined) {
		if (keys.size >= MOST_KNOWN) keys.clear();
		key = `${quantity} ${instrument}`;
		keys.set(instrument, key);
	}
	return key;
}
/** Keys that were made before: making one costs more than finding it. */
const known = new Map<string, Map<string, string>>();
const MOST_KNOWN = 10_000;

class Station {
	readonly histories = new Map<SeriesQuantity, History>();
	readonly traces = new Map<string, Trace>();
	readonly lasts = new Map<SeriesQuantity, Last[]>();
	readonly drifts = new Map<string, Drifting>();
	readonly events: WaterEvent[] = [];
}

const NOTHING = new Station();

/**
 * What the checks remember of each station: plain data that is stored by day and travels to the browser. A memory can be forked:
 * the fork learns by itself, and what it does not touch is the same data, so that it costs nothing however many stations there are.
 * A memory that has been forked learns no more.
 */
export class Memory {
	private stations = new Map<string, Station>();
	/** Stations that belong to the memory this one was forked from. */
	private shared = new Set<string>();
	lastEc = new Map<string, LastEc>();

	/** The same memory, to go on from without changing this one. */
	fork(): Memory {
		const next = new Memory();
		next.stations = new Map(this.stations);
		next.shared = new Set(this.stations.keys());
		next.lastEc = new Map(this.lastEc);
		return next;
	}

	/** A station to be looked at. */
	look(code: string): Readonly<Station> {
		return this.stations.get(code) ?? NOTHING;
	}

	/** A station to learn of. */
	of(code: string): Station {
		let found = this.stations.get(code);
		if (!found) {
			found = new Station();
			this.stations.set(code, found);
		} else if (this.shared.has(code)) {
			found = structuredCopy(found);
			this.stations.set(code, found);
			this.shared.delete(code);
		}
		return found;
	}

	lookHistory(code: string, quantity: SeriesQuantity): Readonly<History> {
		return this.look(code).histories.get(quantity) ?? emptyHistory(quantity);
	}

	history(code: string, quantity: SeriesQuantity): History {
		const { histories } = this.of(code);
		let found = histories.get(quantity);
		if (!found) {
			found = emptyHistory(quantity);
			histories.set(quantity, found);
		}
		return found;
	}

	/** Stations at which a quantity was ever believed. */
	*stationsWith(quantity: SeriesQuantity): Generator<string> {
		for (const [code, s] of this.stations) if ((s.histories.get(quantity)?.count ?? 0) > 0) yield code;
	}

	note(event: WaterEvent): void {
		insertEvent(this.of(event.station).events, event);
	}

	/** Forgets the events of a station that count no longer for what is read from now on. */
	forgetEvents(code: string): void {
		const { events, histories, drifts, lasts } = this.of(code);
		const from = mattersFrom([...histories.values()], [...drifts.values()], [...lasts.values()]);
		events.splice(
			0,
			countWhile(events, (e) => e.at < from),
		);
	}

	/** One station as it stands, to be kept. */
	keep(code: string): StationMemory {
		return JSON.parse(this.keepAsJson(code));
	}

	/** The same as JSON of a StationMemory: what goes into the database on every day of a long import is not taken apart before. */
	keepAsJson(code: string): string {
		const s = this.look(code);
		return JSON.stringify({
			// What was only looked at, for a station or quantity never read, is no memory.
			histories: [...s.histories.values()]
				.filter((h) => h.count > 0 || h.pending !== null)
				.map((h) => ({ ...h, lastAt: Number.isFinite(h.lastAt) ? h.lastAt : null })),
			traces: [...s.traces],
			lasts: [...s.lasts],
			drifts: [...s.drifts],
			lastEc: [...this.lastEc].filter(([, e]) => e.station === code),
		} satisfies StationMemory);
	}

	/** Goes on from what was kept of a station. */
	recall(code: string, kept: StationMemory): void {
		const s = this.of(code);
		const { histories, traces, lasts, drifts, lastEc } = structuredClone(kept);
		for (const h of histories)
			Object.assign(this.history(code, h.quantity), h, { lastAt: h.lastAt ?? Number.NEGATIVE_INFINITY });
		for (const [key, trace] of traces) s.traces.set(key, trace);
		for (const [key, list] of lasts) s.lasts.set(key, list);
		for (const [key, drift] of drifts) s.drifts.set(key, drift);
		// Stations were kept at different times: where an instrument was last is what the newest says.
		for (const [instrument, ec] of lastEc)
			if ((this.lastEc.get(instrument)?.at ?? Number.NEGATIVE_INFINITY) <= ec.at) this.lastEc.set(instrument, ec);
	}

	/** These stations, or all, with their events; where each instrument’s EC was read last goes with them, wherever that was. */
	snapshot(codes: Iterable<string> = this.stations.keys()): EngineSnapshot {
		const list = [...codes];
		return {
			stations: list.map((code) => [code, this.keep(code)]),
			events: list.flatMap((code) => this.look(code).events),
			lastEc: [...this.lastEc],
		};
	}
}

function structuredCopy(s: Station): Station {
	const copy = new Station();
	for (const [k, v] of structuredClone(s.histories)) copy.histories.set(k, v);
	for (const [k, v] of structuredClone(s.traces)) copy.traces.set(k, v);
	for (const [k, v] of structuredClone(s.lasts)) copy.lasts.set(k, v);
	for (const [k, v] of structuredClone(s.drifts)) copy.drifts.set(k, v);
	// Events are only added to the list; each stays as it is.
	copy.events.push(...s.events);
	return copy;
}

/** From when on the events of a station still count for what is read after it was kept. */
export const eventsMatterFrom = (kept: StationMemory): number =>
	mattersFrom(
		kept.histories,
		kept.drifts.map(([, d]) => d),
		kept.lasts.map(([, list]) => list),
	);

function mattersFrom(
	histories: readonly { lastAt: number | null }[],
	drifts: readonly Drifting[],
	lasts: readonly (readonly Last[])[],
): number {
	const times = [
		...histories.flatMap((h) => (h.lastAt !== null && Number.isFinite(h.lastAt) ? [h.lastAt] : [])),
		...drifts.map((d) => d.at),
		...lasts.flat().map((l) => l.at),
	];
	return times.length === 0 ? Number.NEGATIVE_INFINITY : Math.min(...times) - EVENTS_BEFORE_MS;
}

/** What was read at a station, by instrument, and when last. */
export const seenAt = (memory: Memory, station: string): { quantity: string; instrument: string; at: number }[] =>
	[...memory.look(station).traces].map(([key, trace]) => {
		const cut = key.indexOf(' ');
		return { quantity: key.slice(0, cut), instrument: key.slice(cut + 1), at: trace.at };
	});
