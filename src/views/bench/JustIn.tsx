import { useCallback, useEffect, useState } from 'react';
import type { Change } from '@/contract/meters';
import { QUANTITY, type Quantity } from '@/core/quantity';
import { standingOf } from '@/core/trust/standing';
import { useChanges } from '../data/changes';
import { PAGE } from '../entry/sample';
import { unitLabel } from '../ui/format';

export interface Arrival {
	at: number;
	station: string;
	own: boolean;
	readings: NonNullable<Change['readings']>;
}

/** What came in at this station since the page was opened, by whoever: two people at one tank see each other. */
export function JustIn({ arrivals, name }: { arrivals: readonly Arrival[]; name: (instrument: string) => string }) {
	const [, tick] = useState(0);
	useEffect(() => {
		const timer = setInterval(() => tick((n) => n + 1), 20_000);
		return () => clearInterval(timer);
	}, []);
	if (arrivals.length === 0) return null;
	return (
		<section className="border-t border-line pt-2 mt-3" aria-label="Just entered here" data-just-in={arrivals.length}>
			<h2>Just entered here</h2>
			<ul>
				{arrivals.slice(-4).map((a) => (
					<li key={`${a.at}${a.own}`}>
						<span className="text-soft">{a.own ? 'you' : 'somebody else'}, </span>
						{a.readings
							.map((r) =>
								`${QUANTITY[r.quantity as Quantity].name} ${r.value} ${unitLabel(r.unit)}${standingOf(r) === 'sound' ? '' : ' (doubtful)'}`.trim(),
							)
							.join(', ')}
						{a.readings[0]?.instrument && <span className="text-soft"> with {name(a.readings[0].instrument)}</span>}
					</li>
				))}
			</ul>
			{arrivals.some((a) => !a.own) && (
				<p className="text-soft text-[0.9rem]">Both are kept. If they are of the same water, one confirms the other.</p>
			)}
		</section>
	);
}

/** What was entered here and elsewhere since the page was opened. `onOthers` is told when somebody else was at it. */
export function useArrivals(onOthers: () => void): Arrival[] {
	const [arrivals, setArrivals] = useState<Arrival[]>([]);
	const onChange = useCallback(
		(change: Change) => {
			if (change.kind !== 'readings' || !change.station || !change.readings) return;
			const { station, readings } = change;
			const own = change.by === PAGE;
			setArrivals((list) => [...list.slice(-MOST_KEPT), { at: Date.now(), station, own, readings }]);
			if (!own) onOthers();
		},
		[onOthers],
	);
	useChanges(onChange);
	return arrivals;
}
const MOST_KEPT = 30;
