import { useState } from 'react';
import { QUANTITY, type Quantity } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import type { SeriesPoint as Point } from '@/core/series/point';
import { standingOf } from '@/core/trust/standing';
import { doneWords } from '@/words/en/event';
import { type Held, unheld } from '../data/held';
import { useAsked, useFollowing } from '../data/queries';
import { OpensEvent, OpensReading } from '../entry/OpensButton';
import { dateTime, displayUnit, shown, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { SeriesChart } from './SeriesChart';

const SPANS = [
	[14, '2 weeks'],
	[30, 'month'],
	[91, '3 months'],
	[366, 'year'],
] as const;
const DAY = 86_400_000;
const SHOWN = ['ph', 'ec', 'temp'] as const;

const useSeries = (quantity: Quantity, station: string, span: { from: string; to: string }) =>
	useAsked('GET /stations/:code/series', { params: { code: station }, query: { quantity, ...span } });

/** One station over time: pH, EC and temperature with their range, events along the foot, doubtful readings in their mark. */
export function Trends({ site: held, station: first }: { site: Held<SiteView>; station: string }) {
	const site = unheld(held);
	const [station, setStation] = useState(first);
	const [days, setDays] = useState<number>(30);
	useFollowing();
	const [table, setTable] = useState(false);
	const to = Math.ceil(site.now / 3_600_000) * 3_600_000;
	const from = to - days * DAY;

	const span = { from: formatTime(from), to: formatTime(to) };
	const asked = {
		ph: useSeries('ph', station, span),
		ec: useSeries('ec', station, span),
		temp: useSeries('temp', station, span),
	};
	const logged = useAsked('GET /events', { query: { station, ...span } });
	const events = logged.data?.events ?? [];
	const pending = SHOWN.some((q) => asked[q].isPending);
	const problem = [...SHOWN.map((q) => asked[q].error), logged.error].find((e) => e)?.message ?? '';
	const data = {
		ph: asked.ph.data?.points ?? [],
		ec: asked.ec.data?.points ?? [],
		temp: asked.temp.data?.points ?? [],
	};

	const info = site.stations.find((s) => s.info.code === station)!;
	const quantities = SHOWN.filter((q) => data[q].length > 0);
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
			{quantities.length === 0 && !pending && !problem && (
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
						points={data[q]}
						range={info.info.ranges[q] ?? null}
						events={i === quantities.length - 1 ? events : []}
						from={from}
						to={to}
						site={site}
					/>
				))}
			{!table && events.length > 0 && (
				<ul className="text-[0.85rem] text-soft flex flex-wrap gap-x-5" aria-label="Events">
					{events.slice(-6).map((e) => (
						<li key={e.id}>
							<OpensEvent id={e.id}>{dateTime(Date.parse(e.time), site.timezone)}</OpensEvent> {doneWords(e)}
						</li>
					))}
				</ul>
			)}
			{table && quantities.map((q) => <PointTable key={q} quantity={q} points={data[q]} site={site} />)}
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
