import { wallTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import type { SeriesPoint } from '@/core/series/point';
import { standingOf } from '@/core/trust/standing';
import { hueOf, inUnit, lineName, lineUnit } from './line';
import { type DrawnLine, YEAR_MS } from './use-lines';

/** A line is not drawn across a silence of more than this many of its steps. */
const GAP = 6;
const DASHES = [0, 6, 2, 9];
/** Standard uncertainties to a side that hold 95 of 100. */
const SURE = 1.96;

interface XY {
	x: number;
	/** Of a band its lower and upper end. */
	y: number | [number, number] | null;
}
export interface Drawn {
	name: string;
	/** What its scale is in. */
	unit: string;
	hue: string;
	data: XY[];
	width: number;
	dash: number;
	marker: number;
	/** An area between two values and not a line. */
	band?: boolean;
	/** It may lie anywhere: no scale is made for it. */
	doubtful?: boolean;
}

const believed = (p: SeriesPoint): boolean => p.believed > 0;
const TRUSTED: readonly string[] = ['sound', 'restated'];

/** A sensor's line with its gaps as gaps, of what is believed, or of what is not. */
function course(
	points: readonly SeriesPoint[],
	stepMs: number,
	at: (p: SeriesPoint) => number,
	y: (p: SeriesPoint) => number | [number, number],
	which: (p: SeriesPoint) => boolean = believed,
): XY[] {
	const out: XY[] = [];
	let before: number | null = null;
	for (const p of points) {
		if (!which(p)) continue;
		if (before !== null && p.at - before > GAP * stepMs) out.push({ x: at(p) - 1, y: null });
		out.push({ x: at(p), y: y(p) });
		before = p.at;
	}
	return out;
}

/**
 * Everything that is drawn: for each line what its sensor tells, of one alone with a band and as it was read where it was put right; what
 * hands read, and the same weeks of last year. Pure: the same lines give the same chart.
 */
export function drawnSeries(
	lines: readonly DrawnLine[],
	lastYear: readonly DrawnLine[],
	site: SiteView,
	theme: Record<string, string>,
): Drawn[] {
	const all: Drawn[] = [];
	const dashOf = new Map<string, number>();
	for (const line of lines) {
		const { quantity } = line;
		const unit = lineUnit(quantity, site.units);
		const hue = hueOf(quantity, theme);
		const n = dashOf.get(hue) ?? 0;
		dashOf.set(hue, n + 1);
		const name = lineName(line, site);
		const at = (p: SeriesPoint) => wallTime(p.at, site.timezone);
		const y = (v: number) => inUnit(quantity, v, site);
		const add = (d: Partial<Drawn> & Pick<Drawn, 'name' | 'data'>) => {
			if (d.data.length > 0) all.push({ unit, hue, width: 1.6, dash: DASHES[n % DASHES.length]!, marker: 0, ...d });
		};
		if (lines.length === 1) {
			// What its samples differed by, and how far off each may be 95 times in 100.
			add({
				name: 'least to greatest, and how far off',
				band: true,
				data: course(line.sensor, line.stepMs, at, (p) => [y(p.low - SURE * p.u), y(p.high + SURE * p.u)]),
				width: 0,
				dash: 0,
			});
		}
		add({ name, data: course(line.sensor, line.stepMs, at, (p) => y(p.value)) });
		add({
			name: `${name}, doubtful`,
			data: course(
				line.sensor,
				line.stepMs,
				at,
				(p) => y(p.value),
				(p) => !believed(p),
			),
			width: 0.9,
			dash: 1,
			hue: theme['--color-warning'] ?? '#a60',
			doubtful: true,
		});
		if (lines.length === 1) {
			const righted = line.sensor.filter((p) => p.was !== null);
			add({ name: 'as it was read', data: course(righted, line.stepMs, at, (p) => y(p.was!)), width: 1, dash: 3 });
		}
		const hands = line.hands.filter((p) => TRUSTED.includes(standingOf({ ...p, restated: p.was })));
		const points = hands.map((p) => ({ x: at(p), y: y(p.value) }));
		// By hand alone it is a line; beside a sensor the points stand by themselves.
		add({
			name: line.sensor.length > 0 ? `${name}, by hand` : name,
			data: points,
			width: line.sensor.length > 0 ? 0 : 1.6,
			marker: 3.5,
		});
		const before = lastYear.find((l) => l.station === line.station && l.quantity === quantity);
		if (before) {
			const shifted = (p: SeriesPoint) => wallTime(p.at + YEAR_MS, site.timezone);
			const told =
				before.sensor.length > 0
					? course(before.sensor, before.stepMs, shifted, (p) => y(p.value))
					: before.hands.map((p) => ({ x: shifted(p), y: y(p.value) }));
			add({ name: `${name}, a year before`, data: told, width: 1, dash: 2, hue: theme['--soft'] ?? '#888' });
		}
	}
	return all;
}
