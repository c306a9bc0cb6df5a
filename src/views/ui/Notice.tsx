import type { ReactNode } from 'react';

/** What became of what was done, and what went wrong: it stays until something else is said. */
export function Notice({ said, problem, children }: { said: string; problem: string; children?: ReactNode }) {
	return (
		<div aria-live="polite">
			{said !== '' && problem === '' && (
				<p className="border-l-4 border-secondary pl-3 py-1 mb-2" data-notice>
					{said} {children}
				</p>
			)}
			{problem !== '' && (
				<p role="alert" className="text-error mb-2">
					{problem}
				</p>
			)}
		</div>
	);
}
