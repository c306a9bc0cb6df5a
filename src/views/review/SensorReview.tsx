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

const DAY = 86_400_000;
/** It was just asked for. */
const focus = (el: HTMLInputElement | null) => el?.focus();

/** Doubtful stretches of sensors, a line each: how long, what it showed, what it may be; kept or discarded as a whole. */
export function SensorReview({ site }: { site: SiteView }) {
	const { data } = useAsked('GET /sensors/episodes', {});
	const [{ said, problem }, say] = useState({ said: '', problem: '' });
	const episodes = data?.episodes ?? [];
	if (episodes.length === 0 && said === '' && problem === '') return null;
	const decide = async (e: SensorEpisode, kind: 'keep' | 'discard' | 'undo', reason = '') => {
		try {
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
			<p className="text-soft mb-2">
				What is doubtful is left out of the lines already, and nothing waits for it. Keep a stretch that was so; discard
				one to say why it was not.
			</p>
			<ul>
				{episodes.map((e) => (
					<Stretch key={e.id} e={e} site={site} onDecide={decide} />
				))}
			</ul>
		</section>
	);
}

function Stretch({
	e,
	site,
	onDecide,
}: {
	e: SensorEpisode;
	site: SiteView;
	onDecide: (e: SensorEpisode, kind: 'keep' | 'discard', reason?: string) => Promise<void>;
}) {
	const [reason, setReason] = useState<string | null>(null);
	const [since, until] = [Date.parse(e.since), Date.parse(e.until)];
	const station = site.stations.find((s) => s.info.code === e.station)?.name ?? e.station;
	const length = until - since;
	const lasted =
		length < 60_000
			? ''
			: length < 2 * 3_600_000
				? `${Math.round(length / 60_000)} min`
				: length < 2 * DAY
					? `${Math.round(length / 3_600_000)} h`
					: `${Math.round(length / DAY)} d`;
	const values =
		e.least === null || e.greatest === null
			? ''
			: e.least === e.greatest
				? shownWithUnit(e.quantity, e.least, site.units)
				: `${shown(e.quantity, e.least, site.units)} to ${shownWithUnit(e.quantity, e.greatest, site.units)}`;
	const days = Math.max(2, Math.ceil((site.now - since) / DAY) + 1);
	return (
		<li className="border-t border-line py-1.5 flex flex-wrap items-center gap-x-4 gap-y-1" data-stretch={e.id}>
			<span className="grow">
				<StandingMark standing={standingOf({ flag: e.flag, cause: e.cause })} /> <strong>{station}</strong>{' '}
				{QUANTITY[e.quantity].name}
				{values && `, ${values}`}: {causeWords(e.cause)}
				<span className="text-soft">
					{' '}
					· {dateTime(since, site.timezone)}
					{lasted && `, for ${lasted}`}
					{e.goes_on && ', and still'}
				</span>
			</span>
			{reason === null ? (
				<>
					<a
						className="underline min-h-8 inline-flex items-center"
						href={`/trends?part=lines&lines=${encodeURIComponent(`${e.station}.${e.quantity}`)}&days=${Math.min(days, 365)}`}
					>
						look
					</a>
					<button type="button" className="act !font-normal" onClick={() => void onDecide(e, 'keep')}>
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
						void onDecide(e, 'discard', reason.trim());
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
