import { useEffect } from 'react';
import type { Alert, Condition } from '@/contract/watch';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked } from '../data/queries';
import { useAttempt } from '../data/use-attempt';
import { ago, dateTime } from '../ui/format';
import { Notice } from '../ui/Notice';
import { AlertLine } from './AlertLine';
import { ConditionForm } from './ConditionForm';
import { HowTold } from './HowTold';

const SHOWN = 12;

/** What is watched for, what goes on, and how it is told. */
export function Watch({ site: held }: { site: Held<SiteView> }) {
	const site = unheld(held);
	const { data } = useAsked('GET /watch', {});
	const { said, problem, attempt } = useAttempt();
	const unseen = data?.unseen ?? 0;
	// Whoever looks has seen it.
	useEffect(() => {
		if (unseen > 0) void api('POST /watch/seen', {}).then(askAgain, () => {});
	}, [unseen]);
	if (!data) return <h1>Watch</h1>;
	const on = data.alerts.filter((a) => a.ended_at === null);
	const over = data.alerts.filter((a) => a.ended_at !== null).slice(0, SHOWN);
	return (
		<div className="grid lg:grid-cols-[1fr_22rem] gap-x-10 gap-y-6">
			<section>
				<h1>Watch</h1>
				<Notice said={said} problem={problem} />
				<Going on={on} site={site} attempt={attempt} />
				<Conditions conditions={data.conditions} site={site} attempt={attempt} />
				<ConditionForm
					site={site}
					settings={data.settings}
					onSave={(body) => attempt('It is watched from now on.', () => api('POST /watch/conditions', { body }))}
				/>
				{over.length > 0 && (
					<>
						<h2 className="mt-6">What is over</h2>
						<ul>
							{over.map((a) => (
								<li key={a.id} className="border-t border-line py-1" data-over={a.id}>
									{a.words}
									<span className="text-soft"> Over {dateTime(Date.parse(a.ended_at!), site.timezone)}.</span>
								</li>
							))}
						</ul>
					</>
				)}
			</section>
			<aside>
				<HowTold
					key={JSON.stringify(data.settings)}
					settings={data.settings}
					onSave={(body) => attempt('Saved.', () => api('PUT /watch/settings', { body }))}
				/>
				{data.failed.length > 0 && (
					<section className="mt-5 border-t border-line pt-3" aria-label="Not sent">
						<h2>What did not arrive</h2>
						<ul>
							{data.failed.map((f) => (
								<li key={f.id} className="text-[0.92rem] border-t border-line py-1">
									{f.way === 'mail' ? 'Mail' : 'Webhook'}, {ago(Date.parse(f.made_at), site.now)}:{' '}
									{f.state === 'dead' ? `given up after ${f.tries} tries` : `tried ${f.tries} times, goes on`}.{' '}
									<span className="text-soft">{f.problem}</span>
								</li>
							))}
						</ul>
					</section>
				)}
			</aside>
		</div>
	);
}
type Attempt = (words: string, work: () => Promise<unknown>) => Promise<boolean>;

function Going({ on, site, attempt }: { on: readonly Alert[]; site: SiteView; attempt: Attempt }) {
	if (on.length === 0) return <p className="text-soft my-2">Nothing goes on that is watched for.</p>;
	return (
		<ul className="my-2" aria-label="What goes on">
			{on.map((a) => (
				<AlertLine
					key={a.id}
					alert={a}
					site={site}
					onSnooze={(minutes, reason) =>
						attempt(minutes > 0 ? 'Snoozed.' : 'It is told again.', () =>
							api('POST /watch/alerts/:id/snooze', { params: { id: a.id }, body: { minutes, reason } }),
						)
					}
				/>
			))}
		</ul>
	);
}

function Conditions({
	conditions,
	site,
	attempt,
}: {
	conditions: readonly Condition[];
	site: SiteView;
	attempt: Attempt;
}) {
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	if (conditions.length === 0)
		return <p className="mt-4">Nothing is watched for yet. Say below what you want to be told of.</p>;
	return (
		<>
			<h2 className="mt-5">What is watched for</h2>
			<ul>
				{conditions.map((c) => (
					<li
						key={c.id}
						className="border-t border-line py-1 flex flex-wrap gap-x-4 items-center"
						data-condition={c.id}
					>
						<span className={`grow ${c.off ? 'text-soft line-through' : ''}`}>
							<strong>{name(c.station)}</strong> {c.words}
							{(c.by_mail || c.by_webhook) && (
								<span className="text-soft">
									, told by {[c.by_mail && 'mail', c.by_webhook && 'webhook'].filter(Boolean).join(' and ')} too
								</span>
							)}
						</span>
						<button
							type="button"
							className="act !font-normal"
							onClick={() =>
								void attempt(c.off ? 'It is watched again.' : 'It is watched no more.', () =>
									api('POST /watch/conditions/:id/off', { params: { id: c.id }, body: { off: !c.off } }),
								)
							}
						>
							{c.off ? 'Watch again' : 'No more'}
						</button>
					</li>
				))}
			</ul>
		</>
	);
}
