import { useId, useState } from 'react';
import type { Episode } from '@/contract/episodes';
import type { SiteView } from '@/core/reading/site-view';
import { causeWords } from '@/words/en/cause';
import { dateTime } from '../ui/format';

/** One thing that happened to many readings: from when to when, how many, and one decision about all of them. */
export function ManyAtOnce({
	episode,
	site,
	onDecide,
}: {
	episode: Episode;
	site: SiteView;
	onDecide: (kind: 'keep' | 'discard', reason?: string) => void;
}) {
	const [reason, setReason] = useState<string | null>(null);
	const id = useId();
	const at = (time: string) => dateTime(Date.parse(time), site.timezone);
	return (
		<div className="border-l-4 border-line pl-3 my-2" data-episode={episode.readings}>
			<p>
				<strong>{episode.readings} readings</strong> in a row ({causeWords(episode.cause)}), from {at(episode.from)} to{' '}
				{at(episode.to)}
				{episode.instrument &&
					`, by ${site.instruments.find((i) => i.info.code === episode.instrument)?.name ?? episode.instrument}`}
				.
			</p>
			{reason === null ? (
				<div className="flex flex-wrap gap-1.5 mt-1">
					<button type="button" className="act" onClick={() => onDecide('keep')}>
						Keep all {episode.readings} <kbd>Y</kbd>
					</button>
					<button type="button" className="act" onClick={() => setReason('')}>
						Discard all {episode.readings}
					</button>
				</div>
			) : (
				<form
					className="mt-1"
					onSubmit={(e) => {
						e.preventDefault();
						onDecide('discard', reason);
					}}
				>
					<label className="field-label" htmlFor={id}>
						Why are they discarded?
					</label>
					<input
						id={id}
						className="field mb-1.5"
						value={reason}
						required
						// biome-ignore lint/a11y/noAutofocus: it was just asked for.
						autoFocus
						onChange={(e) => setReason(e.target.value)}
					/>
					<div className="flex flex-wrap gap-1.5">
						<button type="submit" className="act">
							Discard all {episode.readings}
						</button>
						<button type="button" className="act !font-normal" onClick={() => setReason(null)}>
							Not now
						</button>
					</div>
				</form>
			)}
		</div>
	);
}
