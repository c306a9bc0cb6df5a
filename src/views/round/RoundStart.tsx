import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
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
	/** Stations with something due. */
	stops: number;
	round: { id: number } | null;
	done: { left_out: { station: string; reason: string }[] } | null;
	site: SiteView;
	/** Listens for its key; only one of two on a page does. */
	keys?: boolean;
}) {
	const [problem, setProblem] = useState('');
	const begin = async () => {
		try {
			const { id } = await api('POST /rounds');
			location.href = `/bench?round=${id}`;
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	useHotkeys('g', () => void begin(), {
		enabled: keys && stops > 0,
		ignoreEventWhen: (e) => isAtControl(e.target),
	});
	const name = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	return (
		<div className="note-rule">
			<h2>Today’s walk</h2>
			{done && (
				<p className="mb-2" data-round-done>
					The round is done
					{done.left_out.length > 0
						? `; left out: ${done.left_out.map((l) => `${name(l.station)}${l.reason ? ` (${l.reason})` : ''}`).join(', ')}.`
						: ', nothing left out.'}
				</p>
			)}
			{stops > 0 ? (
				<button type="button" className="act act-main" onClick={begin} data-begin-round>
					{round ? 'Go on with the round' : 'Start the round'}: {stops}{' '}
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
