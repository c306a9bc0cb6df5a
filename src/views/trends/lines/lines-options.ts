import type { ApexOptions } from 'apexcharts';
import type { StoredEvent } from '@/contract/events';
import type { Quantity } from '@/core/quantity';
import { wallTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { causeWords } from '@/words/en/cause';
import { eventMarks } from '../event-marks';
import { darkness } from './darkness';
import type { Drawn } from './drawn-series';
import { hueOf, inUnit, lineUnit } from './line';
import type { DrawnLine } from './use-lines';

/** The ends of each scale: all that is drawn on it, and the target ranges that lie near. */
function scaleOf(unit: string, series: readonly Drawn[], ranges: readonly { low: number; high: number }[]): Scale {
	const of = (some: readonly Drawn[]) => some.flatMap((s) => s.data.flatMap((d): number | number[] => d.y ?? []));
	const here = series.filter((s) => s.unit === unit);
	const sound = of(here.filter((s) => !s.doubtful));
	const doubted = of(here.filter((s) => s.doubtful));
	// A few are off the scale; where most of a line is doubtful it is what there is to see.
	const own = doubted.length > MANY_DOUBTED * sound.length ? [...sound, ...doubted] : sound;
	let [low, high] = [Infinity, -Infinity];
	for (const v of own) {
		if (v < low) low = v;
		if (v > high) high = v;
	}
	for (const r of ranges) {
		const width = Math.max(high - low, r.high - r.low);
		if (r.low > low - width) low = Math.min(low, r.low);
		if (r.high < high + width) high = Math.max(high, r.high);
	}
	const room = (high - low) * 0.04 || Math.max(Math.abs(high) * 0.05, 0.1);
	// What is never below nothing has no scale there.
	return roundEnds(low >= 0 ? Math.max(low - room, 0) : low - room, high + room);
}

/** With more doubtful points than this share of the others a scale is made for them too. */
const MANY_DOUBTED = 0.4;
/** A scale has about so many steps. */
const STEPS = 5;

/** Ends and step of a scale in numbers that people read: steps of 1, 2, 2.5 or 5 times a power of ten. */
export function roundEnds(low: number, high: number): Scale {
	const rough = (high - low) / STEPS;
	const power = 10 ** Math.floor(Math.log10(rough));
	const step = power * ([1, 2, 2.5, 5, 10].find((n) => n * power >= rough) ?? 10);
	const [min, max] = [Math.floor(low / step) * step, Math.ceil(high / step) * step];
	return {
		min,
		max,
		ticks: Math.round((max - min) / step),
		decimals: Math.max(0, Math.ceil(-Math.log10(step) - 1e-9) + (step / power === 2.5 ? 1 : 0)),
	};
}
interface Scale {
	min: number;
	max: number;
	ticks: number;
	decimals: number;
}

export function linesOptions(
	lines: readonly DrawnLine[],
	drawn: readonly Drawn[],
	events: readonly StoredEvent[],
	{ from, to }: { from: number; to: number },
	site: SiteView,
	theme: Record<string, string>,
	onZoom: (from: number, to: number) => void,
): ApexOptions {
	const wall = (at: number) => wallTime(at, site.timezone);
	const units = [...new Set(drawn.map((d) => d.unit))];
	const rangeOf = (l: DrawnLine) => {
		const r = site.stations.find((s) => s.info.code === l.station)?.info.ranges[l.quantity as Quantity];
		return r ? { low: inUnit(l.quantity, r.low, site), high: inUnit(l.quantity, r.high, site) } : null;
	};
	const axes = units.map((unit) => {
		const on = lines.filter((l) => lineUnit(l.quantity, site.units) === unit);
		const scale = scaleOf(
			unit,
			drawn,
			on.flatMap((l) => rangeOf(l) ?? []),
		);
		return { unit, ...scale, hue: hueOf(on[0]!.quantity, theme) };
	});
	return {
		chart: {
			id: 'lines',
			zoom: { enabled: true, type: 'x', autoScaleYaxis: false },
			events: {
				// What is looked at closer is asked for anew, in its own resolution.
				beforeZoom: (_: unknown, { xaxis }: { xaxis: { min?: number; max?: number } }) => {
					const instant = (w: number) => w - (wall(w) - w);
					if (xaxis.min !== undefined && xaxis.max !== undefined) onZoom(instant(xaxis.min), instant(xaxis.max));
					return { xaxis: { min: wall(from), max: wall(to) } };
				},
			},
		},
		colors: drawn.map((d) => d.hue),
		fill: { opacity: drawn.map((d) => (d.band ? 0.18 : 1)) },
		stroke: { width: drawn.map((d) => d.width), dashArray: drawn.map((d) => d.dash), curve: 'straight' },
		markers: { size: drawn.map((d) => d.marker), strokeWidth: 0, hover: { sizeOffset: 2 } },
		grid: { padding: { top: -8, bottom: 0 } },
		xaxis: {
			type: 'datetime',
			min: wall(from),
			max: wall(to),
			labels: { datetimeUTC: true },
			axisBorder: { color: theme['--color-base-300'] ?? '#ccc' },
		},
		yaxis: axes.map(({ unit, min, max, ticks, decimals, hue }, i) => ({
			seriesName: drawn.filter((d) => d.unit === unit).map((d) => d.name),
			opposite: i > 0,
			min,
			max,
			tickAmount: ticks,
			title: { text: unit || 'pH', style: { color: hue, fontWeight: 400 } },
			labels: {
				style: { colors: hue },
				minWidth: 38,
				formatter: (x: number) => (x == null ? '' : x.toFixed(decimals)),
			},
		})),
		tooltip: {
			shared: true,
			intersect: false,
			x: { format: 'd MMM HH:mm' },
			y: { formatter: (v) => (v == null ? '–' : String(Number(v.toPrecision(4)))) },
		},
		annotations: {
			// Each range on its own scale; of several each in the colour of its line.
			yaxis: lines.flatMap((l) => {
				const range = rangeOf(l);
				if (!range) return [];
				const alone = lines.length === 1;
				return [
					{
						y: range.low,
						y2: range.high,
						yAxisIndex: units.indexOf(lineUnit(l.quantity, site.units)),
						fillColor: alone ? (theme['--zone'] ?? '#eee') : hueOf(l.quantity, theme),
						opacity: alone ? 0.32 : 0.07,
						borderColor: 'transparent',
					},
				];
			}),
			xaxis: [
				...darkness(events, site, { from, to }).stretches.map(([a, b]) => ({
					x: wall(a),
					x2: wall(b),
					fillColor: theme['--soft'] ?? '#888',
					opacity: 0.07,
					borderColor: 'transparent',
				})),
				...lines.flatMap((l) =>
					l.doubts.filter((d) => d.decision !== 'keep').map((d) => doubtMark(d, l, { from, to }, wall, theme)),
				),
				...eventMarks(events, site.timezone, theme),
			],
		},
	};
}

/** A doubtful stretch, at least wide enough to be seen, with its cause in words where there is room. */
function doubtMark(
	d: DrawnLine['doubts'][number],
	l: DrawnLine,
	{ from, to }: { from: number; to: number },
	wall: (at: number) => number,
	theme: Record<string, string>,
) {
	const least = (to - from) / 400;
	const [a, b] = [Math.max(d.since - least / 2, from), Math.min(Math.max(d.until, d.since + least / 2), to)];
	const room = (b - a) / (to - from) > 0.06;
	return {
		x: wall(a),
		x2: wall(b),
		fillColor: theme['--color-warning'] ?? '#a60',
		opacity: d.decision === 'discard' ? 0.06 : room ? 0.1 : 0.2,
		borderColor: 'transparent',
		label: {
			text: room ? causeWords(d.cause) : '◐',
			orientation: 'horizontal',
			textAnchor: room ? 'start' : 'middle',
			offsetX: room ? 4 : 0,
			borderColor: 'transparent',
			style: { background: 'transparent', color: hueOf(l.quantity, theme), fontSize: '11px' },
		},
	};
}
