import type { Week } from '@/contract/week';
import { feedName } from '@/core/mix/feed/plan';
import type { SiteView } from '@/core/reading/site-view';
import { addressOf } from '../data/client';
import { atSiteHere } from '../data/site-here';
import { OpensReading } from '../entry/OpensButton';
import { volumeWithUnit } from '../mix/typed';
import { dateTime } from '../ui/format';
import { Part } from './Part';

/** The batches of the week, with what each step was and showed. */
export function WeekBatches({ batches, site }: { batches: Week['batches']; site: SiteView }) {
	const when = (time: string) => dateTime(Date.parse(time), site.timezone);
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	return (
		<Part title="Mixed" empty={batches.length === 0 && 'No batch was begun.'}>
			<ul>
				{batches.map((b) => (
					<li key={b.id} data-week-batch={b.id}>
						{when(b.started_at)} · <strong>{name(b.station)}</strong>, {volumeWithUnit(b.plan.litres, site.units)} of{' '}
						{b.name || b.plan.recipe || feedName(b.plan.pours)}
						{b.finished_at === null && ', not finished'}
						{b.log.length > 0 && ': '}
						{b.log.map((s, i) => (
							<span key={`${s.time}${s.words}`}>
								{i > 0 && ' · '}
								<OpensReading id={s.reading_id}>{s.words}</OpensReading>
								{s.doubt !== null && ' (doubted)'}
							</span>
						))}
					</li>
				))}
			</ul>
		</Part>
	);
}

/** The photos and files of the week. */
export function WeekPhotos({ attached }: { attached: Week['attached'] }) {
	if (attached.length === 0) return null;
	return (
		<Part title="Photos and files" empty={false}>
			<ul className="flex flex-wrap gap-3" data-week-photos={attached.length}>
				{attached.map((a) => {
					const path = atSiteHere(addressOf('GET /attachments/:id/file', { params: { id: a.id } }));
					return (
						<li key={a.id} className="max-w-60">
							{a.type.startsWith('image/') ? (
								<figure>
									<img src={path} alt={a.name} className="max-h-48 max-w-full" />
									<figcaption className="text-soft text-[0.85rem] break-words">{a.name}</figcaption>
								</figure>
							) : (
								<a href={path} className="underline break-words">
									{a.name}
								</a>
							)}
						</li>
					);
				})}
			</ul>
		</Part>
	);
}
