import type { FieldProblem } from '@/contract/problems';
import {
	isQuantity,
	QUANTITY,
	type SeriesQuantity,
	seriesQuantity,
	toCanonical,
	UNITS,
	type Unit,
} from '@/core/quantity';
import { parseTime } from '@/core/quantity/time';
import { readingFromText } from '@/core/reading/from-text';
import { readingProblem } from '@/words/en/reading';
import { Refusal } from '../refusal';

/** What a node sends, understood: by probe and quantity, ascending in time, each time once. */
export interface SentSeries {
	/** Code of an instrument. */
	probe: string;
	quantity: SeriesQuantity;
	at: number[];
	/** Canonical. */
	value: number[];
}
export interface Sent {
	series: SentSeries[];
	/** As many as were sent, also at the same time. */
	samples: number;
}

export const MOST_SAMPLES = 10_000;
/** So many problems are named. */
const LISTED = 100;
/** A clock may be that far ahead of ours. */
const AHEAD_MS = 5 * 60_000;
/** Before this no node was put up: a clock that was never set begins at 1970 or 2000. */
const FIRST = Date.UTC(2000, 0, 2);

/** A sample as it was sent: anything may stand in it. */
export type SentSample = { [K in 'at' | 'probe' | 'quantity' | 'value' | 'unit']?: unknown };
interface Wrong {
	wrong: keyof SentSample;
	message: string;
}
interface Conversion {
	quantity: SeriesQuantity;
	unit: Unit;
}

/** Takes what was sent in, sample by sample, and names what is wrong with each. */
export class SentSamples {
	private readonly series = new Map<string, SentSeries>();
	private readonly conversions = new Map<string, Map<string, Conversion | string>>();
	readonly errors: FieldProblem[] = [];
	private wrong = 0;
	private samples = 0;

	/** @param own instrument of the node, for samples that name no probe */
	constructor(
		private readonly own: string,
		private readonly now: number,
	) {}

	refuse(path: string, message: string): void {
		this.wrong++;
		if (this.errors.length < LISTED) this.errors.push({ path, message });
	}

	/** @param path names a field of the sample in what was sent: `samples.3.at`, `line 5, time` */
	take(path: (field: keyof SentSample) => string, s: SentSample): void {
		this.samples++;
		const read = this.read(s);
		if ('wrong' in read) this.refuse(path(read.wrong), read.message);
		else {
			const key = `${read.quantity} ${read.probe}`;
			let own = this.series.get(key);
			if (!own) {
				own = { probe: read.probe, quantity: read.quantity, at: [], value: [] };
				this.series.set(key, own);
			}
			own.at.push(read.at);
			own.value.push(read.value);
		}
	}

	private read(s: SentSample): { at: number; probe: string; quantity: SeriesQuantity; value: number } | Wrong {
		const at = this.timeOf(s.at);
		if (typeof at !== 'number') return at;
		if (s.probe !== undefined && s.probe !== null && typeof s.probe !== 'string')
			return { wrong: 'probe', message: 'names an instrument, or is left out' };
		if (typeof s.quantity !== 'string') return { wrong: 'quantity', message: 'must be text, as "ph"' };
		if (typeof s.unit !== 'string') return { wrong: 'unit', message: 'must be text, as "pH"' };
		if (typeof s.value !== 'number' || !Number.isFinite(s.value))
			return { wrong: 'value', message: 'must be a number that is finite' };
		const found = this.conversion(s.quantity, s.unit);
		if (typeof found === 'string') return { wrong: isQuantity(s.quantity) ? 'unit' : 'quantity', message: found };
		const value = toCanonical(s.value, found.unit);
		if (!(Math.abs(value) < BEYOND)) return { wrong: 'value', message: 'is beyond any instrument' };
		return { at, value, quantity: found.quantity, probe: s.probe?.trim() || this.own };
	}

	private timeOf(text: unknown): number | Wrong {
		const wrong = (message: string): Wrong => ({ wrong: 'at', message });
		const parsed = typeof text === 'string' ? parseTime(text, 'UTC') : null;
		if (!parsed?.ok) return wrong('write the time as 2026-03-01T07:30:00Z');
		if (parsed.local !== null) return wrong('has no zone: write Z or an offset at its end, as 2026-03-01T07:30:00Z');
		if (parsed.at < FIRST) return wrong('lies before any node: its clock was never set');
		if (parsed.at > this.now + AHEAD_MS) return wrong('lies ahead of this machine’s clock; set the clock of the node');
		return parsed.at;
	}

	/** How values of a quantity in a unit are kept; what is wrong with them where they cannot be. Found once for each pair. */
	private conversion(quantity: string, unit: string): Conversion | string {
		let units = this.conversions.get(quantity);
		if (!units) {
			units = new Map();
			this.conversions.set(quantity, units);
		}
		let found = units.get(unit);
		if (found === undefined) {
			const read = readingFromText(
				{ quantity, value: '1', unit, tempC: null, waitS: null },
				{ ppmScale: null, altitudeM: 0 },
			);
			found = read.ok
				? { quantity: seriesQuantity(read.value.quantity), unit: read.value.unit }
				: readingProblem(read.problem);
			// A share of a tank whose height nobody knows is no height.
			if (
				read.ok &&
				UNITS[read.value.unit].dimension === 'fraction' &&
				UNITS[QUANTITY[read.value.quantity].canonical].dimension !== 'fraction'
			)
				found = `${QUANTITY[read.value.quantity].name} of a sensor is sent in ${QUANTITY[read.value.quantity].canonical}`;
			units.set(unit, found);
		}
		return found;
	}

	/** @throws Refusal naming every sample that is wrong: all or nothing */
	done(): Sent {
		if (this.wrong > 0)
			throw new Refusal('bad-samples', this.errors, {
				detail: `${this.wrong} of ${this.samples} samples cannot be taken; nothing was stored. Mend them and send all of them again.`,
			});
		for (const s of this.series.values()) putInOrder(s);
		return { series: [...this.series.values()], samples: this.samples };
	}
}
const BEYOND = 1e12;

/** Puts a series in order and leaves the first of those at one time. */
function putInOrder(s: SentSeries): void {
	const { at, value } = s;
	let sorted = true;
	for (let i = 1; i < at.length && sorted; i++) sorted = at[i]! > at[i - 1]!;
	if (sorted) return;
	const order = at.map((_, i) => i).sort((a, b) => at[a]! - at[b]! || a - b);
	const kept = order.filter((i, k) => k === 0 || at[i] !== at[order[k - 1]!]);
	s.at = kept.map((i) => at[i]!);
	s.value = kept.map((i) => value[i]!);
}
