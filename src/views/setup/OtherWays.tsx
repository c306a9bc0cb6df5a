import { useState } from 'react';
import { api } from '../data/client';
import { BringBack } from './BringBack';

/** Instead of questions: a sample to look at, or a book that was. */
export function OtherWays({
	alone,
	onProblem,
}: {
	/** There is no other site: an archive may come back. */
	alone: boolean;
	onProblem: (words: string) => void;
}) {
	const [sampling, setSampling] = useState(false);
	const sample = async () => {
		setSampling(true);
		try {
			await api('POST /sample');
			location.href = '/';
		} catch (error) {
			onProblem((error as Error).message);
			setSampling(false);
		}
	};
	return (
		<>
			<p className="mt-3 text-soft">
				Or{' '}
				<button
					type="button"
					className="underline cursor-pointer min-h-11 text-base-content"
					data-sample
					disabled={sampling}
					onClick={sample}
				>
					look around in a sample first
				</button>
				: an invented yard with eight months of readings, thrown away with one press when you have seen enough.
			</p>
			{alone && <BringBack />}
			{sampling && <p aria-live="polite">It is being written; that takes some seconds…</p>}
		</>
	);
}
