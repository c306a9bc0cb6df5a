import { useState } from 'react';
import { api } from '../data/client';
import { askAgain, useAsked } from '../data/queries';
import { dateTime } from '../ui/format';
import { Notice } from '../ui/Notice';

/** Files of readings that were brought in; each can be taken back as a whole. */
export function Imported({ timezone }: { timezone: string }) {
	const all = useAsked('GET /imports', {}).data?.imports ?? [];
	const [{ said, problem }, say] = useState({ said: '', problem: '' });
	if (all.length === 0) return null;
	const undo = async (key: string) => {
		try {
			const { undone } = await api('POST /imports/:key/undo', { params: { key } });
			await askAgain();
			say({ said: `${undone} readings are taken back; they stay in the history.`, problem: '' });
		} catch (error) {
			say({ said: '', problem: (error as Error).message });
		}
	};
	return (
		<section className="note-rule mt-6" aria-label="Brought in">
			<h2>Brought in</h2>
			<Notice said={said} problem={problem} />
			<ul>
				{all.map((i) => (
					<li key={i.key} className="border-t border-line py-1.5 flex items-center gap-3" data-import={i.key}>
						<span className="grow">
							{i.readings.toLocaleString('en-GB')} readings{' '}
							<span className="text-soft">
								· {dateTime(Date.parse(i.at), timezone)}, by {i.who}
								{i.standing < i.readings && ` · ${i.standing} of them stand`}
							</span>
						</span>
						{i.standing > 0 && (
							<button type="button" className="act !font-normal" onClick={() => void undo(i.key)}>
								Take back
							</button>
						)}
					</li>
				))}
			</ul>
		</section>
	);
}
