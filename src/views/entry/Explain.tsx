import type { Evidence, StoredReading } from '@/contract/readings';
import { chanceInRange } from '@/core/probe/normal';
import type { SiteView } from '@/core/reading/site-view';
import { amount } from '../probes/words';
import { chanceWords, dateTime, shown } from '../ui/format';

/** Where a reading's uncertainty comes from, and what calibrations made of it. */
export function Explain({ r, site, evidence }: { r: StoredReading; site: SiteView; evidence: Evidence | null }) {
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
