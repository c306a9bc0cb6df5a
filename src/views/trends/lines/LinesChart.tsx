import type { ApexOptions } from 'apexcharts';
import { useCallback, useMemo, useRef } from 'react';
import type { StoredEvent } from '@/contract/events';
import type { SiteView } from '@/core/reading/site-view';
import { ApexFigure } from '../../ui/ApexFigure';
import { useTheme } from '../../ui/theme';
import { drawnSeries } from './drawn-series';
import { lineName } from './line';
import { linesOptions } from './lines-options';
import type { DrawnLine } from './use-lines';
import { usePinch } from './use-pinch';
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
	const { series, options, banded } = useMemo(() => {
		const drawn = drawnSeries(lines, lastYear, site, theme);
		const banded = drawn.some((d) => d.band);
		return {
			series: drawn.map(({ name, data, band }) => ({
				name,
				data,
				...(banded ? { type: band ? 'rangeArea' : 'line' } : {}),
			})),
			banded,
			options: linesOptions(lines, drawn, events, span, site, theme, onZoom),
		};
	}, [lines, lastYear, events, span, site, theme]);
	const box = useRef<HTMLDivElement>(null);
	const width = span.to - span.from;
	const pinch = useCallback(
		(from: number, to: number) => onZoom(span.from + from * width, span.from + to * width),
		[onZoom, span.from, width],
	);
	usePinch(box, pinch);
	const points = series.reduce((n, s) => n + s.data.length, 0);
	return (
		<div
			ref={box}
			className="overflow-x-clip touch-pan-y"
			data-lines-points={points}
			data-doubts={lines.reduce((n, l) => n + l.doubts.length, 0)}
		>
			{series.length > 0 && (
				<ApexFigure
					name={lines.map((l) => `${l.station}-${l.quantity}`).join('_')}
					label={`${lines.map((l) => lineName(l, site)).join('; ')} over time, ${points} points; the same stands under “as a table”.`}
					type={banded ? 'rangeArea' : 'line'}
					height={height}
					options={options}
					series={series as ApexOptions['series']}
					drawnAnew={`${lines.map((l) => `${l.station}.${l.quantity}`).join()} ${span.from} ${span.to} ${points} ${events.length}`}
				/>
			)}
		</div>
	);
}
