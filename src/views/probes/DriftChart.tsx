import type { ApexOptions } from 'apexcharts';
import { lazy, Suspense, useMemo } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { useTheme } from '../ui/theme';
import type { Story } from './types';
import { amount, day } from './words';

const ApexChart = lazy(() => import('react-apexcharts'));
const LIMITS = { ph: [0.1, 0.2], ec: [3, 20] } as const;

/** As-found error at each calibration against time, with the limits it is judged by. */
export function DriftChart({ story, site }: { story: Story; site: SiteView }) {
	const theme = useTheme();
	const q = story.quantity;
	const { series, options, empty } = useMemo(() => {
		const used = story.calibrations.filter((c) => !c.withdrawn);
		const standards = [...new Set(used.flatMap((c) => c.points.map((p) => p.standard)))];
		const error = (p: { nominal: number; as_found: number | null }) =>
			p.as_found === null ? null : q === 'ph' ? p.as_found - p.nominal : (100 * (p.as_found - p.nominal)) / p.nominal;
		const series = standards.map((s) => ({
			name: s || 'standard',
			data: used.flatMap((c) =>
				c.points
					.filter((p) => p.standard === s)
					.flatMap((p) => {
						const e = error(p);
						return e === null ? [] : [{ x: Date.parse(c.time), y: Math.round(e * 1000) / 1000 }];
					}),
			),
		}));
		const [good, watch] = LIMITS[q];
		const biggest = Math.max(
			watch * (q === 'ph' ? 1.3 : 0.4),
			...series.flatMap((s) => s.data.map((d) => Math.abs(d.y) * 1.15)),
		);
		const hue = theme[`--q-${q}`] ?? '#000';
		const options: ApexOptions = {
			chart: {
				type: 'line',
				animations: { enabled: false },
				background: 'transparent',
				fontFamily: 'B612, sans-serif',
				foreColor: theme['--soft'] ?? '#555',
				toolbar: {
					show: true,
					tools: { download: true, zoom: false, zoomin: false, zoomout: false, pan: false, reset: false },
				},
			},
			colors: [hue, theme['--color-base-content'] ?? '#000', theme['--q-temp'] ?? '#a60'],
			stroke: { width: 1.4, dashArray: [0, 4, 2] },
			markers: { size: 4, strokeWidth: 0 },
			dataLabels: { enabled: false },
			legend: { show: standards.length > 1, position: 'top', horizontalAlign: 'left' },
			grid: { borderColor: theme['--color-base-300'] ?? '#ccc', padding: { left: 18, right: 12 } },
			xaxis: { type: 'datetime' },
			yaxis: {
				min: -biggest,
				max: biggest,
				tickAmount: 4,
				title: { text: q === 'ph' ? 'as found − standard, pH' : 'as found − standard, %', style: { fontWeight: 400 } },
				labels: {
					formatter: (v) => (q === 'ph' ? v.toFixed(2) : v.toFixed(1)).replace(/^-(0\.?0*)$/, '$1'),
					minWidth: 40,
				},
			},
			tooltip: { x: { formatter: (x) => day(x, site.timezone) }, y: { formatter: (y) => amount(q, y) } },
			annotations: {
				yaxis: [
					{ y: -good, y2: good, fillColor: theme['--zone'] ?? '#eee', opacity: 0.45, borderColor: 'transparent' },
					...[watch, -watch].map((y) => ({ y, borderColor: theme['--soft'] ?? '#888', strokeDashArray: 3 })),
				],
			},
		};
		return { series, options, empty: used.length === 0 };
	}, [story, theme, q, site]);
	if (empty)
		return (
			<p className="text-soft my-6">
				No calibration yet. The first one shows what the probe is worth today; the second, what its readings in between
				were.
			</p>
		);
	return (
		<figure
			aria-label={`As-found error of ${story.name} at ${story.calibrations.length} calibrations; the same numbers stand in the list of calibrations.`}
			data-chart="drift"
		>
			<Suspense fallback={<div style={{ height: 250 }} />}>
				{theme['--soft'] !== undefined && (
					<ApexChart key={theme['--soft']} type="line" height={250} options={options} series={series} />
				)}
			</Suspense>
		</figure>
	);
}
