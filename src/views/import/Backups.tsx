import { useState } from 'react';
import { begin } from '../data/client';
import { followJob } from '../data/job';
import { askAgain, useAsked } from '../data/queries';
import { dateTime } from '../ui/format';
import { Notice } from '../ui/Notice';

const size = (bytes: number): string =>
	bytes < 1e6 ? `${Math.max(Math.round(bytes / 1000), 1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

/** What is backed up by itself each night, where it lies, and whether it was tried out. */
export function Backups({ timezone }: { timezone: string }) {
	const { data, error } = useAsked('GET /backups', {});
	const [{ said, problem }, say] = useState({ said: '', problem: '' });
	const [busy, setBusy] = useState(false);
	// Whoever may not see them is told nothing about them.
	if (error) return null;
	const now = async () => {
		setBusy(true);
		try {
			const job = await begin('POST /backups', { query: { try: '1' } });
			const { file, problem } = await followJob('POST /backups', 'backup', job, () => {});
			await askAgain();
			say({
				said: problem ? '' : `${file} is written; brought back into a database of its own it was the same.`,
				problem,
			});
		} catch (e) {
			say({ said: '', problem: (e as Error).message });
		} finally {
			setBusy(false);
		}
	};
	return (
		<section className="note-rule mt-6" aria-label="Backups">
			<h2>Backups</h2>
			<p className="text-soft mb-2">
				Each night by itself: seven days, five weeks and twelve months are kept, and one is tried out each week.
				{data && (
					<>
						{' '}
						They lie in <code className="break-all">{data.folder}</code>; copy that folder to another machine now and
						then.
					</>
				)}
			</p>
			<Notice said={said} problem={problem} />
			<button type="button" className="act" disabled={busy} onClick={() => void now()}>
				{busy ? 'It is written and tried out…' : 'Back up now, and try it out'}
			</button>
			<ul className="mt-3">
				{data?.backups.map((b) => (
					<li key={b.file} className="border-t border-line py-1.5" data-backup={b.file}>
						<strong>{b.file}</strong> {size(b.bytes)}
						<span className="text-soft">
							{' '}
							·{' '}
							{b.problem !== ''
								? b.problem
								: b.verified_at !== null
									? `tried out ${dateTime(Date.parse(b.verified_at), timezone)}`
									: 'not tried out yet'}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}
