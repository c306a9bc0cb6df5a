import { useCallback, useEffect, useRef, useState } from 'react';
import type { Change } from '@/contract/meters';
import type { StoredReading } from '@/contract/readings';
import type { SiteView } from '@/core/reading/site-view';
import { useChanges } from '../bench/JustIn';
import { type Held, unheld } from '../data/held';
import { Decide } from '../entry/Decide';
import { PAGE } from '../entry/sample';
import { ago, longDate } from '../ui/format';
import { isAtControl } from '../ui/typing';
import { RoundStart } from './RoundStart';
import { type RoundRow, StationRow } from './StationRow';

/** Stations that the page comes with, more than a screen shows; those further down are drawn by the browser. */
const AT_FIRST = 40;

/** Today's walk: the line in the order the water runs, each station with what it last showed. */
export function Round({
	site: held,
	rows: heldRows,
	toDecide,
	round,
	wantsStandard,
	wantsSolution,
}: {
	site: Held<SiteView>;
	rows: Held<RoundRow[]>;
	toDecide: StoredReading[];
	round: { id: number; finishedAt: number | null; leftOut: { station: string; reason: string }[] } | null;
	wantsStandard: { instrument: string; quantity: 'ph' | 'ec'; dueAt: number; reason: string }[];
	wantsSolution: { instrument: string; quantity: 'ph' | 'ec'; days: number }[];
}) {
	const site = unheld(held);
	const rows = unheld(heldRows);
	const [now, setNow] = useState(site.now);
	const [waiting, setWaiting] = useState(toDecide);
	const [current, setCurrent] = useState(-1);
	const list = useRef<HTMLOListElement>(null);
	const [whole, setWhole] = useState(false);
	useEffect(() => setWhole(true), []);
	useEffect(() => {
		const timer = setInterval(() => setNow(Date.now()), 60_000);
		const changed = () => location.reload();
		window.addEventListener('cordwain:changed', changed);
		return () => {
			clearInterval(timer);
			window.removeEventListener('cordwain:changed', changed);
		};
	}, []);
	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			if (isAtControl(e.target)) return;
			const down = e.key === 'j' || e.key === 'ArrowDown';
			if (down || e.key === 'k' || e.key === 'ArrowUp') {
				e.preventDefault();
				const next = Math.min(Math.max(current + (down ? 1 : -1), 0), rows.length - 1);
				setCurrent(next);
				list.current?.querySelectorAll<HTMLAnchorElement>('a[data-station]')[next]?.focus();
			}
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, [current, rows.length]);

	const stops = rows.filter((r) => r.due.length > 0 || r.retest.length > 0);
	const under = round && round.finishedAt === null ? round : null;
	const onChange = useCallback((change: Change) => {
		if (change.by !== PAGE && document.activeElement === document.body) location.reload();
	}, []);
	useChanges(onChange);
	return (
		<div className="grid lg:grid-cols-[1fr_17rem] gap-x-8 gap-y-6">
			<section>
				<h1>{longDate(now, site.timezone)}, round</h1>
				<p className="text-soft mb-2">
					{rows.length} stations in the order the water runs
					{stops.length > 0 ? ` · ${stops.length} with something due` : ' · nothing is due now'}
				</p>
				<div className="lg:hidden">
					<RoundStart
						stops={stops}
						round={under}
						done={round && round.finishedAt !== null ? round : null}
						site={site}
					/>
				</div>
				<div
					className="hidden sm:grid grid-cols-[11.5rem_1fr_4.5rem_1fr_4.5rem_10.5rem] gap-x-3 text-soft text-[0.8rem] border-b border-line pb-1"
					aria-hidden="true"
				>
					<span className="pl-9">station</span>
					<span>pH, range and smear</span>
					<span>pH</span>
					<span>EC, range and smear</span>
					<span>{site.units.ec === 'uS/cm' ? 'µS/cm' : site.units.ec}</span>
					<span>standing</span>
				</div>
				<ol ref={list}>
					{rows.slice(0, whole ? rows.length : AT_FIRST).map((row, i) => (
						<StationRow key={row.code} row={row} site={site} now={now} first={i === 0} last={i === rows.length - 1} />
					))}
				</ol>
			</section>
			<aside>
				<div className="hidden lg:block">
					<RoundStart
						keys
						stops={stops}
						round={under}
						done={round && round.finishedAt !== null ? round : null}
						site={site}
					/>
				</div>
				{wantsSolution.map((p) => (
					<p key={`${p.instrument}${p.quantity}`} data-wants-solution>
						<a
							className="underline inline-block py-2"
							href={`/probes/${encodeURIComponent(p.instrument)}/${p.quantity}`}
						>
							{site.instruments.find((i) => i.info.code === p.instrument)?.name ?? p.instrument}
						</a>{' '}
						wants new solution in its cap{p.days > 1 && `, for ${p.days} days`}.
					</p>
				))}
				{wantsStandard.length > 0 && (
					<div className="note-rule" data-wants-standard={wantsStandard.length}>
						<h2>A buffer first</h2>
						{wantsStandard.map((p) => (
							<p key={`${p.instrument}${p.quantity}`}>
								<a
									className="underline"
									href={`/calibrate?instrument=${encodeURIComponent(p.instrument)}&quantity=${p.quantity}`}
								>
									{site.instruments.find((i) => i.info.code === p.instrument)?.name ?? p.instrument}{' '}
									{p.quantity === 'ph' ? 'pH' : 'EC'}
								</a>{' '}
								<span className="text-soft">
									{now - p.dueAt > 86_400_000 ? `due ${ago(p.dueAt, now)}` : 'due today'}, {p.reason}
								</span>
							</p>
						))}
					</div>
				)}
				<div className="note-rule">
					<h2>Wants a decision</h2>
					{waiting.length === 0 ? <p className="text-soft">Nothing is in doubt.</p> : null}
					{waiting.slice(0, 3).map((r) => (
						<Decide
							key={r.id}
							reading={r}
							site={site}
							now={now}
							onDone={() => setWaiting((w) => w.filter((x) => x.id !== r.id))}
						/>
					))}
					{waiting.length > 3 && (
						<a className="underline" href="/review">
							{waiting.length - 3} more in Review
						</a>
					)}
				</div>
			</aside>
		</div>
	);
}
