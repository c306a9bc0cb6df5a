import { AVAILABLE_PH, NUTRIENTS, type Nutrient } from '@/core/crop/availability';

const [FROM, TO] = [4, 8] as const;
const at = (ph: number): number => (100 * (Math.min(Math.max(ph, FROM), TO) - FROM)) / (TO - FROM);

/** Between which pH each nutrient is at hand, with the pH of the last weeks across. */
export function AvailableBands({ low, high, scarce }: { low: number; high: number; scarce: readonly Nutrient[] }) {
	return (
		<figure className="my-2 max-w-[34rem]" data-bands>
			<figcaption className="text-soft text-[0.85rem]">
				Where each is at hand over pH, and the pH of these weeks. Common diagrams, from memory, right to half a pH.
			</figcaption>
			<div className="grid grid-cols-[7rem_1fr] gap-x-2 text-[0.85rem]">
				{NUTRIENTS.map((n) => {
					const [from, to] = AVAILABLE_PH[n];
					return (
						<div key={n} className="contents">
							<span className={scarce.includes(n) ? 'font-bold' : ''}>
								{n}
								{scarce.includes(n) && <span className="sr-only">: scarce at this pH</span>}
							</span>
							<span className="relative h-5 border-b border-line" aria-hidden="true">
								<span
									className="absolute inset-y-1 bg-[var(--zone)] border border-line"
									style={{ left: `${at(from)}%`, right: `${100 - at(to)}%` }}
								/>
								<span
									className="absolute inset-y-0 border-x-2 border-[var(--q-ph)] opacity-80"
									style={{ left: `${at(low)}%`, right: `${100 - at(high)}%` }}
								/>
							</span>
						</div>
					);
				})}
				<span className="text-soft">pH</span>
				<span className="relative h-6 text-soft" aria-hidden="true">
					{[5, 6, 7].map((ph) => (
						<span key={ph} className="absolute -translate-x-1/2" style={{ left: `${at(ph)}%` }}>
							{ph}
						</span>
					))}
				</span>
			</div>
		</figure>
	);
}
