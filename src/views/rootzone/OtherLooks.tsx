import { useForm } from 'react-hook-form';
import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { EXTRACT_METHODS, EXTRACTS, type ExtractMethod, lookInto } from '@/core/rootzone/extract';
import { DRAIN_WORDS } from '@/words/en/drain';
import { EXTRACT_WORDS } from '@/words/en/extract';
import { usualInstrument } from '../entry/InstrumentChoice';
import { ecShown, ecTyped, ecUnit } from '../mix/typed';
import { Field } from '../ui/Field';
import { KeptLooks } from './KeptLooks';

const BAND = { below: 'below', within: 'within', above: 'above' } as const;

/** Looks into the medium by another way than the drain; each by its own protocol, and never on the axis of another. */
export function OtherLooks({
	drains: d,
	name: system,
	site,
	onDone,
}: {
	drains: Drains;
	/** Of the system. */
	name: string;
	site: SiteView;
	onDone: (said: string, problem: string) => void;
}) {
	const feed = d.samples.at(-1)?.feed.value ?? null;
	const { register, watch } = useForm({ defaultValues: { method: 'press' as ExtractMethod, read: '', feed: '' } });
	const v = watch();
	const read = ecTyped(v.read, site.units);
	const against = v.feed.trim() === '' ? feed : (ecTyped(v.feed, site.units) ?? null);
	const { watch_us_cm: watchUsCm, act_us_cm: actUsCm } = d;
	const found = read === undefined || read < 0 ? null : lookInto(v.method, read, against, { watchUsCm, actUsCm });
	const ec = (us: number) => ecShown(us, site.units);
	const { name, steps } = EXTRACT_WORDS[v.method];
	const [low, high] = EXTRACTS[v.method].normalUsCm;
	return (
		<section className="note-rule mt-6 max-w-[46rem]" data-other-looks={found?.verdict ?? ''}>
			<h2>Other ways to look into the medium</h2>
			<p className="text-soft">
				Drain that went past the roots says little of what they stand in. Each way reads on a scale of its own: keep to
				one.
			</p>
			<div className="grid sm:grid-cols-3 gap-3 my-2">
				<Field label="By" width="w-full">
					<select className="field" {...register('method')}>
						{EXTRACT_METHODS.map((m) => (
							<option key={m} value={m}>
								{EXTRACT_WORDS[m].name}
							</option>
						))}
					</select>
				</Field>
				<Field label={`It reads, ${ecUnit(site.units)}`} width="w-full">
					<input className="field" inputMode="decimal" autoComplete="off" {...register('read')} />
				</Field>
				<Field label={`Feed, ${ecUnit(site.units)}`} width="w-full">
					<input
						className="field"
						inputMode="decimal"
						autoComplete="off"
						placeholder={feed === null ? '' : ec(feed)}
						{...register('feed')}
					/>
				</Field>
			</div>
			{found && (
				<div aria-live="polite" data-looked>
					<p className="text-[1.1rem]">
						The roots stand in about <strong>{ec(found.rootUsCm.value)}</strong>{' '}
						<span className="text-soft">
							({ec(found.rootUsCm.low)} to {ec(found.rootUsCm.high)} {ecUnit(site.units)})
						</span>
						{found.riseUsCm &&
							`, ${found.riseUsCm.value < 0 ? '−' : '+'}${ec(Math.abs(found.riseUsCm.value))} beside the feed`}
						.
					</p>
					<p>
						{found.verdict === 'check'
							? 'By this way it cannot be told whether that is too much: press a sample, or compare with the reading before.'
							: found.verdict && DRAIN_WORDS[found.verdict][1]}{' '}
						On the scale of {name.toLowerCase()} itself it is {BAND[found.band]} what is usual ({ec(low)} to {ec(high)},
						from memory).
					</p>
				</div>
			)}
			<KeptLooks
				key={v.method}
				system={{ code: d.system, name: system }}
				method={v.method}
				typed={v.read}
				usual={d.drain_station === null ? null : usualInstrument(site, d.drain_station, null)}
				site={site}
				onDone={onDone}
			/>
			<ol className="list-decimal pl-5 text-[0.95rem]">
				{steps.map((s) => (
					<li key={s}>{s}</li>
				))}
			</ol>
		</section>
	);
}
