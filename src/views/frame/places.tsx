import { useState } from 'react';

export const PLACES = [
	['round', 'Round', '/'],
	['bench', 'Bench', '/bench'],
	['probes', 'Probes', '/probes'],
	['water', 'Water', '/water'],
	['mix', 'Mix', '/mix'],
	['root-zone', 'Root zone', '/root-zone'],
	['trends', 'Trends', '/trends'],
] as const;
const THUMB = PLACES.filter(([code]) => code === 'round' || code === 'bench' || code === 'trends');
const TUCKED = PLACES.filter((p) => !THUMB.includes(p));
export const MORE = [
	['review', 'Review', '/review'],
	['watch', 'Watch', '/watch'],
	['ledger', 'Ledger', '/ledger'],
	['events', 'Events', '/ledger/events'],
	['files', 'Files', '/files'],
	['people', 'People', '/people'],
	['setup', 'Setup', '/setup'],
] as const;

/** Places within the thumb's reach, on a phone; the others behind one press. */
export function ThumbNav({ place }: { place: string }) {
	const [menu, setMenu] = useState(false);
	return (
		<nav className="sm:hidden fixed bottom-0 inset-x-0 z-20 border-t border-line bg-base-100" aria-label="Places">
			{menu && (
				<div className="border-b border-line p-2 grid grid-cols-3">
					{[...TUCKED, ...MORE].map(([code, name, href]) => (
						<a key={code} href={href} className="min-h-12 flex items-center justify-center">
							{name}
						</a>
					))}
				</div>
			)}
			<div className="grid grid-cols-4">
				{THUMB.map(([code, name, href]) => (
					<a
						key={code}
						href={href}
						aria-current={place === code ? 'page' : undefined}
						className={`min-h-14 flex items-center justify-center border-t-[3px] ${place === code ? 'border-base-content font-bold' : 'border-transparent'}`}
					>
						{name}
					</a>
				))}
				<button type="button" className="min-h-14 cursor-pointer" aria-expanded={menu} onClick={() => setMenu(!menu)}>
					More
				</button>
			</div>
		</nav>
	);
}
