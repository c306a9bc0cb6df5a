import type { Advice } from '@/contract/doses';

const WHEN = { hour: 'in an hour', evening: 'this evening', day: 'tomorrow' } as const;

/** Where the pH goes by itself after a dose, and what is left to hold it. Said before anything is poured. */
export function Afterwards({ advice }: { advice: Advice }) {
	if (!advice.rebound) return null;
	const left = advice.alkalinity_left_meq_l;
	return (
		<div className="w-full" data-afterwards>
			<table className="text-[0.95rem]">
				<caption className="text-left text-soft">By itself afterwards, as carbon dioxide leaves</caption>
				<thead>
					<tr>
						{advice.rebound.map((r) => (
							<th key={r.when} scope="col" className="pr-6 font-normal text-soft">
								{WHEN[r.when]}
							</th>
						))}
						{left && (
							<th scope="col" className="pr-6 font-normal text-soft">
								alkalinity left, meq/L
							</th>
						)}
					</tr>
				</thead>
				<tbody>
					<tr>
						{advice.rebound.map((r) => (
							<td key={r.when} className="pr-6" data-later={r.when}>
								<strong>{r.ph.toFixed(1)}</strong>{' '}
								<span className="text-soft">
									{r.low_ph.toFixed(1)} to {r.high_ph.toFixed(1)}
								</span>
							</td>
						))}
						{left && (
							<td className="pr-6" data-alkalinity-left>
								<strong>{left.value.toFixed(1)}</strong>{' '}
								<span className="text-soft">
									{left.low.toFixed(1)} to {left.high.toFixed(1)}
								</span>
							</td>
						)}
					</tr>
				</tbody>
			</table>
			{advice.rebound_ends && <p className="text-soft text-[0.92rem] max-w-[75ch]">{advice.rebound_ends}</p>}
		</div>
	);
}
