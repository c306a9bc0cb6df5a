import { useCallback, useEffect, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { StoredEvent } from '@/contract/events';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { doneWords } from '@/words/en/event';
import { useChanges } from '../../data/changes';
import { type Held, unheld } from '../../data/held';
import { askAgain, useAsked, useFollowing } from '../../data/queries';
import { OpensEvent } from '../../entry/OpensButton';
import { dateTime } from '../../ui/format';
import { keysTaken } from '../../ui/typing';
import { darkness } from './darkness';
import { LinePicker } from './LinePicker';
import { LinesChart } from './LinesChart';
import { LinesTable } from './LinesTable';
import { knownLines, type Line, lineKey, linesFrom } from './line';
import { SpanBar } from './SpanBar';
import { useLines, YEAR_MS } from './use-lines';
import { useSpan } from './use-span';

const NONE: readonly StoredEvent[] = [];
const NO_LINES: readonly Line[] = [];
const HEIGHT = 430;
const LISTED = 8;

/** Any quantities of any stations together over one time: what sensors tell, what hands read, what was done. */
export function Lines({ site: held, lines: first, days }: { site: Held<SiteView>; lines: string; days: number }) {
	const site = unheld(held);
	useFollowing();
	const nodes = useAsked('GET /nodes', {}).data?.nodes;
	const known = useMemo(() => (nodes ? knownLines(site, nodes) : []), [nodes, site]);
	const [text, setText] = useState(first);
	// What nobody asked for begins with what the first sensor tells.
	const lines = useMemo(() => {
		const asked = linesFrom(text, known);
		const node = nodes?.[0];
		return asked.length > 0 || !node
			? asked
			: known.filter((l) => l.station === node.station && (l.quantity === 'ph' || l.quantity === 'ec'));
	}, [text, known, nodes]);
	const spans = useSpan(site.now, days);
	const { span } = spans;
	const [lastYear, setLastYear] = useState(false);
	const [table, setTable] = useState(false);
	const { drawn, pending, problem } = useLines(lines, span);
	const before = useLines(lastYear ? lines : NO_LINES, { from: span.from - YEAR_MS, to: span.to - YEAR_MS });
	const stations = useMemo(() => [...new Set(lines.map((l) => l.station))], [lines]);
	const logged = useAsked(
		'GET /events',
		{
			query: {
				...(stations.length === 1 ? { station: stations[0]! } : {}),
				from: formatTime(span.from),
				to: formatTime(span.to),
				limit: 200,
			},
		},
		stations.length > 0,
	);
	const events = useMemo(
		() => (logged.data?.events ?? NONE).filter((e) => stations.includes(e.station)),
		[logged.data, stations],
	);
	const dark = darkness(events, site, span).words;
	useChanges(
		useCallback(
			(c) => {
				if (c.station === null || stations.includes(c.station)) void askAgain();
			},
			[stations],
		),
		true,
	);
	const choose = (next: readonly Line[]) => setText(next.map(lineKey).join(','));
	useEffect(() => {
		const at = new URL(location.href);
		at.searchParams.set('part', 'lines');
		if (lines.length > 0) at.searchParams.set('lines', lines.map(lineKey).join(','));
		at.searchParams.set('days', String(Math.max(spans.days, 1)));
		history.replaceState(null, '', at);
	}, [lines, spans.days]);
	const moves: Record<string, () => void> = {
		ArrowLeft: spans.earlier,
		ArrowRight: spans.later,
		'+': spans.closer,
		'=': spans.closer,
		'-': spans.wider,
	};
	useHotkeys('*', (e) => moves[e.key]?.(), { ignoreEventWhen: (e) => keysTaken(e.target) });
	const empty = !pending && drawn.every((l) => l.sensor.length === 0 && l.hands.length === 0);
	return (
		<div>
			<h1 className="sr-only">Lines together</h1>
			<LinePicker lines={lines} known={known} site={site} onChange={choose} />
			<SpanBar spans={spans} lastYear={lastYear} onLastYear={setLastYear} table={table} onTable={setTable} />
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			{lines.length === 0 && nodes && (
				<p className="text-soft mt-4">
					{known.length > 0 ? (
						'Choose what to look at: a station and what was measured there.'
					) : (
						<>
							Nothing was measured here yet.{' '}
							<a className="underline" href="/bench">
								Take a reading
							</a>
							, or{' '}
							<a className="underline" href="/setup">
								put up a sensor node
							</a>
							.
						</>
					)}
				</p>
			)}
			{lines.length > 0 && empty && !problem && (
				<p className="text-soft mt-6">Nothing was measured in this time. Go earlier, or wider.</p>
			)}
			{table ? (
				<LinesTable lines={drawn} site={site} />
			) : (
				<LinesChart
					lines={drawn}
					lastYear={before.drawn}
					events={events}
					span={span}
					site={site}
					height={HEIGHT}
					onZoom={(from, to) => spans.show({ from, to })}
				/>
			)}
			{!table && lines.length > 0 && dark !== '' && <p className="text-[0.85rem] text-soft">{dark}</p>}
			{events.length > 0 && (
				<ul className="text-[0.85rem] text-soft flex flex-wrap gap-x-5" aria-label="Events">
					{events.slice(-LISTED).map((e) => (
						<li key={e.id}>
							<OpensEvent id={e.id}>{dateTime(Date.parse(e.time), site.timezone)}</OpensEvent> {doneWords(e)}
						</li>
					))}
				</ul>
			)}
		</div>
	);
}
