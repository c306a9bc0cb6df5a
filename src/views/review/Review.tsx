import { useReducer, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Contract } from '@/contract';
import type { Episode, Score } from '@/contract/episodes';
import type { Got } from '@/contract/operation';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { causeWords } from '@/words/en/cause';
import { api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked, useFollowing } from '../data/queries';
import type { Decided } from '../entry/Decide';
import { enterDecision } from '../entry/decisions';
import { openReading } from '../entry/opens';
import { ago } from '../ui/format';
import { Notice } from '../ui/Notice';
import { StandingMark } from '../ui/StandingMark';
import { keysTaken } from '../ui/typing';
import { JudgingAgain } from './JudgingAgain';
import { Reviewing } from './Reviewing';
import { SensorReview } from './SensorReview';

interface State {
	current: number;
	said: string;
	problem: string;
}
const DONE: Record<Decided, string> = {
	correct: 'Corrected; the original stays in its history.',
	keep: 'Kept.',
	discard: 'Discarded.',
	retest: 'Asked for a retest; the station comes first on the Round.',
};

/** The queue of what was doubted, worst first, an episode a line: with its neighbours, its evidence and what may be done. */
export function Review({ site: held, review }: { site: Held<SiteView>; review: Got<Contract['GET /episodes']> }) {
	const site = unheld(held);
	const [s, set] = useReducer((now: State, change: Partial<State>) => ({ ...now, ...change }), {
		current: 0,
		said: '',
		problem: '',
	});
	useFollowing();
	const { data } = useAsked('GET /episodes', {}, true, review);
	const queue = data?.episodes ?? [];
	const current = Math.min(s.current, queue.length - 1);
	const waiting = queue[current];

	const busy = useRef(false);
	/** One decision at a time; it is said once the queue shows it. */
	async function attempt(said: string, work: () => Promise<string | undefined>) {
		if (busy.current) return;
		busy.current = true;
		try {
			const words = await work();
			await askAgain();
			set({ said: words || said, problem: '' });
		} catch (error) {
			set({ problem: (error as Error).message });
		} finally {
			busy.current = false;
		}
	}
	const decide = ({ reading: r }: Episode, kind: 'keep' | 'retest') =>
		attempt(DONE[kind], async () => {
			await enterDecision(r, kind, `${r.station} ${r.quantity} ${r.value}`);
			return undefined;
		});
	const decideAll = (e: Episode, kind: 'keep' | 'discard', reason = '') =>
		attempt('', async () => {
			const { decided } = await api('POST /episodes/:id/decision', {
				params: { id: e.newest },
				body: { kind, reason },
			});
			return `${decided} ${kind === 'keep' ? 'kept' : 'discarded'}.`;
		});
	const go = (step: 1 | -1) => set({ current: Math.min(Math.max(current + step, 0), queue.length - 1) });
	const act = {
		j: () => go(1),
		k: () => go(-1),
		y: () => waiting && void decide(waiting, 'keep'),
		'shift+y': () => waiting && void decideAll(waiting, 'keep'),
		o: () => waiting && openReading(waiting.reading.id),
		a: () => waiting && void decide(waiting, 'retest'),
	};
	useHotkeys(Object.keys(act), (_, { hotkey }) => act[hotkey as keyof typeof act](), {
		ignoreEventWhen: (e) => keysTaken(e.target),
	});

	return (
		<div className="grid lg:grid-cols-[20rem_1fr] gap-x-8 gap-y-4">
			<section>
				<h1>Review</h1>
				<Queue site={site} queue={queue} current={current} onChoose={(i) => set({ current: i })} />
				<Scores scores={data?.scores ?? []} />
			</section>
			<section>
				<Notice said={s.said} problem={s.problem} />
				{waiting && (
					<Reviewing
						key={waiting.newest}
						episode={waiting}
						site={site}
						onDecided={(what) => void attempt(DONE[what], async () => undefined)}
						onDecideAll={(kind, reason) => void decideAll(waiting, kind, reason)}
						onRetest={() => void decide(waiting, 'retest')}
					/>
				)}
			</section>
			<div className="lg:col-span-2">
				<SensorReview site={site} />
			</div>
		</div>
	);
}

function Queue({
	site,
	queue,
	current,
	onChoose,
}: {
	site: SiteView;
	queue: readonly Episode[];
	current: number;
	onChoose: (index: number) => void;
}) {
	const readings = queue.reduce((sum, e) => sum + e.readings, 0);
	const name = (code: string) => site.stations.find((x) => x.info.code === code)?.name ?? code;
	return (
		<>
			<p className="text-soft mb-2">
				{queue.length === 0
					? 'Nothing waits for a decision.'
					: `${queue.length} ${queue.length === 1 ? 'thing waits' : 'things wait'} for a decision${readings > queue.length ? `, ${readings} readings in all` : ''}; the worst first.`}
			</p>
			<JudgingAgain />
			<ul aria-label="Doubtful readings" className="max-h-[60vh] overflow-auto">
				{queue.map(({ reading: r, readings: n }, i) => (
					<li key={r.id}>
						<button
							type="button"
							aria-pressed={i === current}
							onClick={() => onChoose(i)}
							className={`w-full text-left px-2 py-1.5 border-l-4 cursor-pointer min-h-12 sm:min-h-0 ${i === current ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
							data-queue={r.id}
						>
							<StandingMark standing={standingOf(r)} /> {name(r.station)} {QUANTITY[r.quantity].name} {r.value}
							<span className="block text-soft font-normal text-[0.85rem]">
								{causeWords(r.cause)} · {ago(Date.parse(r.time), site.now)}
								{n > 1 && `, ${n} readings`}
							</span>
						</button>
					</li>
				))}
			</ul>
		</>
	);
}

function Scores({ scores }: { scores: readonly Score[] }) {
	if (scores.length === 0) return null;
	return (
		<div className="note-rule mt-4">
			<h2>How often each check was right</h2>
			<table className="text-[0.92rem]">
				<tbody>
					{scores.map((s) => (
						<tr key={s.cause}>
							<th scope="row" className="pr-4">
								{causeWords(s.cause)}
							</th>
							<td className="pr-3 font-bold">
								{s.right} of {s.decided}
							</td>
						</tr>
					))}
				</tbody>
			</table>
			<p className="text-soft text-[0.85rem]">
				Right: you corrected or discarded what it doubted. Wrong: you kept it.{' '}
				<a className="underline" href="/setup">
					How readily the checks ask
				</a>
			</p>
		</div>
	);
}
