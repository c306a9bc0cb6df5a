import { useCallback, useEffect, useState } from 'react';
import type { Episode } from '@/contract/episodes';
import type { StoredReading } from '@/contract/readings';
import { QUANTITY } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { causeWords } from '@/words/en/cause';
import { api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { Decide } from '../entry/Decide';
import { enterDecision } from '../entry/decisions';
import { ago, dateTime, shown } from '../ui/format';
import { GaugeStrip } from '../ui/GaugeStrip';
import { StandingMark } from '../ui/StandingMark';
import { isTyping } from '../ui/typing';
import { JudgingAgain } from './JudgingAgain';
import { ManyAtOnce } from './ManyAtOnce';

interface Neighbour {
	at: number;
	value: number;
	flag: number;
	decision: string | null;
	was: number | null;
	id: number | null;
}
/** What happened, with the newest reading that it concerns. */
interface Waiting {
	episode: Episode;
	reading: StoredReading;
}
export interface Score {
	cause: string;
	decided: number;
	right: number;
}

/** The queue of what was doubted, worst first, an episode a line: with its neighbours, its evidence and what may be done. */
export function Review({
	site: held,
	queue: first,
	scores,
}: {
	site: Held<SiteView>;
	queue: Waiting[];
	scores: Score[];
}) {
	const site = unheld(held);
	const [queue, setQueue] = useState(first);
	const [current, setCurrent] = useState(0);
	const [said, setSaid] = useState('');
	const [problem, setProblem] = useState('');
	const [neighbours, setNeighbours] = useState<Neighbour[]>([]);
	const waiting = queue[Math.min(current, queue.length - 1)];
	const reading = waiting?.reading;
	const many = waiting && waiting.episode.readings > 1 ? waiting.episode : null;

	const decided = useCallback((of: Waiting, words: string, all = false) => {
		// The others of its episode wait on, and the one before is looked at now.
		if (of.episode.readings > 1 && !all) return window.location.reload();
		setQueue((q) => q.filter((w) => w !== of));
		setSaid(words);
		setProblem('');
	}, []);
	const attempt = useCallback(async (work: () => Promise<void>) => {
		try {
			await work();
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}, []);
	const keep = useCallback(
		(of: Waiting) =>
			attempt(async () => {
				const { reading: r } = of;
				await enterDecision(r, 'keep', `${r.station} ${r.quantity} ${r.value}`);
				decided(of, 'Kept.');
			}),
		[attempt, decided],
	);
	const retest = useCallback(
		({ reading: r }: Waiting) =>
			attempt(async () => {
				await enterDecision(r, 'retest', `${r.station} ${r.quantity} ${r.value}`);
				setSaid('Asked for a retest; the station comes first on the Round.');
			}),
		[attempt],
	);
	const decideAll = useCallback(
		(of: Waiting, kind: 'keep' | 'discard', reason = '') =>
			attempt(async () => {
				const { decided: n } = await api('POST /episodes/:id/decision', {
					params: { id: of.episode.newest },
					body: { kind, reason },
				});
				decided(of, `${n} ${kind === 'keep' ? 'kept' : 'discarded'}.`, true);
			}),
		[attempt, decided],
	);

	useEffect(() => {
		if (!reading) return;
		let stale = false;
		const at = Date.parse(reading.time);
		const span = 12 * 86_400_000;
		const quantity = reading.quantity === 'tds' ? 'ec' : reading.quantity;
		api('GET /stations/:code/series', {
			params: { code: reading.station },
			query: { quantity, from: formatTime(at - span), to: formatTime(at + span) },
		})
			.then((r) => !stale && setNeighbours(r.points))
			.catch(() => !stale && setNeighbours([]));
		return () => {
			stale = true;
		};
	}, [reading]);
	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			if (!waiting || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target)) return;
			if (e.key === 'j' || e.key === 'k')
				setCurrent((c) => Math.min(Math.max(c + (e.key === 'j' ? 1 : -1), 0), queue.length - 1));
			else if (e.key === 'y') keep(waiting);
			else if (e.key === 'Y') decideAll(waiting, 'keep');
			else if (e.key === 'a') retest(waiting);
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, [waiting, queue.length, keep, decideAll, retest]);

	const readings = queue.reduce((sum, w) => sum + w.episode.readings, 0);
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	return (
		<div className="grid lg:grid-cols-[20rem_1fr] gap-x-8 gap-y-4">
			<section>
				<h1>Review</h1>
				<p className="text-soft mb-2">
					{queue.length === 0
						? 'Nothing waits for a decision.'
						: `${queue.length} ${queue.length === 1 ? 'thing waits' : 'things wait'} for a decision${readings > queue.length ? `, ${readings} readings in all` : ''}; the worst first.`}
				</p>
				<JudgingAgain />
				<ul aria-label="Doubtful readings" className="max-h-[60vh] overflow-auto">
					{queue.map(({ reading: r, episode: e }, i) => (
						<li key={r.id}>
							<button
								type="button"
								aria-pressed={r === reading}
								onClick={() => setCurrent(i)}
								className={`w-full text-left px-2 py-1.5 border-l-4 cursor-pointer min-h-12 sm:min-h-0 ${r === reading ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
								data-queue={r.id}
							>
								<StandingMark standing={standingOf(r)} /> {name(r.station)} {QUANTITY[r.quantity].name} {r.value}
								<span className="block text-soft font-normal text-[0.85rem]">
									{causeWords(r.cause)} · {ago(Date.parse(r.time), site.now)}
									{e.readings > 1 && `, ${e.readings} readings`}
								</span>
							</button>
						</li>
					))}
				</ul>
				{scores.length > 0 && (
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
				)}
			</section>
			<section aria-live="polite">
				{said && (
					<p className="border-l-4 border-secondary pl-3 py-1 mb-2" data-review-said>
						{said}
					</p>
				)}
				{problem && (
					<p role="alert" className="text-error">
						{problem}
					</p>
				)}
				{reading && (
					<div key={reading.id} data-reviewing={reading.id}>
						<h2 className="text-[1.2rem]">
							{name(reading.station)}, {dateTime(Date.parse(reading.time), site.timezone)}
						</h2>
						<div className="max-w-[22rem] my-2">
							<GaugeStrip
								quantity={reading.quantity === 'tds' ? 'ec' : reading.quantity}
								value={reading.canonical_value}
								u={reading.uncertainty ?? 0}
								range={
									site.stations.find((s) => s.info.code === reading.station)?.info.ranges[
										reading.quantity === 'tds' ? 'ec' : reading.quantity
									] ?? null
								}
								standing={standingOf(reading)}
								units={site.units}
								width={350}
								ends
							/>
						</div>
						{many && (
							<ManyAtOnce
								key={many.newest}
								episode={many}
								site={site}
								onDecide={(kind, reason) => decideAll(waiting, kind, reason)}
							/>
						)}
						{many && <h2 className="mt-3">The newest of them alone</h2>}
						<Decide
							reading={reading}
							site={site}
							now={site.now}
							onDone={(what) =>
								decided(
									waiting,
									what === 'correct'
										? 'Corrected; the original stays in its history.'
										: what === 'discard'
											? 'Discarded.'
											: 'Kept.',
								)
							}
						/>
						<div className="flex flex-wrap gap-1.5 mt-1">
							<button type="button" className="act !font-normal" onClick={() => retest(waiting)}>
								Ask for a retest <kbd>a</kbd>
							</button>
							<a className="act !font-normal" href={`/trends?station=${encodeURIComponent(reading.station)}`}>
								Trend
							</a>
						</div>
						<h2 className="mt-4">Neighbours in time</h2>
						<table className="text-[0.92rem]">
							<tbody>
								{neighbours
									.filter((n) => Math.abs(n.at - Date.parse(reading.time)) < 12 * 86_400_000)
									.sort((a, b) => Math.abs(a.at - Date.parse(reading.time)) - Math.abs(b.at - Date.parse(reading.time)))
									.slice(0, 9)
									.sort((a, b) => a.at - b.at)
									.map((n) => (
										<tr key={n.at} className={`border-t border-line ${n.id === reading.id ? 'bg-lit font-bold' : ''}`}>
											<td className="pr-6 py-0.5">{dateTime(n.at, site.timezone)}</td>
											<td className="pr-6">{shown(reading.quantity, n.value, site.units)}</td>
											<td>
												<StandingMark standing={standingOf({ ...n, restated: n.was })} word />
											</td>
										</tr>
									))}
							</tbody>
						</table>
						<p className="hidden sm:block text-soft mt-3">
							<kbd>j</kbd> <kbd>k</kbd> next, previous · <kbd>y</kbd> keep · <kbd>a</kbd> ask for a retest
							{many && (
								<>
									{' '}
									· <kbd>Y</kbd> keep all {many.readings}
								</>
							)}
						</p>
					</div>
				)}
			</section>
		</div>
	);
}
