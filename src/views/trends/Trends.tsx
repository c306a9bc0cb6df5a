import { useMemo, useState } from 'react';
import type { StoredEvent } from '@/contract/events';
import type { Quantity } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { doneWords } from '@/words/en/event';
import { type Held, unheld } from '../data/held';
import { pointsOf } from '../data/points';
import { useAsked, useFollowing } from '../data/queries';
import { OpensEvent } from '../entry/OpensButton';
import { dateTime } from '../ui/format';
import { Explained } from './Explained';
import { PointTable } from './PointTable';
import { SeriesChart } from './SeriesChart';
import { stageRanges } from './stage-ranges';
import { TrendLine } from './TrendLine';

const SPANS = [
	[14, '2 weeks'],
	[30, 'month'],
	[91, '3 months'],
	[366, 'year'],
] as const;
const DAY = 86_400_000;
/** The same nothing each time: a chart is drawn anew where what it shows is another thing. */
const NONE: readonly StoredEvent[] = [];
const SHOWN = ['ph', 'ec', 'temp'] as const;
/** Of what sensors tell these are looked at first. */
const SENSED: readonly Quantity[] = ['ph', 'ec', 'temp'];

const useSeries = (quantity: Quantity, station: string, span: { from: string; to: string }) =>
	useAsked('GET /stations/:code/series', { params: { code: station }, query: { quantity, of: 'hands', ...span } });

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
	const trends = useAsked('GET /trends', { query: { station, ...span } }).data?.trends ?? [];
	const plans = useAsked('GET /plans', {}).data?.plans;
	const explained = useAsked('GET /explanations', { query: { station, ...span } }).data?.explanations ?? [];
	const nodes = useAsked('GET /nodes', {}).data?.nodes ?? [];
	const told = nodes
		.filter((n) => n.station === station)
		.flatMap((n) => n.series.map((x) => x.quantity))
		.filter((q) => SENSED.includes(q));
	const events = logged.data?.events ?? NONE;
	const pending = SHOWN.some((q) => asked[q].isPending);
	const problem = [...SHOWN.map((q) => asked[q].error), logged.error].find((e) => e)?.message ?? '';
	const data = {
		ph: pointsOf(asked.ph.data),
		ec: pointsOf(asked.ec.data),
		temp: pointsOf(asked.temp.data),
	};

	const info = site.stations.find((s) => s.info.code === station)!;
	const fed = info.info.kind === 'reservoir' || info.info.kind === 'mix';
	const plan = fed ? plans?.find((p) => p.system === info.info.system) : undefined;
	// Drawn anew where they are others, not each time.
	const stages = useMemo(
		() => ({
			ph: stageRanges(plan, 'ph', { from, to }, site.timezone),
			ec: stageRanges(plan, 'ec', { from, to }, site.timezone),
			temp: [],
		}),
		[plan, from, to, site],
	);
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
				{told.length > 0 && (
					<a
						className="underline min-h-10 inline-flex items-center"
						href={`/trends?part=lines&lines=${encodeURIComponent(told.map((q) => `${station}.${q}`).join())}`}
					>
						with its sensors
					</a>
				)}
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
					<div key={`${station}-${q}-${days}`}>
						<TrendLine trend={trends.find((t) => t.quantity === q)} site={site} />
						<SeriesChart
							quantity={q}
							points={data[q]}
							range={info.info.ranges[q] ?? null}
							stages={stages[q]}
							events={i === quantities.length - 1 ? events : NONE}
							from={from}
							to={to}
							site={site}
						/>
						<Explained found={explained.find((x) => x.quantity === q)} station={station} site={site} />
					</div>
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
