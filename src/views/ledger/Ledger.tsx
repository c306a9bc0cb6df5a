import { useCallback, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import { QUANTITIES, QUANTITY } from '@/core/quantity';
import { formatTime, startOfDay } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { addressOf, api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { isAtControl } from '../ui/typing';
import { type History, Row } from './Row';

type Page = Got<Contract['GET /readings']>;
const STANDINGS = ['sound', 'doubtful', 'bad'] as const;
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
	site: held,
	filter: first,
}: {
	site: Held<SiteView>;
	filter: { station: string; quantity: string; standing: string };
}) {
	const site = unheld(held);
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
			// A day is the site’s, wherever it is looked at from.
			const day = (text: string) => {
				const at = startOfDay(text, site.timezone);
				return at === null ? {} : { at: formatTime(at) };
			};
			return {
				limit: 100,
				order: sort.key === 'time' && !sort.down ? ('oldest' as const) : ('newest' as const),
				station: filter.station || undefined,
				quantity: filter.quantity || undefined,
				standing: STANDINGS.find((s) => s === filter.standing),
				from: day(filter.from).at,
				to: day(filter.to).at,
				all: filter.all ? ('1' as const) : undefined,
				cursor,
			};
		},
		[filter, sort, site.timezone],
	);
	const load = useCallback(async () => {
		setLoading(true);
		latest.current++;
		const mine = latest.current;
		try {
			const answer = await api('GET /readings', { query: query() });
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
				await api('GET /readings/:id/history', { params: { id } }).catch((e: Error) => {
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
		const { limit: _, ...all } = query();
		return addressOf('GET /readings', { query: { ...all, format: 'csv' } });
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
					STANDINGS.map((s) => [s, s] as const),
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
				<a className="underline min-h-8 ml-auto" href="/ledger/events">
					Events
				</a>
				<a className="act !font-normal" href={csv()} download>
					CSV
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
							const more = await api('GET /readings', { query: query(page.next_cursor!) });
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
