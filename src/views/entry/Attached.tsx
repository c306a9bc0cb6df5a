import { useState } from 'react';
import { addressOf, api } from '../data/client';
import { sendable } from '../data/picture';
import { askAgain, useAsked } from '../data/queries';
import { enter } from '../data/queue';
import { atSiteHere } from '../data/site-here';
import { FilePick } from './FilePick';

/** Photos and files beside a reading or an event: seen, added from the camera or a folder, taken away. */
export function Attached({ of }: { of: { reading: number } | { event: number } }) {
	const { data } = useAsked('GET /attachments', { query: of });
	const [busy, setBusy] = useState(false);
	const [said, setSaid] = useState({ words: '', wrong: false });
	const attempt = async (work: () => Promise<string>) => {
		setBusy(true);
		try {
			setSaid({ words: await work(), wrong: false });
			await askAgain();
		} catch (error) {
			setSaid({ words: (error as Error).message, wrong: true });
		} finally {
			setBusy(false);
		}
	};
	const add = (files: readonly File[]) =>
		attempt(async () => {
			let waits = '';
			for (const file of files) {
				const body = { ...of, ...(await sendable(file)) };
				const result = await enter('POST /attachments', { body }, file.name);
				if (result.kind === 'kept') waits = result.message;
			}
			return waits || (files.length === 1 ? 'It is kept.' : `${files.length} are kept.`);
		});
	return (
		<div className="mt-2" data-attached={data?.attachments.length ?? 0}>
			<ul className="flex flex-wrap gap-3">
				{data?.attachments.map((a) => {
					const path = atSiteHere(addressOf('GET /attachments/:id/file', { params: { id: a.id } }));
					return (
						<li key={a.id} className="border border-line p-1 max-w-48">
							<a href={path} target="_blank" rel="noreferrer" className="block underline break-words">
								{a.type.startsWith('image/') ? (
									<img src={path} alt={a.name} className="max-h-36 max-w-44" loading="lazy" />
								) : (
									a.name
								)}
							</a>
							<button
								type="button"
								className="underline cursor-pointer min-h-11 text-soft"
								aria-label={`Take ${a.name} away`}
								disabled={busy}
								onClick={() =>
									attempt(async () => {
										await api('DELETE /attachments/:id', { params: { id: a.id } });
										return `${a.name} is gone.`;
									})
								}
							>
								take away
							</button>
						</li>
					);
				})}
			</ul>
			<FilePick busy={busy} onPick={add} />
			<p aria-live="polite" className={said.wrong ? 'text-error' : 'text-soft'} data-attached-said>
				{said.words}
			</p>
		</div>
	);
}
