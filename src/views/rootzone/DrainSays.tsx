import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { DRAIN_WORDS } from '@/words/en/drain';
import { OpensReading } from '../entry/OpensButton';
import { ecShown, ecWithUnit, volumeWithUnit } from '../mix/typed';
import { ago } from '../ui/format';

/** More drain than this is water and feed run away (common practice, no source). */
const MUCH = 0.5;
const percent = (x: number): string => `${Math.round(100 * x)} %`;

/** What the newest drain says, in numbers with their bounds, and what to do in the order it is tried. */
export function DrainSays({ drains: d, site }: { drains: Drains; site: SiteView }) {
	const s = d.samples.at(-1);
	if (!s)
		return (
			<section className="note-rule" data-drain-says="none">
				<h2>What the drain says</h2>
				<p>
					Nothing yet. Read EC and pH of feed and drain within half a day of one another, in a rinsed cup, at the same
					place each time; with what was given and what ran off it says most.
				</p>
			</section>
		);
	const week = d.weeks.at(-1)?.balance ?? null;
	const b = s.balance;
	const [word, sentence] = DRAIN_WORDS[s.verdict];
	const ec = (v: number) => ecShown(v, site.units);
	// Cups say no more than three digits.
	const litres = (v: number) => volumeWithUnit(Number(v.toPrecision(3)), site.units);
	const low = b !== null && 100 * b.leaching_fraction.value < d.drain_pct[0];
	const high = b !== null && 100 * b.leaching_fraction.value > d.drain_pct[1];
	return (
		<section className="note-rule" data-drain-says={s.verdict} aria-live="polite">
			<h2>
				{ago(Date.parse(s.time), site.now)}: {word}
			</h2>
			<p className="text-[1.1rem]">
				Drain <OpensReading id={s.drain.id}>{ecWithUnit(s.drain.value, site.units)}</OpensReading>, feed{' '}
				<OpensReading id={s.feed.id}>{ec(s.feed.value)}</OpensReading>:{' '}
				<strong>
					{s.ec_delta_us_cm < 0 ? '−' : '+'}
					{ec(Math.abs(s.ec_delta_us_cm))}
				</strong>{' '}
				<span className="text-soft whitespace-nowrap">± {ec(1.96 * s.ec_delta_u)}</span>
			</p>
			<p>
				{sentence} Watched from {ec(d.watch_us_cm)}, acted on from {ec(d.act_us_cm)} over the feed ({d.preset}).
				{s.close && ' It is close to a limit: another reading may fall on its other side.'}
			</p>
			{s.ph_delta !== null && (
				<p>
					pH {s.drain_ph?.value.toFixed(2)} beside {s.feed_ph?.value.toFixed(2)}: {s.ph_delta < 0 ? '−' : '+'}
					{Math.abs(s.ph_delta).toFixed(2)}.
				</p>
			)}
			{b ? (
				<p data-drain-balance>
					{percent(b.leaching_fraction.value)} ran off{' '}
					<span className="text-soft">
						({percent(b.leaching_fraction.low)} to {percent(b.leaching_fraction.high)})
					</span>
					, {d.drain_pct[0]} to {d.drain_pct[1]} % is aimed at{low ? ': too little' : high ? ': more than wanted' : ''}.
					Of {litres(b.applied_l)} the roots kept {litres(b.drunk_l.value)}
					{d.watering.plants ? `, ${Math.round((1000 * b.drunk_l.value) / d.watering.plants)} mL for each plant` : ''}.{' '}
					{uptakeWords(b, 'this run', site)}
				</p>
			) : (
				<p className="text-soft">How much was given and ran off was not measured with it.</p>
			)}
			{week && <p data-drain-week>{uptakeWords(week, 'the last seven days', site)}</p>}
			{s.actions.length > 0 && (
				<details className="mt-2" open={d.advice.step === null}>
					<summary className="cursor-pointer">What is done about it, in the order of the trade</summary>
					<ol className="list-decimal pl-5" data-drain-actions={s.actions.length}>
						{s.actions.map((a) => (
							<li key={a}>{a}</li>
						))}
					</ol>
				</details>
			)}
			{d.outlook && <p data-drain-outlook>{outlookWords(d.outlook, d, site)}</p>}
			<p className="text-soft text-[0.85rem] mt-2">
				Drain and flushing water is discharge: where it may go, local rules say. One step at a time, and read again
				after a day.
			</p>
		</section>
	);
}

function uptakeWords(b: NonNullable<Drains['samples'][number]['balance']>, of: string, site: SiteView): string {
	const u = b.uptake_ec_us_cm;
	if (u === null) return '';
	const ec = (v: number) => ecShown(v, site.units);
	if (b.flushing > 0.9) return `In ${of} more salt ran off than was given (${percent(b.flushing)} sure).`;
	if (b.uptake_unknown)
		return `What the plants took of the salt cannot be told from ${of}: with so much drain its EC lies anywhere from ${ec(Math.max(0, u.low))} to ${ec(u.high)}.`;
	return `By ${of} they drank at EC ${ec(u.value)} (${ec(Math.max(0, u.low))} to ${ec(u.high)}), as long as nothing builds up.`;
}

function outlookWords(o: NonNullable<Drains['outlook']>, d: Drains, site: SiteView): string {
	const ec = (v: number) => ecShown(v, site.units);
	const settles = `While they drink so and ${percent(o.fraction)} runs off, the drain settles near ${ec(o.drain_us_cm.value)} (${ec(o.drain_us_cm.low)} to ${ec(o.drain_us_cm.high)})`;
	if (o.needed_fraction === null) return `${settles}: the plants take salt as fast as it comes.`;
	if (o.needed_fraction > MUCH)
		return `${settles}; to stay within ${ec(d.watch_us_cm)} over the feed more than ${percent(MUCH)} would have to run off: feed weaker instead.`;
	return `${settles}; to stay within ${ec(d.watch_us_cm)} over the feed ${percent(o.needed_fraction)} would have to.`;
}
