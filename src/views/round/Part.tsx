import type { ReactNode } from 'react';

/** A part of a report, and what is said where there is nothing in it. */
export function Part({ title, empty, children }: { title: string; empty: string | false; children: ReactNode }) {
	return (
		<section className="note-rule break-inside-avoid-page text-[0.95rem]">
			<h2>{title}</h2>
			{empty ? <p className="text-soft">{empty}</p> : children}
		</section>
	);
}
