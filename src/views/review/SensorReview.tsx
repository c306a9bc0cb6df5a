import { useState } from 'react';
import type { SensorEpisode } from '@/contract/sensors';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { causeWords } from '@/words/en/cause';
import { api } from '../data/client';
import { askAgain, useAsked } from '../data/queries';
import { dateTime, shown, shownWithUnit } from '../ui/format';
import { Notice } from '../ui/Notice';
import { StandingMark } from '../ui/StandingMark';
import { SensorsApart } from './SensorsApart';
import { type StretchGroup, stretchGroups } from './stretches';

const DAY = 86_400_000;
/** It was just asked for. */
const focus = (el: HTMLInputElement | null) => el?.focus();

/** Doubtful stretches of sensors, a line each: how long, what it showed, what it may be; kept or discarded as a whole. */
export function SensorReview({ site }: { site: SiteView }) {
	const { data } = useAsked('GET /sensors/episodes', {});
	const apart = useAsked('GET /sensors/apart', {}).data?.apart ?? [];
	const [{ said, problem }, say] = useState({ said: '', problem: '' });
	const episodes = data?.episodes ?? [];
	if (episodes.length === 0 && apart.length === 0 && said === '' && problem === '') return null;
	const decide = async ({ episodes: all }: StretchGroup, kind: 'keep' | 'discard', reason = '') => {
		try {
			for (const e of all)
				await api('POST /sensors/episodes/:id/decision', {
					params: { id: e.id },
					body: { kind, reason, until: e.until },
				});
			await askAgain();
			say({
				said: kind === 'keep' ? 'Kept: the line believes it.' : 'Discarded: the line leaves it out.',
				problem: '',
			});
		} catch (error) {
			say({ said: '', problem: (error as Error).message });
		}
	};
	return (
		<section className="border-t border-line mt-8 pt-3" aria-label="Sensors">
			<h2 className="text-[1.2rem]">Stretches of sensors</h2>
			<Notice said={said} problem={problem} />
			{apart.map((a) => (
				<SensorsApart key={`${a.station} ${a.quantity} ${a.first} ${a.second}`} apart={a} site={site} />
			))}
			<p className="text-soft mb-2">
				What is doubtful is left out of the lines already, and nothing waits for it. Keep a stretch that was so; discard
				one to say why it was not.
			</p>
			<ul>
				{stretchGroups(episodes).map((g) => (
					<Stretch key={g.key} group={g} site={site} onDecide={decide} />
				))}
			</ul>
		</section>
	);
}

/** What a quantity showed meanwhile. */
function showed(e: SensorEpisode, site: SiteView): string {
	const name = QUANTITY[e.quantity].name;
	if (e.least === null || e.greatest === null) return name;
	const greatest = shownWithUnit(e.quantity, e.greatest, site.units);
	const values = e.least === e.greatest ? greatest : `${shown(e.quantity, e.least, site.units)} to ${greatest}`;
	return e.quantity === 'ph'
		? e.least === e.greatest
			? greatest
			: `pH ${values.replace('pH ', '')}`
		: `${name} ${values}`;
}

function lasted(ms: number): string {
	if (ms < 60_000) return '';
	if (ms < 2 * 3_600_000) return `${Math.round(ms / 60_000)} min`;
	return ms < 2 * DAY ? `${Math.round(ms / 3_600_000)} h` : `${Math.round(ms / DAY)} d`;
}

function Stretch({
	group: g,
	site,
	onDecide,
}: {
	group: StretchGroup;
	site: SiteView;
	onDecide: (g: StretchGroup, kind: 'keep' | 'discard', reason?: string) => Promise<void>;
}) {
	const [reason, setReason] = useState<string | null>(null);
	const e = g.episodes[0]!;
	const station = site.stations.find((s) => s.info.code === e.station)?.name ?? e.station;
	const length = lasted(g.until - g.since);
	const days = Math.max(2, Math.ceil((site.now - g.since) / DAY) + 1);
	const lines = g.episodes.slice(0, 3).map((x) => `${x.station}.${x.quantity}`);
	return (
		<li
			className="border-t border-line py-1.5 flex flex-wrap lg:flex-nowrap items-center gap-x-4 gap-y-1"
			data-stretch={g.key}
		>
			<span className="grow">
				<StandingMark standing={standingOf({ flag: e.flag, cause: e.cause })} /> <strong>{station}</strong>{' '}
				{g.episodes.map((x) => showed(x, site)).join(', ')}: {causeWords(e.cause)}
				<span className="text-soft">
					{' '}
					· {dateTime(g.since, site.timezone)}
					{length && `, for ${length}`}
					{g.goesOn && ', and still'}
				</span>
			</span>
			{reason === null ? (
				<>
					<a
						className="underline min-h-8 inline-flex items-center"
						href={`/trends?part=lines&lines=${encodeURIComponent(lines.join())}&days=${Math.min(days, 365)}`}
					>
						look
					</a>
					<button type="button" className="act !font-normal" onClick={() => void onDecide(g, 'keep')}>
						Keep
					</button>
					<button type="button" className="act !font-normal" onClick={() => setReason('')}>
						Discard
					</button>
				</>
			) : (
				<form
					className="flex gap-2 items-center"
					onSubmit={(x) => {
						x.preventDefault();
						void onDecide(g, 'discard', reason.trim());
					}}
				>
					<label className="flex items-center gap-2">
						why
						<input
							className="field !w-52"
							ref={focus}
							maxLength={200}
							value={reason}
							onChange={(x) => setReason(x.target.value)}
						/>
					</label>
					<button type="submit" className="act" disabled={reason.trim() === ''}>
						Discard
					</button>
					<button type="button" className="act !font-normal" onClick={() => setReason(null)}>
						Back
					</button>
				</form>
			)}
		</li>
	);
}
