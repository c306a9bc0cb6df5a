import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { LeafShown } from '@/contract/leaf';
import { LEAVES, type Leaves, SIGNS, type Sign } from '@/core/crop/leaf';
import type { SiteView } from '@/core/reading/site-view';
import { eventLine } from '@/words/en/event';
import { chanceWords } from '@/words/en/explanation';
import { LEAF_CAUSE_WORDS, LEAF_CAUTION, LEAVES_WORDS, leafEvidenceWords, SIGN_WORDS } from '@/words/en/leaf';
import { useAsked } from '../data/queries';
import { OpensEvent } from '../entry/OpensButton';
import { ecWithUnit } from '../mix/typed';
import { dateTime, shownWithUnit } from '../ui/format';
import { AvailableBands } from './AvailableBands';

const SHOWN = 4;
/** A number that hardly changes anything is not worth a line. */
const SAYS = 0.25;

/** From what is seen on the plants to what may be behind it, with what the book knows and what to measure next. */
export function LeafCauses({ system, site }: { system: string; site: SiteView }) {
	const { register, watch } = useForm<{ leaves: Leaves; signs: Sign[] }>({
		defaultValues: { leaves: 'young', signs: [] },
	});
	const { leaves, signs } = watch();
	const [open, setOpen] = useState(false);
	return (
		<details className="note-rule mt-6" data-leaf onToggle={(e) => setOpen(e.currentTarget.open)}>
			<summary className="cursor-pointer min-h-11 py-1.5">
				<h2 className="inline">Something shows on the plants</h2>
			</summary>
			<div className="grid lg:grid-cols-[22rem_1fr] gap-x-8 gap-y-3 mt-1">
				<form onSubmit={(e) => e.preventDefault()}>
					<fieldset>
						<legend className="field-label">It began on</legend>
						{LEAVES.map((l) => (
							<label key={l} className="flex gap-2 items-center min-h-11">
								<input type="radio" value={l} {...register('leaves')} /> {LEAVES_WORDS[l]}
							</label>
						))}
					</fieldset>
					<fieldset className="mt-2">
						<legend className="field-label">What is seen</legend>
						<div className="grid grid-cols-2 gap-x-3">
							{SIGNS.map((s) => (
								<label key={s} className="flex gap-2 items-center min-h-11">
									<input type="checkbox" value={s} {...register('signs')} /> {SIGN_WORDS[s]}
								</label>
							))}
						</div>
					</fieldset>
				</form>
				{open && signs.length > 0 ? (
					<Found system={system} leaves={leaves} signs={signs} site={site} />
				) : (
					<p className="text-soft self-start">Tick what you see; which leaves showed it first says most.</p>
				)}
			</div>
		</details>
	);
}

function Found({ system, leaves, signs, site }: { system: string; leaves: Leaves; signs: Sign[]; site: SiteView }) {
	const { data: f, error } = useAsked('GET /leaf', { query: { system, leaves, signs: [...signs].sort().join(',') } });
	if (error)
		return (
			<p role="alert" className="text-error">
				{error.message}
			</p>
		);
	if (!f) return null;
	const [first, others] = [f.findings.slice(0, SHOWN), f.findings.slice(SHOWN, SHOWN + 4)];
	return (
		<div aria-live="polite" data-found={f.findings[0]?.cause}>
			<p>
				<strong>Check pH first.</strong> <PhSoFar f={f} site={site} />
			</p>
			{f.ph && <AvailableBands low={f.ph.low} high={f.ph.high} scarce={f.scarce} />}
			<ol className="grid md:grid-cols-2 gap-x-8 gap-y-3 mt-2">
				{first.map((c) => (
					<OneCause key={c.cause} found={c} site={site} />
				))}
			</ol>
			<p className="text-soft text-[0.9rem] mt-2">
				Less likely: {others.map((c) => LEAF_CAUSE_WORDS[c.cause].name).join('; ')}.
			</p>
			{f.changes.length > 0 && (
				<div className="mt-2 text-[0.95rem]">
					<h3 className="field-label">Done in these three weeks</h3>
					<ul>
						{f.changes.map((e) => (
							<li key={e.id}>
								<OpensEvent id={e.id}>{dateTime(Date.parse(e.time), site.timezone)}</OpensEvent>{' '}
								{eventLine(site.stations.find((s) => s.info.code === e.station)?.name ?? e.station, e)}
							</li>
						))}
					</ul>
				</div>
			)}
			<p className="border-l-4 border-warning pl-2 mt-3 text-[0.95rem]">{LEAF_CAUTION}</p>
		</div>
	);
}

function PhSoFar({ f, site }: { f: LeafShown; site: SiteView }) {
	if (!f.ph)
		return <>None was read where the roots are in three weeks: most of what looks like hunger turns out to be pH.</>;
	const name = site.stations.find((s) => s.info.code === f.ph?.station)?.name ?? f.ph.station;
	return (
		<>
			Most of what looks like hunger turns out to be pH. At {name} it was {f.ph.newest.toFixed(2)} on{' '}
			{dateTime(Date.parse(f.ph.newest_time), site.timezone)}, and {f.ph.low.toFixed(2)} to {f.ph.high.toFixed(2)} in
			three weeks; the range is {f.ph.range[0]} to {f.ph.range[1]}.
		</>
	);
}

function OneCause({ found: c, site }: { found: LeafShown['findings'][number]; site: SiteView }) {
	const words = LEAF_CAUSE_WORDS[c.cause];
	const as = {
		ec: (v: number) => ecWithUnit(v, site.units),
		temp: (v: number) => shownWithUnit('temp', v, site.units),
	};
	const side = (sign: number) => c.evidence.filter((e) => e.weight * sign >= SAYS).map((e) => leafEvidenceWords(e, as));
	const [pro, contra] = [side(1), side(-1)];
	return (
		<li data-leaf-cause={c.cause}>
			<p>
				<strong className="inline-block first-letter:uppercase">{words.name}</strong>{' '}
				<span className="text-soft">{chanceWords(c.chance)}</span>
			</p>
			{pro.length > 0 && <p className="text-[0.95rem]">For it: {pro.join('; ')}.</p>}
			{contra.length > 0 && <p className="text-[0.95rem]">Against it: {contra.join('; ')}.</p>}
			<p className="text-[0.95rem]">Next: {words.next}</p>
		</li>
	);
}
