import type { ApexOptions } from 'apexcharts';
import { useMemo } from 'react';
import type { StoredEvent } from '@/contract/events';
import { QUANTITY, type Quantity } from '@/core/quantity';
import { wallTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import type { SeriesPoint as Point } from '@/core/series/point';
import { standingOf } from '@/core/trust/standing';
import { openReading } from '../entry/opens';
import { ApexFigure } from '../ui/ApexFigure';
import { dateTime, displayUnit, shown, unitLabel } from '../ui/format';
import { useTheme } from '../ui/theme';
import { eventMarks } from './event-marks';
import { inDisplay } from './in-display';

/** A line is not drawn across a silence of more than this many usual gaps. */
const GAP = 6;
const TRUSTED: readonly string[] = ['sound', 'restated'];

export function SeriesChart({
	quantity,
	points,
	range,
	stages,
	events,
	from,
	to,
	site,
}: {
	quantity: Quantity;
	points: readonly Point[];
	range: { low: number; high: number } | null;
	/** The range of each stage of the season, in its time; empty where there is no plan. */
	stages: readonly { from: number; to: number; low: number; high: number }[];
	events: readonly StoredEvent[];
	from: number;
	to: number;
	site: SiteView;
}) {
	const theme = useTheme();
	const hue = theme[`--q-${quantity}`] ?? '#000';
	const { series, options } = useMemo(() => {
		const v = (x: number) => inDisplay(quantity, x, site);
		// Days on the axis are the site’s: drawn by the clock on its wall.
		const wall = (at: number) => wallTime(at, site.timezone);
		const trusted = points.filter((p) => TRUSTED.includes(standingOf({ ...p, restated: p.was })));
		const gaps = points
			.slice(1)
			.map((p, i) => p.at - points[i]!.at)
			.sort((a, b) => a - b);
		const usual = gaps[gaps.length >> 1] ?? 0;
		const line: { x: number; y: number | null }[] = [];
		const band: { x: number; y: [number | null, number | null] }[] = [];
		for (const [i, p] of trusted.entries()) {
			const before = trusted[i - 1];
			if (before && p.at - before.at > Math.max(GAP * usual, 3 * 86_400_000)) {
				line.push({ x: wall(before.at) + 1, y: null });
				band.push({ x: wall(before.at) + 1, y: [null, null] });
			}
			line.push({ x: wall(p.at), y: v(p.value) });
			band.push({ x: wall(p.at), y: [v(p.low - 1.96 * p.u), v(p.high + 1.96 * p.u)] });
		}
		const doubtful = points.filter((p) => ['doubtful', 'bad'].includes(standingOf({ ...p, restated: p.was })));
		const believable = trusted
			.flatMap((p) => [v(p.low - 1.96 * p.u), v(p.high + 1.96 * p.u)])
			.concat([...(range ? [range] : []), ...stages].flatMap((r) => [v(r.low), v(r.high)]));
		const season = stages.flatMap((s) =>
			[s.from, s.to].map((at) => ({ x: wall(at), y: [v(s.low), v(s.high)] as [number, number] })),
		);
		const all = believable.length > 0 ? believable : doubtful.map((p) => v(p.value));
		const [lowest, highest] = [Math.min(...all), Math.max(...all)];
		const room = (highest - lowest) * 0.08 || 0.5;
		const [min, max] = [lowest - room, highest + room];
		// A doubtful value far off the others is drawn at the edge: its place is in the table.
		const clip = (x: number) => Math.min(Math.max(x, min + room * 0.2), max - room * 0.2);
		const unit = displayUnit(quantity, site.units);
		const options: ApexOptions = {
			chart: {
				group: 'trends',
				id: `trend-${quantity}`,
				zoom: { enabled: true, autoScaleYaxis: false },
				events: {
					markerClick: (_, __, at?: { seriesIndex: number; dataPointIndex: number }) => {
						if (!at) return;
						const x =
							at.seriesIndex === 1
								? line[at.dataPointIndex]?.x
								: doubtful[at.dataPointIndex] && wall(doubtful[at.dataPointIndex]!.at);
						const p = points.find((q) => wall(q.at) === x);
						if (p?.id != null) openReading(p.id);
					},
				},
			},
			colors: [hue, hue, theme['--color-warning'] ?? '#a60', theme['--zone'] ?? '#eee'],
			fill: { type: 'solid', opacity: [0.18, 1, 1, 0.4] },
			stroke: { width: [0, 1.6, 0, 0], curve: 'straight' },
			markers: {
				size: [0, 2.5, 6, 0],
				shape: ['circle', 'circle', 'square', 'circle'],
				strokeWidth: [0, 0, 2, 0],
				strokeColors: theme['--color-warning'] ?? '#a60',
				fillOpacity: [1, 1, 0.15],
				hover: { sizeOffset: 2 },
			},
			grid: { padding: { top: -12, bottom: -6 } },
			xaxis: {
				type: 'datetime',
				min: wall(from),
				max: wall(to),
				labels: { datetimeUTC: true },
				axisBorder: { color: theme['--color-base-300'] ?? '#ccc' },
			},
			yaxis: {
				min,
				max,
				tickAmount: 4,
				title: {
					text: `${QUANTITY[quantity].name}${unit ? ` ${unitLabel(unit)}` : ''}`,
					offsetX: 4,
					style: { fontWeight: 400 },
				},
				labels: { formatter: (x) => x.toFixed(quantity === 'temp' && max - min >= 4 ? 0 : 1), minWidth: 40 },
			},
			tooltip: {
				shared: false,
				intersect: false,
				custom: ({ seriesIndex, dataPointIndex }: { seriesIndex: number; dataPointIndex: number }) => {
					const at =
						seriesIndex === 0
							? band[dataPointIndex]?.x
							: seriesIndex === 1
								? line[dataPointIndex]?.x
								: seriesIndex === 2 && doubtful[dataPointIndex]
									? wall(doubtful[dataPointIndex].at)
									: undefined;
					const p = points.find((q) => wall(q.at) === at);
					if (!p) return '';
					const box = document.createElement('div');
					box.textContent = `${dateTime(p.at, site.timezone)}: ${shown(quantity, p.value, site.units)} ± ${shown(quantity, 1.96 * p.u, site.units)}${p.count > 1 ? `, mean of ${p.count}` : ''} · ${standingOf({ ...p, restated: p.was })}${p.was == null ? '' : `, read as ${shown(quantity, p.was, site.units)}`}${p.message ? ` · ${p.message}` : ''}`;
					return `<div style="padding:6px 8px;max-width:320px;white-space:normal">${box.innerHTML}</div>`;
				},
			},
			annotations: {
				// A plan has a range for each of its stages.
				yaxis:
					range && stages.length === 0
						? [
								{
									y: v(range.low),
									y2: v(range.high),
									fillColor: theme['--zone'] ?? '#eee',
									opacity: 0.32,
									borderColor: 'transparent',
								},
							]
						: [],
				xaxis: eventMarks(events, site.timezone, theme),
			},
		};
		return {
			series: [
				{ name: 'uncertainty', type: 'rangeArea', data: band },
				{ name: QUANTITY[quantity].name, type: 'line', data: line },
				{ name: 'doubtful', type: 'line', data: doubtful.map((p) => ({ x: wall(p.at), y: clip(v(p.value)) })) },
				...(season.length > 0 ? [{ name: 'range of the stage', type: 'rangeArea', data: season }] : []),
			],
			options,
		};
	}, [points, range, stages, events, quantity, site, theme, hue, from, to]);
	return (
		<ApexFigure
			name={quantity}
			label={`${QUANTITY[quantity].name} over time, ${points.length} points; the same data stands under “as a table”.`}
			type="rangeArea"
			height={182}
			options={options}
			series={series as ApexOptions['series']}
			drawnAnew={hue}
		/>
	);
}
