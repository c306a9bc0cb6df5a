import { QUANTITIES, QUANTITY } from '@/core/quantity';
import { formatTime, startOfDay } from '@/core/quantity/time';
import { parseDay } from '@/core/quantity/when';
import type { SiteView } from '@/core/reading/site-view';

export const STANDINGS = ['sound', 'doubtful', 'bad'] as const;
export interface Filter {
	station: string;
	quantity: string;
	standing: string;
	from: string;
	to: string;
	all: boolean;
}
export const EVERYTHING: Filter = { station: '', quantity: '', standing: '', from: '', to: '', all: false };

/** A filter as the server is asked. A day is the site’s, wherever it is looked at from. */
export function askedOf(f: Filter, now: number, zone: string) {
	const day = (text: string) => {
		const date = parseDay(text, now, zone);
		const at = date === null ? null : startOfDay(date, zone);
		return at === null ? undefined : formatTime(at);
	};
	return {
		station: f.station || undefined,
		quantity: f.quantity || undefined,
		standing: STANDINGS.find((s) => s === f.standing),
		from: day(f.from),
		to: day(f.to),
		all: f.all ? ('1' as const) : undefined,
	};
}

/** Which readings the Ledger shows. */
export function Filters({
	site,
	filter,
	onFilter,
}: {
	site: SiteView;
	filter: Filter;
	onFilter: (change: Partial<Filter>) => void;
}) {
	const select = (
		id: 'station' | 'quantity' | 'standing',
		label: string,
		options: readonly (readonly [string, string])[],
	) => (
		<div>
			<label className="field-label" htmlFor={`l-${id}`}>
				{label}
			</label>
			<select id={`l-${id}`} className="field" value={filter[id]} onChange={(e) => onFilter({ [id]: e.target.value })}>
				<option value="">all</option>
				{options.map(([value, name]) => (
					<option key={value} value={value}>
						{name}
					</option>
				))}
			</select>
		</div>
	);
	return (
		<>
			{select(
				'station',
				'Station',
				site.stations.map((s) => [s.info.code, s.name] as const),
			)}
			{select(
				'quantity',
				'Quantity',
				QUANTITIES.filter((q) => q !== 'tds').map((q) => [q, QUANTITY[q].name] as const),
			)}
			{select(
				'standing',
				'Standing',
				STANDINGS.map((s) => [s, s] as const),
			)}
			{(['from', 'to'] as const).map((k) => (
				<div key={k}>
					<label className="field-label" htmlFor={`l-${k}`}>
						{k === 'from' ? 'From' : 'Before'}
					</label>
					<input
						id={`l-${k}`}
						className="field !w-36"
						autoComplete="off"
						placeholder={k === 'from' ? '1 jul, mon' : 'today'}
						value={filter[k]}
						aria-invalid={filter[k].trim() !== '' && parseDay(filter[k], site.now, site.timezone) === null}
						onChange={(e) => onFilter({ [k]: e.target.value })}
					/>
				</div>
			))}
			<label className="flex items-center gap-2 min-h-10">
				<input type="checkbox" checked={filter.all} onChange={(e) => onFilter({ all: e.target.checked })} /> also
				corrected and undone
			</label>
		</>
	);
}
