import { useCallback, useEffect, useRef, useState } from 'react';
import type { Change } from '@/contract/meters';
import type { RoundReading } from '@/contract/pages';
import type { StoredReading } from '@/contract/readings';
import { QUANTITY, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { permits } from '@/core/trust/trust';
import { useChanges } from '../bench/JustIn';
import { Decide } from '../entry/Decide';
import { PAGE } from '../entry/sample';
import { age, ago, longDate, shown } from '../ui/format';
import { GaugeStrip } from '../ui/GaugeStrip';
import { StandingMark } from '../ui/StandingMark';
import { isAtControl } from '../ui/typing';
import { RoundStart } from './RoundStart';

export interface RoundRow {
	code: string;
	name: string;
	about: string;
	fedBy: string[];
	ph: RoundReading | null;
	ec: RoundReading | null;
	newest: number | null;
	due: Quantity[];
	overdueDays: number;
	nextInDays: number | null;
	retest: string[];
}

type Quantity2 = 'ph' | 'ec';

/** Today's walk: the line in the order the water runs, each station with what it last showed. */
export function Round({
	site,
	rows,
	toDecide,
	round,
	wantsStandard,
}: {
	site: SiteView;
	rows: RoundRow[];
	toDecide: StoredReading[];
	round: { id: number; finishedAt: number | null; leftOut: { station: string; reason: string }[] } | null;
	wantsStandard: { instrument: string; quantity: 'ph' | 'ec'; dueAt: number; reason: string }[];
}) {
	const [now, setNow] = useState(site.now);
	const [waiting, setWaiting] = useState(toDecide);
	const [current, setCurrent] = useState(-1);
	const list = useRef<HTMLOListElement>(null);
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
	const infoOf = (code: string) => site.stations.find((s) => s.info.code === code)!.info;

	const value = (row: RoundRow, q: Quantity2) => {
		const r = row[q];
		if (!r) return <span className="text-soft">–</span>;
		if (!permits(r, 'station')) return <span className="text-soft text-[0.85rem]">not telling: low minerals</span>;
		return (
			<>
				<span className="text-[1.25rem] font-bold">{shown(q, r.restated ?? r.canonical_value, site.units)}</span>
				<span className="text-soft text-[0.8rem] ml-1 sm:ml-0 sm:block">
					±{shown(q, 1.96 * (r.uncertainty ?? 0), site.units)}
				</span>
			</>
		);
	};
	const strip = (row: RoundRow, q: Quantity2) => {
		const r = row[q];
		if (!r || !permits(r, 'station')) return null;
		return (
			<GaugeStrip
				quantity={q}
				value={r.restated ?? r.canonical_value}
				was={r.restated === null ? null : r.canonical_value}
				u={r.uncertainty ?? 0}
				range={infoOf(row.code).ranges[q] ?? null}
				standing={standingOf(r)}
				units={site.units}
				ends
			/>
		);
	};
	const standing = (row: RoundRow) => {
		const marks = [row.ph, row.ec].filter((r): r is RoundReading => r !== null && permits(r, 'station'));
		const worst =
			marks.find((r) => standingOf(r) === 'bad') ?? marks.find((r) => standingOf(r) === 'doubtful') ?? marks[0];
		if (!worst) return null;
		const kind = standingOf(worst);
		const restated = marks.find((r) => r.restated !== null);
		return {
			standing: kind === 'sound' && restated ? ('restated' as const) : kind,
			message:
				kind === 'doubtful' || kind === 'bad'
					? worst.message
					: restated
						? `read as ${shown(restated.quantity, restated.canonical_value, site.units)}`
						: '',
		};
	};

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
					{rows.map((row, i) => {
						const s = standing(row);
						return (
							<li
								key={row.code}
								className={`relative border-b border-line ${s && s.standing !== 'sound' ? 'bg-lit' : ''}`}
							>
								<Pipe first={i === 0} last={i === rows.length - 1} joins={row.fedBy.length} />
								<div className="grid grid-cols-2 sm:grid-cols-[11.5rem_1fr_4.5rem_1fr_4.5rem_10.5rem] gap-x-3 items-center py-1.5 min-h-[3.75rem]">
									<a
										href={`/bench?station=${encodeURIComponent(row.code)}`}
										data-station={row.code}
										className="pl-9 col-span-1 block"
									>
										<span className="font-bold">{row.name}</span>
										<span className="block text-soft text-[0.8rem]">
											{row.about}
											{row.due.length === 0 &&
												row.nextInDays !== null &&
												row.nextInDays > 0 &&
												` · in ${row.nextInDays} d`}
										</span>
										<DueWords row={row} />
									</a>
									<span className="sm:hidden text-right text-[0.85rem]">
										{row.newest !== null && age(row.newest, now)} {s && <StandingMark standing={s.standing} />}
									</span>
									<div className="pl-9 sm:pl-0 hidden sm:block">{strip(row, 'ph')}</div>
									<div className="pl-9 sm:pl-0">
										<span className="sm:hidden text-soft text-[0.8rem] mr-1">pH</span>
										{value(row, 'ph')}
										<div className="sm:hidden">{strip(row, 'ph')}</div>
									</div>
									<div className="hidden sm:block">{strip(row, 'ec')}</div>
									<div>
										<span className="sm:hidden text-soft text-[0.8rem] mr-1">EC</span>
										{value(row, 'ec')}
										<div className="sm:hidden">{strip(row, 'ec')}</div>
									</div>
									<div className="hidden sm:block text-[0.9rem]">
										{s && <StandingMark standing={s.standing} word />}{' '}
										<span className="text-soft">{row.newest === null ? 'never read' : age(row.newest, now)}</span>
										{s?.message && (
											<span className="block text-[0.8rem] leading-tight">{s.message.split('; did you mean')[0]}</span>
										)}
									</div>
								</div>
							</li>
						);
					})}
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

const dueName = (q: string): string => (q === 'temp' ? '°C' : QUANTITY[q as Quantity].name);

function DueWords({ row }: { row: RoundRow }) {
	if (row.retest.length > 0)
		return <span className="block text-[0.8rem] font-bold">wants a retest: {row.retest.map(dueName).join(', ')}</span>;
	if (row.due.length > 0)
		return (
			<span className="block text-[0.8rem]" data-due={row.due.join(' ')}>
				due: {row.due.map(dueName).join(', ')}
				{row.overdueDays > 0 && <span className="text-soft whitespace-nowrap"> {row.overdueDays} d late</span>}
			</span>
		);
	return null;
}

/** The line drawn as a pipe; a station that several others feed has a joint. */
function Pipe({ first, last, joins }: { first: boolean; last: boolean; joins: number }) {
	return (
		<div className="absolute left-0 top-0 h-full w-8" aria-hidden="true">
			<div
				className="absolute left-3 w-1 bg-ec opacity-55"
				style={{ top: first ? '1.9rem' : 0, bottom: last ? 'calc(100% - 1.9rem)' : 0 }}
			/>
			{joins > 1 && <div className="absolute left-3 top-2 w-4 h-1 bg-ec opacity-55" />}
			<div className="absolute left-[0.45rem] top-[1.45rem] w-[0.9rem] h-[0.9rem] rounded-full border-2 border-base-content bg-base-100" />
		</div>
	);
}
