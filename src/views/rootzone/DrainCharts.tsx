import type { ApexOptions } from 'apexcharts';
import { useMemo } from 'react';
import type { Drains } from '@/contract/drains';
import { wallTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { useAsked } from '../data/queries';
import { inDisplay } from '../trends/in-display';
import { ApexFigure } from '../ui/ApexFigure';
import { displayUnit, unitLabel } from '../ui/format';
import { useTheme } from '../ui/theme';

type Quantity = 'ec' | 'ph';

/** Feed and drain on one axis with the band that is allowed above the feed, the share that ran off, and pH of both. */
export function DrainCharts({ drains: d, site }: { drains: Drains; site: SiteView }) {
	if (d.samples.length < 2)
		return <p className="text-soft my-4">Two samples of drain and feed draw a line here: there is not yet so much.</p>;
	return (
		<>
			<Both drains={d} site={site} quantity="ec" height={240} />
			{d.samples.some((s) => s.balance) && <RanOff drains={d} site={site} />}
			{d.samples.some((s) => s.drain_ph) && <Both drains={d} site={site} quantity="ph" height={170} />}
		</>
	);
}

const axis = (d: Drains, site: SiteView): ApexOptions['xaxis'] => ({
	type: 'datetime',
	min: wallTime(Date.parse(d.samples[0]!.time), site.timezone) - 43_200_000,
	max: wallTime(Date.parse(d.samples.at(-1)!.time), site.timezone) + 43_200_000,
	labels: { datetimeUTC: true },
});

function Both({
	drains: d,
	site,
	quantity,
	height,
}: {
	drains: Drains;
	site: SiteView;
	quantity: Quantity;
	height: number;
}) {
	const theme = useTheme();
	const hue = theme[`--q-${quantity}`] ?? '#000';
	const ink = theme['--color-base-content'] ?? '#000';
	const logged = useAsked(
		'GET /events',
		{ query: { station: d.feed_station ?? '', kind: 'solution_changed', from: d.samples[0]!.time } },
		d.feed_station !== null && quantity === 'ec',
	).data;
	const changes = useMemo(() => logged?.events ?? [], [logged]);
	const { series, options } = useMemo(() => {
		const wall = (time: string) => wallTime(Date.parse(time), site.timezone);
		const v = (x: number) => Number(inDisplay(quantity, x, site).toFixed(3));
		const points = d.samples.map((s) => ({
			x: wall(s.time),
			feed: quantity === 'ec' ? s.feed.value : (s.feed_ph?.value ?? null),
			drain: quantity === 'ec' ? s.drain.value : (s.drain_ph?.value ?? null),
		}));
		const line = (of: 'feed' | 'drain') => points.map((p) => ({ x: p.x, y: p[of] === null ? null : v(p[of]!) }));
		const series = [
			...(quantity === 'ec'
				? [
						{
							name: 'allowed',
							type: 'rangeArea',
							data: points.map((p) => ({ x: p.x, y: [v(p.feed!), v(p.feed! + d.watch_us_cm)] })),
						},
						{
							name: 'watched',
							type: 'rangeArea',
							data: points.map((p) => ({ x: p.x, y: [v(p.feed! + d.watch_us_cm), v(p.feed! + d.act_us_cm)] })),
						},
					]
				: []),
			{ name: 'feed', type: 'line', data: line('feed') },
			{ name: 'drain', type: 'line', data: line('drain') },
		];
		const seen = points.flatMap((p) => [p.feed, p.drain].flatMap((x) => (x === null ? [] : [v(x)])));
		const step = quantity === 'ec' ? v(200) : 0.4;
		const bands = quantity === 'ec' ? 2 : 0;
		const fill = <T,>(band: T, own: T[]): T[] => [...Array<T>(bands).fill(band), ...own];
		const unit = displayUnit(quantity, site.units);
		const options: ApexOptions = {
			colors: [...(bands ? [hue, theme['--color-warning'] ?? '#a60'] : []), ink, hue],
			fill: { type: 'solid', opacity: [...(bands ? [0.16, 0.16] : []), 1, 1] },
			stroke: { width: fill(0, [1.4, 2.2]), dashArray: fill(0, [4, 0]), curve: 'straight' },
			markers: { size: fill(0, [0, 4]), strokeWidth: 0 },
			xaxis: axis(d, site)!,
			yaxis: {
				min: Math.floor(Math.min(...seen) / step - 0.5) * step,
				max:
					Math.ceil(Math.max(...seen, ...(bands ? [v(points.at(-1)!.feed! + d.act_us_cm)] : [])) / step + 0.5) * step,
				tickAmount: 4,
				title: {
					text: `${quantity === 'ec' ? 'EC' : 'pH'}${unit ? ` ${unitLabel(unit)}` : ''}`,
					style: { fontWeight: 400 },
				},
				labels: { formatter: (x) => x.toFixed(quantity === 'ec' ? 2 : 1), minWidth: 42 },
			},
			tooltip: { shared: false, intersect: false, x: { format: 'd MMM HH:mm' } },
			annotations: {
				xaxis: changes.map((e) => ({
					x: wall(e.time),
					borderColor: theme['--soft'] ?? '#888',
					strokeDashArray: 2,
					label: {
						text: 'C',
						orientation: 'horizontal',
						position: 'bottom',
						borderColor: 'transparent',
						style: { background: theme['--color-base-100'] ?? '#fff', color: ink, fontSize: '10px' },
					},
				})),
			},
		};
		return { series, options };
	}, [d, site, quantity, theme, hue, ink, changes]);
	const name = quantity === 'ec' ? 'EC' : 'pH';
	return (
		<ApexFigure
			name={`drain-${quantity}`}
			label={`${name} of feed and drain over time, ${d.samples.length} samples; days and weeks stand in the table below.`}
			type="rangeArea"
			height={height}
			options={options}
			series={series as ApexOptions['series']}
			drawnAnew={hue}
		>
			<p className="text-[0.85rem] text-soft" aria-hidden="true">
				<span className="text-base-content">┄ feed</span> · <strong data-hue={quantity}>● drain</strong>
				{quantity === 'ec' && ' · band: allowed, and watched, above the feed · C: a new feed'}
			</p>
		</ApexFigure>
	);
}

/** Percent of what was given that ran off, a column a sample, with what is aimed at. */
function RanOff({ drains: d, site }: { drains: Drains; site: SiteView }) {
	const theme = useTheme();
	const hue = theme['--q-ec'] ?? '#000';
	const { series, options } = useMemo(() => {
		const data = d.samples.flatMap((s) =>
			s.balance
				? [
						{
							x: wallTime(Date.parse(s.time), site.timezone),
							y: Math.round(100 * s.balance.leaching_fraction.value),
						},
					]
				: [],
		);
		const most = Math.max(d.drain_pct[1] + 5, ...data.map((p) => p.y));
		const options: ApexOptions = {
			colors: [hue],
			fill: { opacity: 0.55 },
			plotOptions: { bar: { columnWidth: '60%' } },
			xaxis: axis(d, site)!,
			yaxis: {
				min: 0,
				max: Math.ceil(most / 10) * 10,
				tickAmount: 2,
				title: { text: 'ran off %', style: { fontWeight: 400 } },
				labels: { formatter: (x) => x.toFixed(0), minWidth: 42 },
			},
			annotations: {
				yaxis: [
					{
						y: d.drain_pct[0],
						y2: d.drain_pct[1],
						fillColor: theme['--zone'] ?? '#eee',
						opacity: 0.4,
						borderColor: 'transparent',
					},
				],
			},
		};
		return { series: [{ name: 'ran off', data }], options };
	}, [d, site, theme, hue]);
	return (
		<ApexFigure
			name="drain-share"
			label={`Percent of what was given that ran off; ${d.drain_pct[0]} to ${d.drain_pct[1]} are aimed at.`}
			type="bar"
			height={120}
			options={options}
			series={series}
			drawnAnew={hue}
		/>
	);
}
