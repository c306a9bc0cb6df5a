import { useState } from 'react';
import type { ProbeStory, ToldCalibration } from '@/contract/probes';
import type { SiteView } from '@/core/reading/site-view';
import { api, begin } from '../data/client';
import { type Held, unheld } from '../data/held';
import { followJob } from '../data/job';
import { age, ago } from '../ui/format';
import { Calibrations } from './Calibrations';
import { CareCard } from './CareCard';
import { DriftChart } from './DriftChart';
import { ProbeDetails } from './ProbeDetails';
import { Rehydrate } from './Rehydrate';
import { StoryEvents } from './StoryEvents';
import { Turned } from './Turned';
import { amount, day, offWords, unitOf } from './words';

/** One probe's life: what it was found to be worth, what that made of its readings, and what would have been decided otherwise. */
export function ProbePage({ site: held, story: first }: { site: Held<SiteView>; story: Held<ProbeStory> }) {
	const site = unheld(held);
	const [story, setStory] = useState(unheld(first));
	const [problem, setProblem] = useState('');
	const [said, setSaid] = useState('');
	const q = story.quantity;
	const reload = async (words: string) => {
		setStory(await api('GET /probes/:instrument/:quantity', { params: { instrument: story.instrument, quantity: q } }));
		setSaid(words);
	};
	const attempt = async (work: () => Promise<void>) => {
		try {
			setProblem('');
			await work();
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	const withdraw = (c: ToldCalibration) =>
		attempt(async () => {
			const job = await begin('POST /calibrations/:id/withdrawal', {
				params: { id: c.id },
				body: { withdrawn: !c.withdrawn },
			});
			await followJob('POST /calibrations/:id/withdrawal', 'withdrawal', job, setSaid);
			await reload(
				c.withdrawn
					? 'The calibration counts again; readings were worked out anew.'
					: 'Withdrawn; the readings it had changed were worked out anew. Press again to take it back.',
			);
		});
	const last = story.calibrations.filter((c) => !c.withdrawn).at(-1);
	return (
		<div>
			<CareCard story={story} zone={site.timezone} />
			<div className="print:hidden">
				<div className="flex flex-wrap items-baseline gap-x-4 mb-1">
					<h1>
						{story.name}, {q === 'ph' ? 'pH' : 'EC'}
					</h1>
					<p className="text-soft">
						{story.last_at ? `calibrated ${ago(Date.parse(story.last_at), site.now)}` : 'never calibrated here'} · a
						reading today is {offWords(story)}
					</p>
					<button type="button" className="act !font-normal ml-auto" onClick={() => print()}>
						Print its care card
					</button>
					<a
						className="act act-main"
						href={`/calibrate?instrument=${encodeURIComponent(story.instrument)}&quantity=${q}`}
					>
						Calibrate <kbd className="!text-primary-content !border-primary-content">c</kbd>
					</a>
				</div>
				<div aria-live="polite">
					{said && (
						<p className="border-l-4 border-secondary pl-3 py-1" data-said-probe>
							{said}
						</p>
					)}
					{problem && (
						<p role="alert" className="text-error">
							{problem}
						</p>
					)}
				</div>
				<div className="grid lg:grid-cols-[minmax(0,1fr)_19rem] gap-x-8">
					<section className="min-w-0">
						<DriftChart story={story} site={site} />
						{story.note && (
							<p className="my-2 max-w-[75ch]" data-probe-note>
								{story.note}
							</p>
						)}
						<p className="my-2 max-w-[75ch]" data-touched={story.touched_count}>
							{story.touched_count > 0 ? (
								<>
									<strong>{story.touched_count} of its readings have been restated</strong>
									{story.turned.length > 0
										? `; ${story.turned.length} would have been judged otherwise.`
										: '; none would have been judged otherwise.'}{' '}
									{story.rejected > 0 && `${story.rejected} lie too far off to be put right.`}
								</>
							) : (
								'No reading of this probe needed restating.'
							)}
						</p>
						<Turned story={story} site={site} />
					</section>
					<aside>
						<div className="note-rule">
							<h2>
								{story.due_at && Date.parse(story.due_at) <= site.now
									? 'Due now'
									: story.due_at
										? `Next in ${age(site.now, Date.parse(story.due_at))}`
										: 'Next'}
							</h2>
							<p>{story.due_reason}.</p>
							<p className="text-soft text-[0.9rem] mt-1">
								Drift: {q === 'ph' ? story.sigma_per_root_day.toFixed(3) : story.sigma_per_root_day.toFixed(2)}{' '}
								{unitOf(q)} per root day
								{story.learned_from === 0 ? ', assumed' : ` from ${story.learned_from} intervals`}
								{Math.abs(story.rate_per_day) * 7 > 0.01
									? `, ${story.rate_per_day > 0 ? '+' : ''}${amount(q, story.rate_per_day * 7)} a week`
									: ''}
								.
							</p>
						</div>
						<Rehydrate
							story={story}
							now={site.now}
							zone={site.timezone}
							onLog={(kind) =>
								attempt(async () => {
									await api('POST /probe-events', { body: { instrument: story.instrument, quantity: q, kind } });
									await reload('Logged: its hours run from now.');
								})
							}
						/>
						{q === 'ph' && (
							<div className="note-rule">
								<h2>How long it lasts</h2>
								<p>
									{story.life
										? `Slope ${story.life.now_pct.toFixed(0)} %, ${story.life.per_year_pct.toFixed(1)} % a year. ${story.life.latest ? `It reaches 85 % between ${day(story.life.earliest, site.timezone)} and ${day(story.life.latest, site.timezone)}.` : `It may reach 85 % from ${day(story.life.earliest, site.timezone)} on; how late cannot be told.`}`
										: 'No falling slope can be told yet. Typical pens last one to a few years.'}
								</p>
							</div>
						)}
						<ProbeDetails
							story={story}
							zone={site.timezone}
							onSaved={(words) => reload(words)}
							onProblem={setProblem}
						/>
						<StoryEvents
							story={story}
							site={site}
							onLogged={() => reload('Logged; readings were worked out anew.')}
							onProblem={setProblem}
						/>
						<Calibrations story={story} zone={site.timezone} onWithdraw={withdraw} />
						{last && last.reasons.length > 0 && (
							<div className="note-rule">
								<h2>Last verdict: {last.verdict}</h2>
								{last.reasons.map((r) => (
									<p key={r} className="text-[0.92rem]">
										{r}
									</p>
								))}
							</div>
						)}
					</aside>
				</div>
			</div>
		</div>
	);
}
