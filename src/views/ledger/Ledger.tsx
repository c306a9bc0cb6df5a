import { useInfiniteQuery } from '@tanstack/react-query';
import { useMemo, useReducer } from 'react';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { addressOf, api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { askAgain, queries, useFollowing } from '../data/queries';
import { Opened } from '../entry/Opened';
import { DataTable } from '../ui/DataTable';
import { Notice } from '../ui/Notice';
import { newTable, type TableState } from '../ui/table-state';
import { columnsOf, stationName } from './columns';
import { askedOf, EVERYTHING, type Filter, Filters } from './Filters';
import { ManyChosen } from './ManyChosen';

interface State {
	filter: Filter;
	table: TableState;
	said: string;
}
const DONE = {
	correct: 'Corrected; the original stays in its history.',
	keep: 'Kept.',
	discard: 'Discarded.',
	retest: 'Asked for again; the station comes first on the Round.',
	restore: 'Put back.',
} as const;

/** Every reading, filtered and sorted, with its standing; a row opens to what may be done about it, and many can be chosen. */
export function Ledger({
	site: held,
	filter: first,
}: {
	site: Held<SiteView>;
	filter: Pick<Filter, 'station' | 'quantity' | 'standing'>;
}) {
	const site = unheld(held);
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		filter: { ...EVERYTHING, ...first },
		table: newTable([{ id: 'time', desc: true }]),
		said: '',
	});
	useFollowing();
	const oldestFirst = s.table.sorting[0]?.id === 'time' && !s.table.sorting[0].desc;
	const asked = {
		limit: 100,
		order: oldestFirst ? ('oldest' as const) : ('newest' as const),
		...askedOf(s.filter, site.now, site.timezone),
	};
	const pages = useInfiniteQuery(
		{
			queryKey: ['GET /readings', asked],
			queryFn: ({ pageParam }) => api('GET /readings', { query: { ...asked, cursor: pageParam ?? undefined } }),
			initialPageParam: null as string | null,
			getNextPageParam: (last) => last.next_cursor,
		},
		queries,
	);
	const rows = useMemo(() => pages.data?.pages.flatMap((p) => p.readings) ?? [], [pages.data]);
	const columns = useMemo(() => columnsOf(site), [site]);
	const chosen = rows.filter((r) => s.table.chosen[r.id] && !r.superseded && r.decision !== 'undo');
	const table = (change: Partial<TableState>) => set({ table: { ...s.table, ...change } });
	const done = (said: string) => {
		set({ said, table: { ...s.table, open: null, chosen: {} } });
		void askAgain();
	};
	const { limit: _, ...all } = asked;

	return (
		<div>
			<div className="flex flex-wrap items-end gap-3 mb-3">
				<h1 className="mr-4">Ledger</h1>
				<Filters
					site={site}
					filter={s.filter}
					onFilter={(change) =>
						set({ filter: { ...s.filter, ...change }, table: { ...s.table, chosen: {}, current: 0 } })
					}
				/>
				<a className="underline min-h-8 ml-auto" href="/ledger/events">
					Events
				</a>
				<a
					className="act !font-normal"
					href={addressOf('GET /readings', { query: { ...all, format: 'csv' } })}
					download
				>
					CSV
				</a>
			</div>
			{chosen.length > 0 && (
				<ManyChosen readings={chosen} site={site} onDone={done} onForget={() => table({ chosen: {} })} />
			)}
			<Notice said={s.said} problem={pages.error?.message ?? ''} />
			<DataTable
				rows={rows}
				columns={columns}
				idOf={(r) => String(r.id)}
				state={s.table}
				onState={table}
				rowClass={(r) => (r.superseded || r.decision === 'undo' ? 'line-through text-soft' : '')}
				opened={(r) => <Opened reading={r} site={site} onDone={(what) => done(DONE[what])} />}
				nameOf={(r) => `${stationName(site, r.station)} ${QUANTITY[r.quantity].name} ${r.value}`}
			/>
			{!pages.isPending && rows.length === 0 && (
				<p className="mt-4">
					Nothing matches.{' '}
					<button type="button" className="underline cursor-pointer" onClick={() => set({ filter: EVERYTHING })}>
						Show everything
					</button>
				</p>
			)}
			<p className="text-soft mt-3 flex gap-4 items-center">
				{pages.hasNextPage && (
					<button
						type="button"
						className="act"
						disabled={pages.isFetchingNextPage}
						onClick={() => void pages.fetchNextPage()}
					>
						{oldestFirst ? 'Newer' : 'Older'} readings
					</button>
				)}
				<span className="hidden sm:inline">
					<kbd>j</kbd> <kbd>k</kbd> move, <kbd>Enter</kbd> opens, <kbd>x</kbd> chooses
				</span>
			</p>
		</div>
	);
}
