import type { ApexOptions } from 'apexcharts';
import { useMemo } from 'react';
import type { StoredEvent } from '@/contract/events';
import type { SiteView } from '@/core/reading/site-view';
import { ApexFigure } from '../../ui/ApexFigure';
import { useTheme } from '../../ui/theme';
import { drawnSeries } from './drawn-series';
import { lineName } from './line';
import { linesOptions } from './lines-options';
import type { DrawnLine } from './use-lines';
import type { Span } from './use-span';

/** Lines of any quantities and stations over one time. */
export function LinesChart({
	lines,
	lastYear,
	events,
	span,
	site,
	height,
	onZoom,
}: {
	lines: readonly DrawnLine[];
	lastYear: readonly DrawnLine[];
	events: readonly StoredEvent[];
	span: Span;
	site: SiteView;
	height: number;
	onZoom: (from: number, to: number) => void;
}) {
	const theme = useTheme();
	// biome-ignore lint/correctness/useExhaustiveDependencies: how it is zoomed follows what is drawn
	const { series, options } = useMemo(() => {
		const drawn = drawnSeries(lines, lastYear, site, theme);
		return {
			series: drawn.map(({ name, data }) => ({ name, data })),
			options: linesOptions(lines, drawn, events, span, site, theme, onZoom),
		};
	}, [lines, lastYear, events, span, site, theme]);
	if (series.length === 0) return null;
	const points = series.reduce((n, s) => n + s.data.length, 0);
	return (
		<div data-lines-points={points} data-doubts={lines.reduce((n, l) => n + l.doubts.length, 0)}>
			<ApexFigure
				name={lines.map((l) => `${l.station}-${l.quantity}`).join('_')}
				label={`${lines.map((l) => lineName(l, site)).join('; ')} over time, ${points} points; the same stands under “as a table”.`}
				type="line"
				height={height}
				options={options}
				series={series as ApexOptions['series']}
				drawnAnew={`${lines.map((l) => `${l.station}.${l.quantity}`).join()} ${span.from} ${span.to} ${points} ${events.length}`}
			/>
		</div>
	);
}
