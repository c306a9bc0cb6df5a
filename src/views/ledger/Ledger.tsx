import { useCallback, useEffect, useRef, useState } from 'react';
import { chanceInRange } from '@/core/probe/normal';
import { QUANTITIES, QUANTITY } from '@/core/quantity';
import { formatTime, startOfDay } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { mayBeDecided } from '@/core/trust/trust';
import type { StoredReading } from '@/server/contract';
import { api } from '../api';
import { Decide } from '../entry/Decide';
import { chanceWords, dateTime, shown, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { isAtControl } from '../ui/typing';

interface Page {
	readings: StoredReading[];
	next_cursor: string | null;
}
interface History {
	readings: StoredReading[];
	decisions: { id: number; reading_id: number; kind: string; reason: string; who: string; time: string }[];
}
const STANDINGS = ['', 'sound', 'doubtful', 'bad'] as const;
const COLUMNS = [
	['time', 'Time'],
	['station', 'Station'],
	['quantity', 'Quantity'],
	['canonical_value', 'Value'],
	['as-read', 'As read'],
	['instrument', 'With'],
	['flag', 'Standing'],
	['note', 'Note'],
] as const;
type SortKey = (typeof COLUMNS)[number][0];

/** Every reading, filtered and sorted, with its standing; a row opens its history. */
export function Ledger({
	site,
	filter: first,
}: {
	site: SiteView;
	filter: { station: string; quantity: string; standing: string };
}) {
	const [filter, setFilter] = useState({ ...first, from: '', to: '', all: false });
	const [page, setPage] = useState<Page>({ readings: [], next_cursor: null });
	const [sort, setSort] = useState<{ key: SortKey; down: boolean }>({ key: 'time', down: true });
	const [problem, setProblem] = useState('');
	const [loading, setLoading] = useState(true);
	const [current, setCurrent] = useState(0);
	const [open, setOpen] = useState<number | null>(null);
	const [history, setHistory] = useState<History | null>(null);
	const body = useRef<HTMLTableSectionElement>(null);
	const latest = useRef(0);

	const query = useCallback(
		(cursor?: string) => {
			const q = new URLSearchParams({ limit: '100', order: sort.key === 'time' && !sort.down ? 'oldest' : 'newest' });
			for (const key of ['station', 'quantity', 'standing'] as const) if (filter[key]) q.set(key, filter[key]);
			// A day is the site’s, wherever it is looked at from.
			for (const key of ['from', 'to'] as const) {
				const at = startOfDay(filter[key], site.timezone);
				if (at !== null) q.set(key, formatTime(at));
			}
			if (filter.all) q.set('all', '1');
			if (cursor) q.set('cursor', cursor);
			return `/readings?${q}`;
		},
		[filter, sort, site.timezone],
	);
	const load = useCallback(async () => {
		setLoading(true);
		latest.current++;
		const mine = latest.current;
		try {
			const answer = await api<Page>(query());
			// An earlier filter's answer that comes late must not overwrite this one's.
			if (mine !== latest.current) return;
			setPage(answer);
			setProblem('');
		} catch (error) {
			if (mine === latest.current) setProblem((error as Error).message);
		}
		setLoading(false);
	}, [query]);
	useEffect(() => {
		load();
		window.addEventListener('cordwain:changed', load);
		return () => window.removeEventListener('cordwain:changed', load);
	}, [load]);

	const rows =
		sort.key === 'time'
			? page.readings
			: [...page.readings].sort((a, b) => {
					const key = sort.key === 'as-read' ? 'value' : sort.key;
					const x = a[key] ?? '';
					const y = b[key] ?? '';
					const order = typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y));
					return sort.down ? -order : order;
				});

	const toggle = useCallback(
		async (id: number) => {
			if (open === id) {
				setOpen(null);
				return;
			}
			setOpen(id);
			setHistory(null);
			setHistory(
				await api<History>(`/readings/${id}/history`).catch((e: Error) => {
					setProblem(e.message);
					return null;
				}),
			);
		},
		[open],
	);
	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			if (e.ctrlKey || e.metaKey || e.altKey || isAtControl(e.target)) return;
			if (e.key === 'j' || e.key === 'k') {
				e.preventDefault();
				const next = Math.min(Math.max(current + (e.key === 'j' ? 1 : -1), 0), rows.length - 1);
				setCurrent(next);
				body.current?.querySelectorAll('tr[data-row]')[next]?.scrollIntoView({ block: 'nearest' });
			}
			if (e.key === 'Enter' && rows[current]) toggle(rows[current].id);
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, [current, rows, toggle]);

	const csv = () => {
		const q = new URLSearchParams({ format: 'csv' });
		return `/api/v1${query().replace(/limit=100&/, '')}&${q}`;
	};
	const select = (
		id: 'station' | 'quantity' | 'standing',
		label: string,
		options: readonly (readonly [string, string])[],
	) => (
		<div>
			<label className="field-label" htmlFor={`l-${id}`}>
				{label}
			</label>
			<select
				id={`l-${id}`}
				className="field"
				value={filter[id]}
				onChange={(e) => setFilter({ ...filter, [id]: e.target.value })}
			>
				<option value="">all</option>
				{options.map(([value, name]) => (
					<option key={value} value={value}>
						{name}
					</option>
				))}
			</select>
		</div>
	);

	return (
		<div>
			<div className="flex flex-wrap items-end gap-3 mb-3">
				<h1 className="mr-4">Ledger</h1>
				{select(
					'station',
					'Station',
					site.stations.map((s) => [s.info.code, s.name] as const),
				)}
				{select(
					'quantity',
					'Quantity',
					QUANTITIES.filter((q) => q !== 'tds').map((q) => [q, QUANTITY[q].name] as const),
				)}
				{select(
					'standing',
					'Standing',
					STANDINGS.slice(1).map((s) => [s, s] as const),
				)}
				{(['from', 'to'] as const).map((k) => (
					<div key={k}>
						<label className="field-label" htmlFor={`l-${k}`}>
							{k === 'from' ? 'From' : 'Before'}
						</label>
						<input
							id={`l-${k}`}
							type="date"
							className="field"
							value={filter[k]}
							onChange={(e) => setFilter({ ...filter, [k]: e.target.value })}
						/>
					</div>
				))}
				<label className="flex items-center gap-2 min-h-10">
					<input
						type="checkbox"
						checked={filter.all}
						onChange={(e) => setFilter({ ...filter, all: e.target.checked })}
					/>{' '}
					also corrected and undone
				</label>
				<a className="act !font-normal ml-auto" href={csv()} download>
					CSV of these
				</a>
			</div>
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			<div className="overflow-x-auto">
				<table className="w-full text-[0.92rem]">
					<thead>
						<tr className="border-b border-base-content">
							{COLUMNS.map(([key, name]) => (
								<th
									key={key}
									scope="col"
									aria-sort={sort.key === key ? (sort.down ? 'descending' : 'ascending') : 'none'}
									className={`py-1 pr-3 ${key === 'note' || key === 'as-read' ? 'hidden md:table-cell' : ''}`}
								>
									<button
										type="button"
										className="cursor-pointer"
										onClick={() => setSort({ key, down: sort.key === key ? !sort.down : key === 'time' })}
									>
										{name}
										{sort.key === key ? (sort.down ? ' ↓' : ' ↑') : ''}
									</button>
								</th>
							))}
						</tr>
					</thead>
					<tbody ref={body}>
						{rows.map((r, i) => (
							<Row
								key={r.id}
								r={r}
								site={site}
								current={i === current}
								open={open === r.id}
								history={open === r.id ? history : null}
								onToggle={() => {
									setCurrent(i);
									toggle(r.id);
								}}
								onDecided={() => {
									setOpen(null);
									load();
								}}
							/>
						))}
					</tbody>
				</table>
			</div>
			{!loading && rows.length === 0 && (
				<p className="mt-4">
					Nothing matches.{' '}
					<button
						type="button"
						className="underline cursor-pointer"
						onClick={() => setFilter({ station: '', quantity: '', standing: '', from: '', to: '', all: false })}
					>
						Show everything
					</button>
				</p>
			)}
			<p className="text-soft mt-3 flex gap-4 items-center">
				{page.next_cursor && (
					<button
						type="button"
						className="act"
						onClick={async () => {
							const more = await api<Page>(query(page.next_cursor!));
							setPage({ readings: [...page.readings, ...more.readings], next_cursor: more.next_cursor });
						}}
					>
						{sort.down ? 'Older' : 'Newer'} readings
					</button>
				)}
				<span className="hidden sm:inline">
					<kbd>j</kbd> <kbd>k</kbd> move, <kbd>Enter</kbd> opens the history
				</span>
			</p>
		</div>
	);
}

function Row({
	r,
	site,
	current,
	open,
	history,
	onToggle,
	onDecided,
}: {
	r: StoredReading;
	site: SiteView;
	current: boolean;
	open: boolean;
	history: History | null;
	onToggle: () => void;
	onDecided: () => void;
}) {
	const gone = r.superseded || r.decision === 'undo';
	const station = site.stations.find((s) => s.info.code === r.station)?.name ?? r.station;
	return (
		<>
			<tr
				data-row={r.id}
				className={`border-b border-line cursor-pointer ${current ? 'bg-zone' : ''} ${gone ? 'line-through text-soft' : ''}`}
				onClick={onToggle}
			>
				<td className="py-1 pr-3 whitespace-nowrap">{dateTime(Date.parse(r.time), site.timezone)}</td>
				<td className="pr-3">{station}</td>
				<td className="pr-3">{QUANTITY[r.quantity].name}</td>
				<td className="pr-3 font-bold whitespace-nowrap">
					{shown(r.quantity, r.restated ?? r.canonical_value, site.units)}
				</td>
				<td className="pr-3 hidden md:table-cell text-soft whitespace-nowrap">
					{r.value} {unitLabel(r.unit)}
				</td>
				<td className="pr-3">
					{r.instrument ? (site.instruments.find((i) => i.info.code === r.instrument)?.name ?? r.instrument) : ''}
				</td>
				<td className="pr-3 whitespace-nowrap">
					<button
						type="button"
						className="cursor-pointer"
						aria-expanded={open}
						aria-label={`${standingOf(r)}: history`}
						tabIndex={current ? 0 : -1}
					>
						<StandingMark standing={standingOf(r)} word />
					</button>
				</td>
				<td className="hidden md:table-cell text-soft max-w-[26ch] truncate">{r.note || r.cause}</td>
			</tr>
			{open && (
				<tr className="border-b border-line bg-lit">
					<td colSpan={8} className="p-3">
						{!gone && mayBeDecided(r) ? (
							<Decide reading={r} site={site} now={Date.now()} onDone={onDecided} />
						) : (
							<p>{r.message || 'The reading fits what this station showed before.'}</p>
						)}
						<Explain r={r} site={site} />
						<h2 className="mt-2 text-[0.9rem]">History</h2>
						<ul className="text-[0.9rem]" data-history>
							{history?.readings.map((h) => (
								<li key={h.id}>
									{dateTime(Date.parse(h.entered_at), site.timezone)} · {h.entered_by} entered{' '}
									<strong>
										{h.value} {unitLabel(h.unit)}
									</strong>
									{h.supersedes ? ' in place of the value before' : ''}
									{h.superseded ? ' (replaced)' : ''}
								</li>
							))}
							{history?.decisions.map((d) => (
								<li key={d.id}>
									{dateTime(Date.parse(d.time), site.timezone)} · {d.who}: {d.kind === 'undo' ? 'taken back' : d.kind}
									{d.reason ? `, “${d.reason}”` : ''}
								</li>
							))}
						</ul>
						{r.decision === 'undo' && <RestoreButton id={r.id} onDone={onDecided} />}
					</td>
				</tr>
			)}
		</>
	);
}

function RestoreButton({ id, onDone }: { id: number; onDone: () => void }) {
	return (
		<button
			type="button"
			className="act mt-2"
			onClick={() => api(`/readings/${id}/decision`, { json: { kind: 'restore' } }).then(onDone)}
		>
			Put it back
		</button>
	);
}

/** Where a reading's uncertainty comes from, and what calibrations made of it. */
function Explain({ r, site }: { r: StoredReading; site: SiteView }) {
	const parts = r.uncertainty_parts;
	if (!parts || r.uncertainty === null) return null;
	const total = parts.instrument ** 2 + parts.standards ** 2 + parts.drift ** 2;
	const share = (v: number) => `${Math.round((100 * v ** 2) / total)} %`;
	const range = site.stations.find((s) => s.info.code === r.station)?.info.ranges[
		r.quantity === 'tds' ? 'ec' : r.quantity
	];
	const value = r.restated ?? r.canonical_value;
	return (
		<div className="mt-2 text-[0.9rem]" data-explain>
			<p>
				<strong>
					{shown(r.quantity, value, site.units)} ± {shown(r.quantity, 1.96 * r.uncertainty, site.units)}
				</strong>{' '}
				at 95 %: instrument {share(parts.instrument)}, standards {share(parts.standards)}, drift since calibration{' '}
				{share(parts.drift)}.
				{range && ` In range with ${chanceWords(chanceInRange(value, r.uncertainty, range))} chance.`}
			</p>
			{r.restated !== null && (
				<p>
					Read as {shown(r.quantity, r.canonical_value, site.units)}; restated by the calibrations before and after it
					{r.restated_provisional
						? ', provisionally: two meters erred alike in one bottle, and a second lot has not agreed yet'
						: ''}
					{r.restated_partial ? '; the standards do not bracket it, so it is less sure' : ''}.{' '}
					<a
						className="underline"
						href={`/probes/${encodeURIComponent(r.instrument ?? '')}/${r.quantity === 'ph' ? 'ph' : 'ec'}`}
					>
						The probe’s story
					</a>
				</p>
			)}
			{r.restated_status === 'rejected' && (
				<p>The probe was so far off at the next calibration that this reading cannot be put right.</p>
			)}
			{r.restated_status === 'before-jump' && (
				<p>Something happened to the probe before its next calibration, so its error then is not known.</p>
			)}
		</div>
	);
}
