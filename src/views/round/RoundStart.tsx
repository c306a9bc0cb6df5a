import { useCallback, useEffect, useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { isAtControl } from '../ui/typing';

/** Begins the walk, goes on with it, or says how it went; and the ways of those who write by hand. */
export function RoundStart({
	stops,
	round,
	done,
	site,
	keys = false,
}: {
	stops: readonly { code: string }[];
	round: { id: number } | null;
	done: { leftOut: { station: string; reason: string }[] } | null;
	site: SiteView;
	/** Listens for its key; only one of two on a page does. */
	keys?: boolean;
}) {
	const [problem, setProblem] = useState('');
	const begin = useCallback(async () => {
		try {
			const { id } = await api('POST /rounds');
			location.href = `/bench?round=${id}`;
		} catch (error) {
			setProblem((error as Error).message);
		}
	}, []);
	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			if (!keys || isAtControl(e.target) || e.ctrlKey || e.metaKey || e.altKey) return;
			if (e.key === 'g' && stops.length > 0) begin();
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, [begin, keys, stops.length]);
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	return (
		<div className="note-rule">
			<h2>Today’s walk</h2>
			{done && (
				<p className="mb-2" data-round-done>
					The round is done
					{done.leftOut.length > 0
						? `; left out: ${done.leftOut.map((l) => `${name(l.station)}${l.reason ? ` (${l.reason})` : ''}`).join(', ')}.`
						: ', nothing left out.'}
				</p>
			)}
			{stops.length > 0 ? (
				<button type="button" className="act act-main" onClick={begin} data-begin-round>
					{round ? 'Go on with the round' : 'Start the round'}: {stops.length}{' '}
					<kbd className="!text-primary-content !border-primary-content">g</kbd>
				</button>
			) : (
				!done && <p className="text-soft">Nothing is due. Measure when you like.</p>
			)}
			<p className="mt-2">
				<a className="underline" href="/round/sheet">
					Print a sheet
				</a>
				{' · '}
				<a className="underline" href="/round/grid">
					Copy one in
				</a>{' '}
				·{' '}
				<a className="underline" href="/round/week">
					The week
				</a>
			</p>
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</div>
	);
}
