import type { ReactNode } from 'react';

/** What became of what was done, and what went wrong: it stays until something else is said, and in sight of who is further down. */
export function Notice({ said, problem, children }: { said: string; problem: string; children?: ReactNode }) {
	return (
		<div aria-live="polite" className="sticky top-0 z-10 bg-base-100 has-[p]:shadow-[0_1px_0_var(--color-line)]">
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
