import type { ReactNode } from 'react';
import type { Week } from '@/contract/week';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { eventLine } from '@/words/en/event';
import { type Held, unheld } from '../data/held';
import { OpensEvent } from '../entry/OpensButton';
import { columnHead, dateTime, longDate, shown, shownWithUnit, unitLabel } from '../ui/format';
import { KeepFile } from '../ui/KeepFile';
import { Part } from './Part';
import { WeekBatches, WeekPhotos } from './WeekBatches';

const DAY = 86_400_000;

/** A week of the book on paper: what was read and what of it counts, what was done, calibrated and decided, and what is open. */
export function WeekReport({ site: held, week: w }: { site: Held<SiteView>; week: Week }) {
	const site = unheld(held);
	const when = (time: string) => dateTime(Date.parse(time), site.timezone);
	const station = (code: string) =>
		site.stations.find((s) => s.info.code === code)?.name ?? site.retired.find((r) => r.code === code)?.name ?? code;
	const other = (days: number) =>
		`/round/week?from=${new Date(Date.parse(`${w.day}T00:00Z`) + days * DAY).toISOString().slice(0, 10)}`;
	return (
		<div data-week={w.day}>
			<div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 mb-1">
				<h1>
					{site.name}, week from {longDate(Date.parse(w.from), site.timezone)}
				</h1>
				<button type="button" className="act act-main no-print" onClick={() => print()}>
					Print
				</button>
				<KeepFile part="[data-week]" title={`${site.name}, week from ${w.day}`} name={`week-${w.day}.html`} />
				<a className="underline no-print min-h-8" href={other(-7)}>
					The week before
				</a>
				{Date.parse(w.to) < site.now && (
					<a className="underline no-print min-h-8" href={other(7)}>
						The week after
					</a>
				)}
			</div>
			<p className="text-soft mb-3">
				to {longDate(Date.parse(w.to) - 1, site.timezone)} · times of {site.timezone} · printed{' '}
				{dateTime(site.now, site.timezone)}
			</p>
			<Part title="Read" empty={w.read.length === 0 && 'Nothing was read.'}>
				<Table heads={['station', '', 'readings', 'least', 'mean', 'greatest', 'in range', 'put right', 'last']}>
					{w.read.map((r, i) => {
						const value = (v: number | null) => (v === null ? '–' : shown(r.quantity, v, site.units));
						return (
							<tr key={`${r.station}${r.quantity}`} className="border-t border-line">
								<th scope="row" className="pr-4 !text-base-content">
									{w.read[i - 1]?.station === r.station ? '' : station(r.station)}
								</th>
								<td className="pr-4">{columnHead(r.quantity, site.units)}</td>
								<td className="pr-4">
									{r.counted}
									{r.counted < r.taken && ` of ${r.taken}`}
								</td>
								<td className="pr-4">{value(r.least)}</td>
								<td className="pr-4 font-bold">{value(r.mean)}</td>
								<td className="pr-4">{value(r.greatest)}</td>
								<td className="pr-4">
									{r.in_range === null || r.counted === 0 ? '' : `${Math.round((100 * r.in_range) / r.counted)} %`}
								</td>
								<td className="pr-4">{r.restated > 0 ? r.restated : ''}</td>
								<td className="whitespace-nowrap">{when(r.newest)}</td>
							</tr>
						);
					})}
				</Table>
			</Part>
			<Part title="Open doubts" empty={w.open.length === 0 && 'None of this week.'}>
				<ul>
					{w.open.map((r) => (
						<li key={r.id}>
							□ {when(r.time)} · <strong>{station(r.station)}</strong> {QUANTITY[r.quantity].name} {r.value}{' '}
							{unitLabel(r.unit)} · {r.message}
						</li>
					))}
				</ul>
				{w.open_in_all > w.open.length && <p className="text-soft">{w.open_in_all} wait in all.</p>}
			</Part>
			<Part title="Done to the water" empty={w.events.length === 0 && 'Nothing was logged.'}>
				<ul className="sm:columns-2 print:columns-2">
					{w.events.map((e) => (
						<li key={e.id}>
							<OpensEvent id={e.id}>{when(e.time)}</OpensEvent> · {eventLine(station(e.station), e)}
						</li>
					))}
				</ul>
			</Part>
			<WeekBatches batches={w.batches} site={site} />
			<WeekPhotos attached={w.attached} />
			<Part title="Calibrated" empty={w.calibrations.length === 0 && 'No probe was in a standard.'}>
				<ul>
					{w.calibrations.map((c) => (
						<li key={c.id}>
							{when(c.time)} ·{' '}
							<strong>{site.instruments.find((i) => i.info.code === c.instrument)?.name ?? c.instrument}</strong>{' '}
							{QUANTITY[c.quantity].name}, {c.kind === 'check' ? 'checked' : 'adjusted'}:{' '}
							{c.points
								.map((p) => {
									const v = (x: number | null) => (x === null ? '–' : shownWithUnit(c.quantity, x, site.units));
									return `${v(p.as_found)} found in ${v(p.nominal)}${p.as_left === null ? '' : `, left at ${v(p.as_left)}`}`;
								})
								.join('; ')}
						</li>
					))}
				</ul>
			</Part>
			<Part title="Decided" empty={w.decided.length === 0 && 'Nothing was decided or corrected.'}>
				<ul>
					{w.decided.map((d) => (
						<li key={`${d.id}${d.kind}`}>
							{when(d.time)} · {d.who}: {station(d.station)} {QUANTITY[d.quantity].name} {d.value} {unitLabel(d.unit)}{' '}
							of {when(d.taken)} {d.kind === 'undo' ? 'taken back' : d.kind}
							{d.reason && `, “${d.reason}”`}
						</li>
					))}
				</ul>
			</Part>
			<p className="text-soft text-[0.85rem]">
				Readings that are not believed are taken and not counted. “Put right”: restated by later calibrations and by
				whom the probe met; the digits that were typed stay in the Ledger.
			</p>
		</div>
	);
}

function Table({ heads, children }: { heads: readonly string[]; children: ReactNode }) {
	return (
		<div className="overflow-x-auto">
			<table className="w-full">
				<thead>
					<tr>
						{heads.map((h) => (
							<th key={h} scope="col" className="pr-4 text-left">
								{h}
							</th>
						))}
					</tr>
				</thead>
				<tbody>{children}</tbody>
			</table>
		</div>
	);
}
