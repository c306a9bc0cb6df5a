import { useState } from 'react';
import { api } from '../data/client';

/** Says on every page of a sample that it is one, and throws it away once that was meant. */
export function SampleNote() {
	const [sure, setSure] = useState(false);
	const [problem, setProblem] = useState('');
	const discard = async () => {
		try {
			await api('DELETE /sample');
			location.href = '/setup';
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	return (
		<div className="bg-lit border-b border-line no-print" data-sample-note>
			<p className="max-w-[1280px] mx-auto px-4 sm:px-5 py-1 flex flex-wrap gap-x-3 items-center">
				{sure ? (
					<>
						All of it goes, what you entered here too.
						<button type="button" className="act" onClick={discard} data-discard-sample>
							Throw it away
						</button>
						<button type="button" className="act !font-normal" onClick={() => setSure(false)}>
							Look on
						</button>
					</>
				) : (
					<>
						A sample, invented to look around in.
						<button type="button" className="underline cursor-pointer min-h-11" onClick={() => setSure(true)}>
							Throw it away and begin your own
						</button>
					</>
				)}
				{problem && (
					<span role="alert" className="text-error">
						{problem}
					</span>
				)}
			</p>
		</div>
	);
}
