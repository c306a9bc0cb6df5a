import type { ApexOptions } from 'apexcharts';
import { type ComponentType, type ReactNode, Suspense, useMemo, useRef } from 'react';
import { lazily } from './later';
import { useTheme } from './theme';

/** What this page needs of a drawn chart. */
interface Drawn {
	dataURI: (o: { scale: number }) => Promise<{ imgURI?: string }>;
	resetSeries: (update: boolean, zoom: boolean) => void;
	el: HTMLElement;
}
const ApexChart = lazily(
	() => import('react-apexcharts') as Promise<{ default: ComponentType<Record<string, unknown>> }>,
);

const save = (name: string, href: string): void => {
	const link = Object.assign(document.createElement('a'), { href, download: name });
	link.click();
};

/** What every chart here has in common: our fonts and colours, no controls of its own. */
const common = (theme: Record<string, string>): ApexOptions => ({
	chart: {
		animations: { enabled: false },
		background: 'transparent',
		fontFamily: 'B612, sans-serif',
		foreColor: theme['--soft'] ?? '#555',
		toolbar: { show: false },
		zoom: { enabled: false },
	},
	dataLabels: { enabled: false },
	// Read at arm’s length.
	xaxis: { labels: { style: { fontSize: '13px' } } },
	yaxis: { labels: { style: { fontSize: '13px' } }, title: { style: { fontSize: '13px' } } },
	legend: { show: false },
	grid: { borderColor: theme['--color-base-300'] ?? '#ccc', padding: { left: 18, right: 12 } },
});
const isObject = (x: unknown): x is Record<string, unknown> => typeof x === 'object' && x !== null && !Array.isArray(x);
function merged<T>(a: T, b: T): T {
	if (!isObject(a) || !isObject(b)) return b === undefined ? a : b;
	const out: Record<string, unknown> = { ...a };
	for (const [k, v] of Object.entries(b)) out[k] = merged(out[k], v);
	return out as T;
}

/** A chart by the library, dressed as ours: its options on top of the common ones, and what can be done with it in words below. */
export function ApexFigure({
	name,
	label,
	type,
	height,
	options,
	series,
	drawnAnew,
	children,
}: {
	/** Of what is saved. */
	name: string;
	/** What a reader of the screen is told. */
	label: string;
	type: 'line' | 'rangeArea' | 'bar';
	height: number;
	options: ApexOptions;
	series: ApexOptions['series'];
	/** Another chart where this differs. */
	drawnAnew: string;
	/** Above the chart. */
	children?: ReactNode;
}) {
	const theme = useTheme();
	const chart = useRef<Drawn | null>(null);
	const whole = useMemo(
		() =>
			merged(merged(common(theme), options), {
				chart: {
					events: {
						mounted: (c: unknown) => {
							chart.current = c as Drawn;
						},
					},
				},
			}),
		[theme, options],
	);
	// Charts of one group hand one another what they are updated with: one of them that changes is drawn anew instead.
	const version = useRef({ options, series, n: 0 });
	if (options.chart?.group && (version.current.options !== options || version.current.series !== series))
		version.current = { options, series, n: version.current.n + 1 };
	const zooms = options.chart?.zoom?.enabled === true;
	const svg = () => {
		const drawn = chart.current?.el.querySelector('svg');
		if (drawn)
			save(`${name}.svg`, `data:image/svg+xml,${encodeURIComponent(new XMLSerializer().serializeToString(drawn))}`);
	};
	const png = async () => {
		const uri = (await chart.current?.dataURI({ scale: 2 }))?.imgURI;
		if (uri) save(`${name}.png`, uri);
	};
	const csv = () => {
		const rows = ((series ?? []) as { name?: string; data: { x: number; y: unknown }[] }[]).flatMap((s) =>
			s.data.map((d) => `${s.name ?? ''},${d.x},${Array.isArray(d.y) ? d.y.join(',') : (d.y ?? '')}`),
		);
		save(`${name}.csv`, `data:text/csv,${encodeURIComponent(['series,x,y,y2', ...rows].join('\r\n'))}`);
	};
	const act = 'underline cursor-pointer min-h-6 px-1 text-soft text-[0.85rem]';
	return (
		<figure aria-label={label} className="mb-1 relative" data-chart={name}>
			{children}
			<Suspense fallback={<svg className="block w-full" height={height} aria-hidden="true" />}>
				{theme['--soft'] !== undefined && (
					<ApexChart
						key={`${theme['--soft']}${drawnAnew}${version.current.n}`}
						type={type}
						height={height}
						options={whole}
						series={series}
					/>
				)}
			</Suspense>
			<figcaption
				className="sm:absolute sm:-top-3.5 sm:right-0 z-10 flex flex-wrap gap-2 justify-end no-print"
				data-chart-acts
			>
				{zooms && (
					<button type="button" className={act} onClick={() => chart.current?.resetSeries(true, true)}>
						whole time
					</button>
				)}
				<button type="button" className={act} onClick={png}>
					PNG
				</button>
				<button type="button" className={act} onClick={svg}>
					SVG
				</button>
				<button type="button" className={act} onClick={csv}>
					CSV
				</button>
			</figcaption>
		</figure>
	);
}
