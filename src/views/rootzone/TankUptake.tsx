import type { UptakeShown } from '@/contract/uptake';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { TAKES_WORDS, UPTAKE_MISSING } from '@/words/en/uptake';
import { useAsked } from '../data/queries';
import { ecShown, ecUnit, ecWithUnit, volumeName, volumeShown, volumeWithUnit } from '../mix/typed';
import { dateTime, shortDay } from '../ui/format';
import { LoopSalt } from './LoopSalt';

type Bounds = { value: number; low: number; high: number };
const DAY = 86_400_000;

/** What the plants of a tank drink and take between additions, and the next top-up that lands on target. */
export function TankUptake({
	station,
	crop,
	days,
	site,
}: {
	station: string;
	crop: string;
	days: number;
	site: SiteView;
}) {
	const { data: u, error } = useAsked('GET /uptake', { query: { station, days } });
	if (error) return <p className="text-error">{error.message}</p>;
	if (!u) return null;
	return (
		<div className="grid lg:grid-cols-[1fr_22rem] gap-x-8 gap-y-4" data-uptake={u.missing ?? u.ec?.says ?? 'unknown'}>
			<aside className="lg:col-start-2 lg:row-start-1">
				<Says u={u} site={site} />
				<Next u={u} site={site} />
			</aside>
			<section className="lg:col-start-1 lg:row-start-1 min-w-0">
				<Stretches u={u} site={site} />
				<LoopSalt
					key={station}
					station={station}
					fullL={u.full_l}
					drunkL={u.ec?.per_day_l.value ?? null}
					crop={crop}
					site={site}
				/>
			</section>
		</div>
	);
}

const litres = (b: Bounds, site: SiteView): string =>
	`${volumeShown(Number(b.value.toPrecision(3)), site.units)} (${volumeShown(Number(Math.max(0, b.low).toPrecision(2)), site.units)} to ${volumeShown(Number(b.high.toPrecision(2)), site.units)}) ${volumeName(site.units)}`;

function Says({ u, site }: { u: UptakeShown; site: SiteView }) {
	const ec = (v: number) => ecShown(Math.max(0, v), site.units);
	return (
		<section className="note-rule">
			<h2>What the plants take</h2>
			{u.missing && <p data-uptake-missing>{UPTAKE_MISSING[u.missing]}</p>}
			{u.ec && (
				<>
					<p className="text-[1.1rem]">
						They drink <strong>{litres(u.ec.per_day_l, site)}</strong> a day.
					</p>
					{u.per_plant_l && <p>For each plant {litres(u.per_plant_l, site)}.</p>}
					{!u.ec.unknown && (
						<p data-taken>
							What they take has an EC of <strong>{ec(u.ec.taken.value)}</strong> ({ec(u.ec.taken.low)} to{' '}
							{ec(u.ec.taken.high)}), the tank stood at {ecWithUnit(u.ec.tank, site.units)}.
						</p>
					)}
					<p>{TAKES_WORDS[u.ec.says]}</p>
					{u.ions.map((i) => (
						<p key={i.quantity}>
							Of {QUANTITY[i.quantity].name.toLowerCase()} {i.taken.taken.value.toFixed(0)} mg/L (
							{Math.max(0, i.taken.taken.low).toFixed(0)} to {i.taken.taken.high.toFixed(0)}) in what they drank.
						</p>
					))}
					<p className="text-soft text-[0.85rem]">
						{u.known === 'mark'
							? 'Reckoned as if every top-up filled it to the same mark; with a level beside each EC it is known better.'
							: 'By the levels that were read with EC.'}
					</p>
				</>
			)}
		</section>
	);
}

function Next({ u, site }: { u: UptakeShown; site: SiteView }) {
	const n = u.next;
	if (!n || !u.now || u.target_us_cm === null) return null;
	const ec = (v: number) => ecShown(Math.max(0, v), site.units);
	const day = (d: number) => shortDay(site.now + d * DAY, site.timezone);
	return (
		<section className="note-rule" data-next-top-up>
			<h2>The next top-up</h2>
			<p>
				{n.to_days < 0.5 ? 'Due now' : `Due between ${day(n.from_days)} and ${day(n.to_days)}`}, when{' '}
				{volumeWithUnit(Math.round(n.least_l), site.units)} are left: add{' '}
				<strong>{volumeWithUnit(Number(n.add_l.toPrecision(2)), site.units)}</strong>
				{n.still_us_cm === null ? (
					<>
						{' '}
						at <strong>{ecWithUnit(Math.max(0, n.with_ec_us_cm.value), site.units)}</strong> ({ec(n.with_ec_us_cm.low)}{' '}
						to {ec(n.with_ec_us_cm.high)}), and it comes out at {ec(u.target_us_cm)}.
					</>
				) : (
					<>
						{' '}
						of the purest water there is: it then comes out at {ec(n.still_us_cm)}, still over {ec(u.target_us_cm)}.
						Drain part of it first.
					</>
				)}
			</p>
			<p className="text-soft">
				By then the tank stands at {ec(n.then_ec_us_cm.low)} to {ec(n.then_ec_us_cm.high)}. Measure before and after.
			</p>
			<p>
				<a className="underline" href="/mix?part=top-up">
					Reckon it with your waters and feeds
				</a>
			</p>
		</section>
	);
}

function Stretches({ u, site }: { u: UptakeShown; site: SiteView }) {
	const ec = (v: number) => ecShown(Math.max(0, v), site.units);
	if (u.stretches.length === 0)
		return <p className="text-soft">Between additions nothing could be reckoned in this span.</p>;
	return (
		<div className="overflow-x-auto">
			<table className="text-[0.95rem]" data-stretches={u.stretches.length}>
				<caption className="text-left text-soft whitespace-nowrap">
					Between what was added: how much was drunk, and how strong it was, {ecUnit(site.units)}
				</caption>
				<thead>
					<tr className="text-soft text-left">
						<th className="pr-6 font-normal">from</th>
						<th className="pr-6 font-normal">to</th>
						<th className="pr-6 font-normal">drunk, {volumeName(site.units)}</th>
						<th className="pr-6 font-normal">EC went</th>
						<th className="pr-6 font-normal">taken at EC</th>
					</tr>
				</thead>
				<tbody>
					{[...u.stretches].reverse().map((s) => (
						<tr key={s.from} className="border-t border-line">
							<td className="pr-6 whitespace-nowrap">{dateTime(Date.parse(s.from), site.timezone)}</td>
							<td className="pr-6 whitespace-nowrap">{dateTime(Date.parse(s.to), site.timezone)}</td>
							<td className="pr-6">{volumeShown(Number(s.drunk_l.toPrecision(3)), site.units)}</td>
							<td className="pr-6">
								{ec(s.ec_from)} → {ec(s.ec_to)}
							</td>
							<td className="pr-6">{s.drunk_l > 0 ? ec(s.taken) : '–'}</td>
						</tr>
					))}
				</tbody>
			</table>
			<p className="text-soft text-[0.85rem]">
				One stretch alone says little: a few litres beside what a meter and a mark are worth. Together they say more.
			</p>
		</div>
	);
}
