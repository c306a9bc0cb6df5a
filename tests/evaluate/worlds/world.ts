import type { JudgeContext } from '@/core/judge/context';
import type { EventKind, InstrumentInfo, StationInfo, WaterEvent } from '@/core/reading/model';
import type { CalibrationGroup } from '@/files/calibrations-row';
import type { Random } from '@/sim/random';

/** What a simulated log is made of, with the truth of every line; nothing here knows what the checks know. */
export const MINUTE = 60_000;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

export interface Row {
	at: number;
	/** As the file says it, where that is not the time in UTC. */
	time?: string;
	station: string;
	instrument: string;
	quantity: string;
	value: string;
	unit: string;
	tempC: number | null;
	waitS: number | null;
	skipped: string;
	/** What happened, by the cause that names it; empty for an honest line. */
	fault: string;
	/** Lines of one happening share a name. */
	episode: string;
	/** What was meant, canonical; null where nothing can be offered. */
	truth: number | null;
	/** Held while it is written over. */
	note?: string;
	/** Neither honest nor a fault that must be named. */
	exempt: boolean;
}
export interface World {
	name: string;
	rows: Row[];
	events: WaterEvent[];
	calibrations: CalibrationGroup[];
	site: JudgeContext;
	zone?: string;
}

export const station = (code: string, kind: StationInfo['kind'], volumeL: number | null): [string, StationInfo] => [
	code,
	{ code, kind, system: null, volumeL, ranges: {} },
];
export const instrument = (
	code: string,
	continuous: boolean,
	more: Partial<InstrumentInfo> = {},
): [string, InstrumentInfo] => [
	code,
	{
		code,
		quantities: { ph: { resolution: 0.01, accuracy: 0.1 }, ec: { resolution: 10, accuracyPct: 2 } },
		ppmScale: null,
		compensates: true,
		alphaPctPerC: 2,
		continuous,
		...more,
	},
];
export const siteOf = (
	stations: [string, StationInfo][],
	instruments: [string, InstrumentInfo][] = [],
): JudgeContext => ({ stations: new Map(stations), instruments: new Map(instruments) });

/** Student's t with three degrees of freedom, scaled to a standard deviation of about one in its middle: now and then far out. */
export function heavy(chance: Random): number {
	const chi = chance.normal() ** 2 + chance.normal() ** 2 + chance.normal() ** 2;
	return (0.8 * chance.normal()) / Math.sqrt(Math.max(chi, 0.05) / 3);
}

export const shown = (value: number, step: number): string => {
	const places = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
	return (Math.round(value / step) * step).toFixed(places);
};

/** How the sun shines: a share by day, with weather that stays for days. */
export class Weather {
	private clear = 0.7;
	private day = Number.NaN;
	constructor(private readonly chance: Random) {}
	/** 0 at night; up to about 1.2 at noon of a clear day. */
	sun(at: number): number {
		const day = Math.floor(at / DAY);
		if (day !== this.day) {
			this.day = day;
			this.clear = Math.min(Math.max(0.7 + 0.6 * (this.clear - 0.7) + 0.25 * this.chance.normal(), 0.1), 1.2);
		}
		return this.clear * Math.max(0, Math.sin(((at % DAY) / DAY - 0.25) * 2 * Math.PI));
	}
}

export interface WaterPlan {
	litres: number;
	ec: number;
	ph: number;
	tempC: number;
	/** Litres drunk in an hour of full sun. */
	drinks: number;
	/** EC of what is drunk, as a share of the tank's. */
	takes: number;
	/** pH in an hour of full sun. */
	rises: number;
	/** °C between night and day. */
	swings: number;
}

/** One body of water: what it holds and shows moves with what drinks from it and what is poured in. */
export class Water {
	litres: number;
	ec: number;
	ph: number;
	tempC: number;
	/** Where its pH wanders to by itself. */
	private wander = 0;
	constructor(
		readonly plan: WaterPlan,
		private readonly chance: Random,
	) {
		({ litres: this.litres, ec: this.ec, ph: this.ph, tempC: this.tempC } = plan);
	}
	pass(hours: number, sun: number): void {
		const drunk = Math.min(this.plan.drinks * sun * hours, 0.5 * this.litres);
		const salt = this.ec * this.litres - this.plan.takes * this.ec * drunk;
		this.litres -= drunk;
		this.ec = salt / this.litres;
		// The higher it is, the less it rises.
		this.ph +=
			this.plan.rises * sun * hours * Math.max(0, (7.6 - this.ph) / 1.6) +
			0.01 * Math.sqrt(hours) * this.chance.normal();
		this.wander = 0.98 ** hours * this.wander + 0.01 * Math.sqrt(hours) * this.chance.normal();
		const aim = this.plan.tempC + this.plan.swings * (sun - 0.3);
		this.tempC += (1 - 0.8 ** hours) * (aim - this.tempC) + 0.05 * Math.sqrt(hours) * this.chance.normal();
	}
	get showsPh(): number {
		return this.ph + this.wander;
	}
	pour(litres: number, ec: number): void {
		this.ec = (this.ec * this.litres + ec * litres) / (this.litres + litres);
		this.litres += litres;
	}
	feed(share: number): void {
		this.ec *= 1 + share;
		this.ph -= 0.15 * share;
	}
	acid(by: number): void {
		this.ph -= by;
	}
}

export const event = (
	at: number,
	station: string,
	kind: EventKind,
	amount: number | null,
	unit: WaterEvent['unit'],
): WaterEvent => ({ at, station, kind, amount, unit });

/** A line that says what was shown; what happened to it is written over it. */
export const line = (
	at: number,
	station: string,
	instrument: string,
	quantity: string,
	value: string,
	unit: string,
	more: Partial<Row> = {},
): Row => ({
	at,
	station,
	instrument,
	quantity,
	value,
	unit,
	tempC: null,
	waitS: null,
	skipped: '',
	fault: '',
	episode: '',
	truth: null,
	exempt: false,
	...more,
});

export const byTime = <T extends { at: number }>(list: T[]): T[] => list.sort((a, b) => a.at - b.at);

/** What people do with the number of a display when they write it down. */
export const SLIPS: Record<string, (r: Row) => Partial<Row> | null> = {
	'decimal-slip': (r) =>
		r.unit === 'mS/cm'
			? { value: r.value.replace('.', ''), truth: 1000 * Number(r.value) }
			: r.unit === 'pH'
				? { value: r.value.replace('.', ''), truth: Number(r.value) }
				: null,
	'unit-slip': (r) =>
		r.unit === 'mS/cm'
			? { unit: 'uS/cm', truth: 1000 * Number(r.value) }
			: r.unit === 'uS/cm' && Number(r.value) > 300
				? { unit: 'mS/cm', truth: Number(r.value) }
				: null,
};
export function slip(r: Row, fault: string): void {
	const done = SLIPS[fault]!(r);
	if (done && done.value !== r.value && Number(done.value ?? r.value) !== 0) Object.assign(r, done, { fault });
}

/** What a node does: noise with far values, a display of whole steps, and what befalls it. */
export interface Node {
	station: string;
	code: string;
	everyMin: number;
	steps: { ph: number; ec: number; temp: number };
	noise: { ph: number; ec: number };
}
type Befalls = 'stuck' | 'probe-in-air' | 'probe-in-storage' | 'spike';
export interface Happening {
	fault: Befalls;
	from: number;
	to: number;
	name: string;
}
/** Lines of a node at one time; `held` keeps what it showed when it began to hang. */
export function nodeLines(
	node: Node,
	water: Water,
	at: number,
	chance: Random,
	now: Happening | undefined,
	held: Map<string, string>,
): Row[] {
	const honest = {
		ph: shown(water.showsPh + node.noise.ph * heavy(chance), node.steps.ph),
		ec: shown(water.ec * (1 + node.noise.ec * heavy(chance)), node.steps.ec),
		temp: shown(water.tempC + 0.05 * chance.normal(), node.steps.temp),
	};
	if (now?.fault !== 'stuck') held.clear();
	const of = { fault: now?.fault ?? '', episode: now?.name ?? '' };
	const row = (quantity: 'ph' | 'ec' | 'temp', value: string, more: Partial<Row> = of) =>
		line(at, node.station, node.code, quantity, value, { ph: 'pH', ec: 'uS/cm', temp: 'C' }[quantity], more);
	switch (now?.fault) {
		case 'stuck': {
			for (const q of ['ph', 'ec', 'temp'] as const) if (!held.has(q)) held.set(q, honest[q]);
			// A node that hangs shows what it showed; a display that would not have moved is no harm.
			return (['ph', 'ec', 'temp'] as const).map((q) =>
				row(q, held.get(q)!, q === 'temp' ? { exempt: true } : { ...of, episode: `${now.name} ${q}` }),
			);
		}
		case 'probe-in-air':
			return [
				row('ph', shown(6.6 + 0.4 * chance.normal(), node.steps.ph)),
				row('ec', shown(Math.abs(6 * chance.normal()), Math.min(node.steps.ec, 1))),
				row('temp', honest.temp, { exempt: true }),
			];
		case 'probe-in-storage':
			// The pH probe alone is put into its cap or a buffer: the conductivity goes on.
			return [
				row('ph', shown(4.02 + 0.01 * chance.normal(), node.steps.ph)),
				row('ec', honest.ec, {}),
				row('temp', honest.temp, {}),
			];
		case 'spike':
			return [
				row('ph', shown(water.showsPh + chance.pick([-1, 1]) * chance.between(0.9, 2.5), node.steps.ph)),
				row('ec', honest.ec, {}),
				row('temp', honest.temp, {}),
			];
		default:
			return [row('ph', honest.ph), row('ec', honest.ec), row('temp', honest.temp)];
	}
}
/** Happenings at chance times, none over another. */
export function happenings(
	chance: Random,
	from: number,
	to: number,
	wanted: readonly { fault: Befalls; hours: readonly [number, number]; times: number }[],
	everyMin: number,
): Happening[] {
	const list: Happening[] = [];
	for (const { fault, hours, times } of wanted)
		for (let k = 0, tries = 0; k < times && tries < 200; tries++) {
			const begins = chance.between(from + 1.5 * DAY, to - DAY);
			const lasts = fault === 'spike' ? everyMin * MINUTE * 0.9 : chance.between(...hours) * HOUR;
			if (list.some((h) => begins < h.to + 3 * HOUR && begins + lasts > h.from - 3 * HOUR)) continue;
			list.push({ fault, from: begins, to: begins + lasts, name: `${fault} ${k}` });
			k++;
		}
	return list;
}

/**
 * What a node says of a water through some days.
 * @param of.tend what is done to the water before each line
 * @param of.mark what else is true of the lines of a time
 */
export function watch(
	node: Node,
	water: Water,
	of: {
		chance: Random;
		weather: Weather;
		start: number;
		days: number;
		befalls: readonly Happening[];
		tend: (at: number, sun: number) => void;
		mark?: (lines: Row[], at: number, befallen: Happening | undefined) => void;
	},
): Row[] {
	const [rows, held]: [Row[], Map<string, string>] = [[], new Map()];
	for (let at = of.start; at < of.start + of.days * DAY; at += node.everyMin * MINUTE) {
		const sun = of.weather.sun(at);
		water.pass(node.everyMin / 60, sun);
		of.tend(at, sun);
		const befallen = of.befalls.find((b) => at >= b.from && at < b.to);
		const lines = nodeLines(node, water, at, of.chance, befallen, held);
		of.mark?.(lines, at, befallen);
		rows.push(...lines);
	}
	return rows;
}
/** Lines of an EC that somebody moved and told nobody, for so long after; the other values move with it. */
export const untold =
	(poured: readonly number[], forMs: number) =>
	(lines: Row[], at: number, befallen: Happening | undefined): void => {
		const since = poured.findIndex((t) => at >= t && at < t + forMs);
		if (since < 0 || befallen) return;
		for (const l of lines)
			if (l.quantity === 'ec') Object.assign(l, { fault: 'unlogged-addition', episode: `poured ${since}` });
			else l.exempt = true;
	};
