import { useEffect, useState } from 'react';
import { api } from '../data/client';
import { followJob } from '../data/job';

/** Says while readings are judged again, after something was learned of the past, and what it changed. */
export function JudgingAgain() {
	const [words, setWords] = useState('');
	const [changed, setChanged] = useState<number | null>(null);
	useEffect(() => {
		let stale = false;
		api('GET /judging')
			.then(async ({ job }) => {
				if (job === null || stale) return;
				const progress = (w: string) => !stale && setWords(`Judging again what was learned anew: ${w}`);
				const result = await followJob('judging', 'judging', job, progress);
				if (!stale) setChanged(result.changed);
			})
			// What waits is done all the same; only its progress is not seen.
			.catch(() => !stale && setWords(''));
		return () => {
			stale = true;
		};
	}, []);
	if (changed !== null)
		return (
			<p role="status" className="mb-2">
				{changed === 0 ? (
					'Everything was judged again; nothing changed.'
				) : (
					<>
						{changed.toLocaleString('en-GB')} {changed === 1 ? 'verdict has' : 'verdicts have'} changed.{' '}
						<a className="underline" href="/review">
							Show the queue as it is now
						</a>
					</>
				)}
			</p>
		);
	return words ? (
		<p role="status" className="mb-2">
			{words}
		</p>
	) : null;
}
