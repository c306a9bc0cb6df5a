import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import type { Evidence, StoredReading } from '@/contract/readings';
import { chanceInRange } from '@/core/probe/normal';
import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { mayBeDecided } from '@/core/trust/trust';
import { api } from '../data/client';
import { Decide } from '../entry/Decide';
import { amount } from '../probes/words';
import { chanceWords, dateTime, shown, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';

export type History = Got<Contract['GET /readings/:id/history']>;

/** A reading in the Ledger; open, it tells its history and where its uncertainty comes from. */
export function Row({
	r,
	site,
	current,
	open,
	history,
	onToggle,
	onDecided,
}: {
	r: StoredReading;
	site: SiteView;
	current: boolean;
	open: boolean;
	history: History | null;
	onToggle: () => void;
	onDecided: () => void;
}) {
	const gone = r.superseded || r.decision === 'undo';
	const station = site.stations.find((s) => s.info.code === r.station)?.name ?? r.station;
	return (
		<>
			<tr
				data-row={r.id}
				className={`border-b border-line cursor-pointer ${current ? 'bg-zone' : ''} ${gone ? 'line-through text-soft' : ''}`}
				onClick={onToggle}
			>
				<td className="py-1 pr-3 whitespace-nowrap">{dateTime(Date.parse(r.time), site.timezone)}</td>
				<td className="pr-3">{station}</td>
				<td className="pr-3">{QUANTITY[r.quantity].name}</td>
				<td className="pr-3 font-bold whitespace-nowrap">
					{shown(r.quantity, r.restated ?? r.canonical_value, site.units)}
				</td>
				<td className="pr-3 hidden md:table-cell text-soft whitespace-nowrap">
					{r.value} {unitLabel(r.unit)}
				</td>
				<td className="pr-3">
					{r.instrument ? (site.instruments.find((i) => i.info.code === r.instrument)?.name ?? r.instrument) : ''}
				</td>
				<td className="pr-3 whitespace-nowrap">
					<button
						type="button"
						className="cursor-pointer"
						aria-expanded={open}
						aria-label={`${standingOf(r)}: history`}
						tabIndex={current ? 0 : -1}
					>
						<StandingMark standing={standingOf(r)} word />
					</button>
				</td>
				<td className="hidden md:table-cell text-soft max-w-[26ch] truncate">{r.note || r.cause}</td>
			</tr>
			{open && (
				<tr className="border-b border-line bg-lit">
					<td colSpan={8} className="p-3">
						{!gone && mayBeDecided(r) ? (
							<Decide reading={r} site={site} now={Date.now()} onDone={onDecided} />
						) : (
							<p>{r.message || 'The reading fits what this station showed before.'}</p>
						)}
						<Explain r={r} site={site} evidence={history?.evidence ?? null} />
						<h2 className="mt-2 text-[0.9rem]">History</h2>
						<ul className="text-[0.9rem]" data-history>
							{history?.readings.map((h) => (
								<li key={h.id}>
									{dateTime(Date.parse(h.entered_at), site.timezone)} · {h.entered_by} entered{' '}
									<strong>
										{h.value} {unitLabel(h.unit)}
									</strong>
									{h.supersedes ? ' in place of the value before' : ''}
									{h.superseded ? ' (replaced)' : ''}
								</li>
							))}
							{history?.decisions.map((d) => (
								<li key={d.id}>
									{dateTime(Date.parse(d.time), site.timezone)} · {d.who}: {d.kind === 'undo' ? 'taken back' : d.kind}
									{d.reason ? `, “${d.reason}”` : ''}
								</li>
							))}
						</ul>
						{r.decision === 'undo' && <RestoreButton id={r.id} onDone={onDecided} />}
					</td>
				</tr>
			)}
		</>
	);
}

function RestoreButton({ id, onDone }: { id: number; onDone: () => void }) {
	return (
		<button
			type="button"
			className="act mt-2"
			onClick={() => api('POST /readings/:id/decision', { params: { id }, body: { kind: 'restore' } }).then(onDone)}
		>
			Put it back
		</button>
	);
}

/** Where a reading's uncertainty comes from, and what calibrations made of it. */
function Explain({ r, site, evidence }: { r: StoredReading; site: SiteView; evidence: Evidence | null }) {
	const parts = r.uncertainty_parts;
	if (!parts || r.uncertainty === null) return null;
	const total = parts.instrument ** 2 + parts.standards ** 2 + parts.drift ** 2;
	const share = (v: number) => `${Math.round((100 * v ** 2) / total)} %`;
	const range = site.stations.find((s) => s.info.code === r.station)?.info.ranges[
		r.quantity === 'tds' ? 'ec' : r.quantity
	];
	const value = r.restated ?? r.canonical_value;
	return (
		<div className="mt-2 text-[0.9rem]" data-explain>
			<p>
				<strong>
					{shown(r.quantity, value, site.units)} ± {shown(r.quantity, 1.96 * r.uncertainty, site.units)}
				</strong>{' '}
				at 95 %: instrument {share(parts.instrument)}, standards {share(parts.standards)}, the probe’s error{' '}
				{share(parts.drift)}.
				{range && ` In range with ${chanceWords(chanceInRange(value, r.uncertainty, range))} chance.`}
			</p>
			{r.restated !== null && (
				<p>
					Read as {shown(r.quantity, r.canonical_value, site.units)}; restated
					{r.restated_provisional
						? ', provisionally: two meters erred alike in one bottle, and a second lot has not agreed yet'
						: ''}
					{r.restated_partial ? '; the standards do not bracket it, so it is less sure' : ''}.{' '}
					<a
						className="underline"
						href={`/probes/${encodeURIComponent(r.instrument ?? '')}/${r.quantity === 'ph' ? 'ph' : 'ec'}`}
					>
						The probe’s story
					</a>
				</p>
			)}
			{evidence && <EvidenceLines evidence={evidence} quantity={r.quantity === 'ph' ? 'ph' : 'ec'} site={site} />}
			{r.restated_status === 'rejected' && (
				<p>The probe was so far off at the next calibration that this reading cannot be put right.</p>
			)}
			{r.restated_status === 'before-jump' && (
				<p>Something happened to the probe before its next calibration, so its error then is not known.</p>
			)}
		</div>
	);
}

/** What the error of the probe is known from: which calibrations, which other probes, and how much each counted. */
function EvidenceLines({ evidence: e, quantity, site }: { evidence: Evidence; quantity: 'ph' | 'ec'; site: SiteView }) {
	const when = (time: string | null) => (time === null ? null : dateTime(Date.parse(time), site.timezone));
	const belief = (b: { error: number; u: number }) =>
		`${b.error > 0 ? '+' : ''}${amount(quantity, b.error)} ± ${amount(quantity, 1.96 * b.u)}`;
	const [from, to] = [when(e.from), when(e.to)];
	return (
		<ul className="mt-1" data-evidence>
			<li>
				{from && to
					? `Calibrated ${from} and ${to}`
					: from
						? `Calibrated ${from}, not since`
						: to
							? `Not calibrated before; calibrated ${to}`
							: 'Never calibrated here'}
				: by that alone its error was {belief(e.calibrations)}.
			</li>
			{e.beside.map((b) => (
				<li key={b.other}>
					Beside {b.other} in {b.times === 1 ? 'one water' : `${b.times} waters`}
					{b.counted < b.times
						? `, ${b.times - b.counted} left out as ${b.times - b.counted === 1 ? 'a slip' : 'slips'}`
						: ''}
					: {Math.round(100 * b.share)} % of what is known of it.
				</li>
			))}
			{e.beside.length > 0 && <li>By all together its error was {belief(e.all)}.</li>}
		</ul>
	);
}
