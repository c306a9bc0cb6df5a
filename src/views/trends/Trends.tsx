import { useEffect, useState } from 'react';
import { QUANTITY, type Quantity } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import type { SeriesPoint as Point } from '@/core/series/point';
import { standingOf } from '@/core/trust/standing';
import { api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { OpensReading } from '../entry/OpensReading';
import { dateTime, displayUnit, shown, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { type ChartEvent, SeriesChart } from './SeriesChart';

const SPANS = [
	[14, '2 weeks'],
	[30, 'month'],
	[91, '3 months'],
	[366, 'year'],
] as const;
const DAY = 86_400_000;
const KINDS: Record<string, string> = {
	water_added: 'water added',
	nutrient_added: 'nutrient added',
	acid_added: 'acid added',
	base_added: 'base added',
	solution_changed: 'solution changed',
};

/** One station over time: pH, EC and temperature with their range, events along the foot, doubtful readings in their mark. */
export function Trends({ site: held, station: first }: { site: Held<SiteView>; station: string }) {
	const site = unheld(held);
	const [station, setStation] = useState(first);
	const [days, setDays] = useState<number>(30);
	const [data, setData] = useState<Partial<Record<Quantity, Point[]>>>({});
	const [events, setEvents] = useState<ChartEvent[]>([]);
	const [problem, setProblem] = useState('');
	const [table, setTable] = useState(false);
	const to = Math.ceil(site.now / 3_600_000) * 3_600_000;
	const from = to - days * DAY;

	useEffect(() => {
		let stale = false;
		const query = { from: formatTime(from), to: formatTime(to) };
		const series = (quantity: Quantity) =>
			api('GET /stations/:code/series', { params: { code: station }, query: { quantity, ...query } }).then(
				(r) => [quantity, r.points] as const,
			);
		Promise.all([
			Promise.all((['ph', 'ec', 'temp'] as const).map(series)),
			api('GET /events', { query: { station, ...query } }),
		])
			.then(([all, answered]) => {
				if (stale) return;
				setData(Object.fromEntries(all));
				setEvents(
					answered.events.map((e) => ({
						at: Date.parse(e.time),
						kind: e.kind,
						words: `${KINDS[e.kind] ?? e.kind.replace('_', ' ')}${e.amount === null ? '' : ` ${e.amount} ${e.unit}`}${e.product ? ` ${e.product}` : ''}${e.note ? `: ${e.note}` : ''}`,
					})),
				);
				setProblem('');
			})
			.catch((e: Error) => !stale && setProblem(e.message));
		return () => {
			stale = true;
		};
	}, [station, from, to]);

	const info = site.stations.find((s) => s.info.code === station)!;
	const quantities = (['ph', 'ec', 'temp'] as const).filter((q) => (data[q]?.length ?? 0) > 0);
	return (
		<div>
			<div className="flex flex-wrap items-end gap-4 mb-2">
				<h1 className="grow sm:grow-0">{info.name}</h1>
				<div className="w-44">
					<label className="field-label" htmlFor="t-station">
						Station
					</label>
					<select id="t-station" className="field" value={station} onChange={(e) => setStation(e.target.value)}>
						{site.stations.map((s) => (
							<option key={s.info.code} value={s.info.code}>
								{s.name}
							</option>
						))}
					</select>
				</div>
				<fieldset className="flex gap-1" aria-label="Span">
					{SPANS.map(([d, name]) => (
						<button
							key={d}
							type="button"
							aria-pressed={days === d}
							className={`act ${days === d ? 'act-main' : '!font-normal !border-line'}`}
							onClick={() => setDays(d)}
						>
							{name}
						</button>
					))}
				</fieldset>
				<button
					type="button"
					className="ml-auto underline cursor-pointer min-h-10"
					aria-pressed={table}
					onClick={() => setTable(!table)}
				>
					{table ? 'as charts' : 'as a table'}
				</button>
			</div>
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			{quantities.length === 0 && !problem && (
				<p className="text-soft mt-6">
					Nothing was read here in this time.{' '}
					<a className="underline" href={`/bench?station=${encodeURIComponent(station)}`}>
						Take a reading
					</a>
				</p>
			)}
			{!table &&
				quantities.map((q, i) => (
					<SeriesChart
						key={`${station}-${q}-${days}`}
						quantity={q}
						points={data[q]!}
						range={info.info.ranges[q] ?? null}
						events={i === quantities.length - 1 ? events : []}
						from={from}
						to={to}
						site={site}
					/>
				))}
			{!table && events.length > 0 && (
				<ul className="text-[0.85rem] text-soft flex flex-wrap gap-x-5" aria-label="Events">
					{events.slice(-6).map((e, i) => (
						<li key={i}>
							{dateTime(e.at, site.timezone)} {e.words}
						</li>
					))}
				</ul>
			)}
			{table && quantities.map((q) => <PointTable key={q} quantity={q} points={data[q]!} site={site} />)}
		</div>
	);
}

function PointTable({ quantity, points, site }: { quantity: Quantity; points: readonly Point[]; site: SiteView }) {
	const unit = displayUnit(quantity, site.units);
	return (
		<table className="mb-6 text-[0.92rem]">
			<caption className="text-left font-bold py-1">
				{QUANTITY[quantity].name} {unit ? unitLabel(unit) : ''}
			</caption>
			<thead>
				<tr>
					<th scope="col" className="pr-6">
						Time
					</th>
					<th scope="col" className="pr-6">
						Value
					</th>
					<th scope="col" className="pr-6">
						± 95 %
					</th>
					<th scope="col">Standing</th>
				</tr>
			</thead>
			<tbody>
				{[...points].reverse().map((p) => (
					<tr key={p.at} className="border-t border-line">
						<td className="pr-6">
							<OpensReading id={p.id}>{dateTime(p.at, site.timezone)}</OpensReading>
						</td>
						<td className="pr-6 font-bold">{shown(quantity, p.value, site.units)}</td>
						<td className="pr-6">{shown(quantity, 1.96 * p.u, site.units)}</td>
						<td>
							<StandingMark standing={standingOf({ ...p, restated: p.was })} word />
						</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}
