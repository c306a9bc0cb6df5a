import { QUANTITY, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { age } from '../ui/format';
import { lastSeen } from './draft';

export interface WalkStop {
	station: string;
	due: Quantity[];
	retest: Quantity[];
}

/** The stations in the order the water runs; on a round, with what is due at each. */
export function StationList({
	site,
	stops,
	current,
	done,
	now,
	onChoose,
}: {
	site: SiteView;
	/** Null: not on a round, every station. */
	stops: readonly WalkStop[] | null;
	current: string;
	done: ReadonlySet<string>;
	now: number;
	onChoose: (station: string) => void;
}) {
	const listed = stops ? site.stations.filter((s) => stops.some((x) => x.station === s.info.code)) : site.stations;
	const dueWords = (code: string): string => {
		const stop = stops?.find((x) => x.station === code);
		if (!stop) return '';
		return [
			...(stop.retest.length > 0 ? ['retest'] : []),
			...stop.due.map((q) => (q === 'temp' ? '°C' : QUANTITY[q].name)),
		].join(' ');
	};
	return (
		<>
			<div className="sm:hidden">
				<label className="field-label" htmlFor="station">
					Station
				</label>
				<select id="station" className="field" value={current} onChange={(e) => onChoose(e.target.value)}>
					{listed.map((s) => (
						<option key={s.info.code} value={s.info.code}>
							{s.name}
							{done.has(s.info.code) ? ' ✓' : ''}
						</option>
					))}
				</select>
			</div>
			<ul className="hidden sm:block" aria-label="Stations">
				{listed.map((s) => {
					const seen = lastSeen(site, s.info.code);
					const is = s.info.code === current;
					return (
						<li key={s.info.code}>
							<button
								type="button"
								tabIndex={-1}
								aria-pressed={is}
								data-stop={s.info.code}
								onClick={() => onChoose(s.info.code)}
								className={`w-full flex justify-between items-baseline gap-2 text-left px-2 py-1.5 border-l-4 cursor-pointer ${is ? 'border-base-content bg-lit font-bold' : 'border-line'}`}
							>
								<span>{s.name}</span>
								<span className="text-soft font-normal text-[0.85rem] text-right">
									{done.has(s.info.code)
										? 'just now'
										: stops
											? dueWords(s.info.code)
											: seen === null
												? ''
												: age(seen, now)}
								</span>
							</button>
						</li>
					);
				})}
			</ul>
			<p className="hidden sm:block text-soft text-[0.85rem] mt-2">
				<kbd>↑</kbd> <kbd>↓</kbd> change the station
			</p>
		</>
	);
}
