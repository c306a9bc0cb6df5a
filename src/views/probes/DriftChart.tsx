import type { ApexOptions } from 'apexcharts';
import { useMemo, useState } from 'react';
import type { ProbeStory } from '@/contract/probes';
import { wallTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { ApexFigure } from '../ui/ApexFigure';
import { useTheme } from '../ui/theme';
import { amount, day } from './words';

const LIMITS = { ph: [0.1, 0.2], ec: [3, 20] } as const;

/** Colours of the marks of other probes. */
const OTHERS = ['--q-temp', '--q-ec', '--q-ph', '--soft'] as const;
const fine = (y: number) => Math.round(y * 1000) / 1000;
type Drawn =
	| { name: string; type: 'line'; data: { x: number; y: number }[] }
	| { name: string; type: 'rangeArea'; data: { x: number; y: number[] }[] };

type Measure = 'error' | 'slope' | 'offset' | 'response';
const MEASURES: readonly (readonly [Measure, string])[] = [
	['error', 'error'],
	['slope', 'slope %'],
	['offset', 'offset'],
	['response', 'response time'],
];

/** A probe's calibrations against time: error as found with the limits it is judged by, slope, offset or response time. */
export function DriftChart({ story, site }: { story: ProbeStory; site: SiteView }) {
	const theme = useTheme();
	const q = story.quantity;
	const [measure, setMeasure] = useState<Measure>('error');
	const { series, options, empty } = useMemo(() => {
		const used = story.calibrations.filter((c) => !c.withdrawn);
		const standards = [...new Set(used.flatMap((c) => c.points.map((p) => p.standard)))];
		const error = (p: { nominal: number; as_found: number | null }) =>
			p.as_found === null ? null : q === 'ph' ? p.as_found - p.nominal : (100 * (p.as_found - p.nominal)) / p.nominal;
		const at = (time: string, y: number | null) =>
			y === null ? [] : [{ x: wallTime(Date.parse(time), site.timezone), y: fine(y) }];
		const single = { slope: 'slope_pct', offset: 'offset', response: 'settle_s' } as const;
		const others = [...new Set(story.met.map((m) => m.other))];
		const series: Drawn[] =
			measure === 'error'
				? [
						{
							name: '95 % sure within',
							type: 'rangeArea',
							data: story.curve.map((p) => ({
								x: wallTime(Date.parse(p.time), site.timezone),
								y: [fine(p.error - 1.96 * p.u), fine(p.error + 1.96 * p.u)],
							})),
						},
						{
							name: 'probably',
							type: 'line',
							data: story.curve.map((p) => ({ x: wallTime(Date.parse(p.time), site.timezone), y: fine(p.error) })),
						},
						...standards.map((s) => ({
							name: `found in ${s || 'a standard'}`,
							type: 'line' as const,
							data: used.flatMap((c) => c.points.filter((p) => p.standard === s).flatMap((p) => at(c.time, error(p)))),
						})),
						...others.map((o) => ({
							name: `beside ${o}`,
							type: 'line' as const,
							data: story.met.filter((m) => m.other === o && m.weight > 0).flatMap((m) => at(m.time, m.error)),
						})),
					]
				: [{ name: measure, type: 'line' as const, data: used.flatMap((c) => at(c.time, c[single[measure]])) }];
		const [good, watch] = LIMITS[q];
		const values = series.flatMap((s) => (s.type === 'line' ? s.data.map((d) => d.y) : []));
		const biggest = Math.max(watch * (q === 'ph' ? 1.3 : 0.4), ...values.map((y) => Math.abs(y) * 1.15));
		const hue = theme[`--q-${q}`] ?? '#000';
		const options: ApexOptions = {
			colors:
				measure === 'error'
					? [
							hue,
							hue,
							...standards.map(() => theme['--color-base-content'] ?? '#000'),
							...others.map((_, i) => theme[OTHERS[i % OTHERS.length]!] ?? '#a60'),
						]
					: [hue],
			// A band, a line, and marks that nothing joins: what was found in standards, and beside other probes.
			fill: { opacity: series.map((s) => (s.type === 'rangeArea' ? 0.22 : 1)) },
			stroke: { width: measure === 'error' ? series.map((_, i) => (i === 1 ? 1.8 : 0)) : 1.4, curve: 'straight' },
			markers: {
				size: measure === 'error' ? series.map((_, i) => (i < 2 ? 0 : i < 2 + standards.length ? 6 : 3)) : 4,
				shape: series.map((_, i) => (i < 2 + standards.length ? 'square' : 'circle')),
				strokeWidth: 0,
			},
			legend: { show: measure === 'error', position: 'top', horizontalAlign: 'left' },
			// By the clock on the site’s wall.
			xaxis: { type: 'datetime', labels: { datetimeUTC: true } },
			yaxis: {
				...(measure === 'error'
					? { min: -biggest, max: biggest }
					: measure === 'slope'
						? { min: Math.min(80, ...values), max: Math.max(106, ...values) }
						: {}),
				tickAmount: 4,
				title: {
					text:
						measure === 'error'
							? q === 'ph'
								? 'shown − true, pH'
								: 'shown − true, %'
							: measure === 'slope'
								? 'slope, %'
								: measure === 'offset'
									? q === 'ph'
										? 'offset, pH'
										: 'offset, µS/cm'
									: 'settled after, s',
					style: { fontWeight: 400 },
				},
				labels: {
					formatter: (v) =>
						(q === 'ph' && (measure === 'error' || measure === 'offset')
							? v.toFixed(2)
							: v.toFixed(measure === 'error' ? 1 : 0)
						).replace(/^-(0\.?0*)$/, '$1'),
					minWidth: 40,
				},
			},
			tooltip: {
				x: { formatter: (x) => day(x, 'UTC') },
				y: { formatter: (y) => (measure === 'error' ? amount(q, y) : String(y)) },
			},
			annotations: {
				yaxis:
					measure === 'error'
						? [
								{ y: -good, y2: good, fillColor: theme['--zone'] ?? '#eee', opacity: 0.45, borderColor: 'transparent' },
								...[watch, -watch].map((y) => ({ y, borderColor: theme['--soft'] ?? '#888', strokeDashArray: 3 })),
							]
						: measure === 'slope'
							? [
									{ y: 95, y2: 102, fillColor: theme['--zone'] ?? '#eee', opacity: 0.45, borderColor: 'transparent' },
									{
										y: 85,
										borderColor: theme['--color-error'] ?? '#a00',
										strokeDashArray: 3,
										label: {
											text: 'end of life',
											borderColor: 'transparent',
											style: { background: 'transparent', color: theme['--color-error'] ?? '#a00' },
										},
									},
								]
							: [],
			},
		};
		return { series, options, empty: used.length === 0 };
	}, [story, theme, q, site, measure]);
	if (empty)
		return (
			<p className="text-soft my-6">
				No calibration yet. The first one shows what the probe is worth today; the second, what its readings in between
				were.
			</p>
		);
	return (
		<ApexFigure
			name="drift"
			label={`As-found error of ${story.name} at ${story.calibrations.length} calibrations; the same numbers stand in the list of calibrations.`}
			type={measure === 'error' ? 'rangeArea' : 'line'}
			height={280}
			options={options}
			series={series}
			drawnAnew={measure}
		>
			<fieldset className="flex flex-wrap gap-1" aria-label="What the chart shows">
				{MEASURES.map(([m, words]) => (
					<button
						key={m}
						type="button"
						aria-pressed={measure === m}
						className={`px-2 py-1 border-b-2 cursor-pointer text-[0.9rem] ${measure === m ? 'border-base-content font-bold' : 'border-transparent text-soft'}`}
						onClick={() => setMeasure(m)}
					>
						{words}
					</button>
				))}
			</fieldset>
		</ApexFigure>
	);
}
