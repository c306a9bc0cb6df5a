import { useMemo, useReducer, useRef } from 'react';
import { EVENT_KINDS, type EventKind } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS, eventLine } from '@/words/en/event';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked, useFollowing } from '../data/queries';
import { enter } from '../data/queue';
import { useNotedEntry } from '../data/undo';
import { EventForm } from '../entry/EventForm';
import { Notice } from '../ui/Notice';
import { useWalk } from '../ui/use-walk';
import { EventRow } from './EventRow';

const MOST = 100;

interface State {
	station: string;
	kind: EventKind | '';
	open: number | null;
	problem: string;
	said: string;
	/** What was just logged, or taken back, and can be changed with one press. */
	back: { id: number; withdrawn: boolean; what: string } | null;
}

/** Everything that was done to the water, newest first: logged, corrected, taken back and logged late here. */
export function EventList({ site: held, station: first }: { site: Held<SiteView>; station: string }) {
	const site = unheld(held);
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		station: first,
		kind: '',
		open: null,
		problem: '',
		said: '',
		back: null,
	});
	const list = useRef<HTMLUListElement>(null);
	useWalk(list, '[data-event] > button');
	useNotedEntry(useMemo(() => (s.back?.withdrawn ? { event: s.back.id } : null), [s.back]));
	useFollowing();
	const asked = useAsked('GET /events', {
		query: {
			order: 'newest',
			limit: MOST,
			...(s.station ? { station: s.station } : {}),
			...(s.kind ? { kind: s.kind } : {}),
		},
	});
	const events = asked.data?.events ?? [];
	const nameOf = (code: string) => site.stations.find((x) => x.info.code === code)?.name ?? code;

	async function withdraw(id: number, what: string, withdrawn: boolean) {
		try {
			const done = withdrawn ? 'taken back' : 'put back';
			const result = await enter(
				'POST /events/:id/withdrawal',
				{ params: { id }, body: { withdrawn } },
				`${what} ${done}`,
			);
			set({
				said: result.kind === 'stored' ? `It is ${done}; what hung on it is judged anew.` : result.message,
				back: withdrawn ? { id, withdrawn: false, what } : null,
				open: null,
				problem: '',
			});
			await askAgain();
		} catch (error) {
			set({ problem: (error as Error).message });
		}
	}

	return (
		<div data-ready={!asked.isPending}>
			<div className="flex flex-wrap items-end gap-x-5 gap-y-2 mb-3">
				<h1>Events</h1>
				<a className="underline min-h-8" href="/ledger">
					Readings
				</a>
				<label className="block w-44">
					<span className="field-label">Station</span>
					<select className="field" value={s.station} onChange={(e) => set({ station: e.target.value })}>
						<option value="">all of them</option>
						{site.stations.map((x) => (
							<option key={x.info.code} value={x.info.code}>
								{x.name}
							</option>
						))}
					</select>
				</label>
				<label className="block w-44">
					<span className="field-label">Kind</span>
					<select className="field" value={s.kind} onChange={(e) => set({ kind: e.target.value as EventKind | '' })}>
						<option value="">all of them</option>
						{EVENT_KINDS.map((k) => (
							<option key={k} value={k}>
								{EVENT_WORDS[k][0]}
							</option>
						))}
					</select>
				</label>
			</div>
			{s.station === '' ? (
				<p className="text-soft mb-2">Choose a station to log what was done there, now or earlier.</p>
			) : (
				<EventForm
					key={s.station}
					site={site}
					station={s.station}
					onLogged={({ words, id }) =>
						set({ said: words, problem: '', back: id === null ? null : { id, withdrawn: true, what: words } })
					}
				/>
			)}
			<Notice said={s.said} problem={s.problem || (asked.error?.message ?? '')}>
				{s.back && (
					<button
						type="button"
						className="act !font-normal"
						onClick={() => withdraw(s.back!.id, s.back!.what, s.back!.withdrawn)}
					>
						{s.back.withdrawn ? 'Undo' : 'Put it back'}
					</button>
				)}
			</Notice>
			<ul ref={list} className="border-t border-line">
				{events.map((e) => (
					<EventRow
						key={e.id}
						event={e}
						site={site}
						open={s.open === e.id}
						onToggle={() => set({ open: s.open === e.id ? null : e.id })}
						onWithdraw={() => withdraw(e.id, eventLine(nameOf(e.station), e), true)}
						onCorrected={(words) => {
							set({ said: words, problem: '', back: null, open: null });
							void askAgain();
						}}
					/>
				))}
			</ul>
			{!asked.isPending && events.length === 0 && <p className="mt-3">Nothing was logged here yet.</p>}
			{events.length === MOST && (
				<p className="text-soft mt-2">The newest {MOST}; older ones are in the file of events.</p>
			)}
		</div>
	);
}
