import { type ReactNode, useState } from 'react';
import type { WaterSource } from '@/contract/pages';
import { QUANTITIES, QUANTITY, type SeriesQuantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { consequenceWords, RUN_RULE_WORDS } from '@/words/en/source';
import { ControlChart } from '../ui/ControlChart';
import { QUANTITY_HUE, shown, shownWithUnit } from '../ui/format';

/** The record of one source: its chart, whether it has changed, and what hangs on that. */
export function SourceRecord({
	source,
	site,
	day: short,
	children,
}: {
	source: WaterSource;
	site: SiteView;
	day: (at: number) => string;
	children: ReactNode;
}) {
	const { code } = source;
	const [quantity, setQuantity] = useState<SeriesQuantity>('ec');
	const measured = QUANTITIES.filter((q): q is SeriesQuantity => q !== 'tds' && source.charts[q] !== undefined);
	const chart = source.charts[quantity] ?? source.charts.ec;
	const named =
		quantity === 'ec' || quantity === 'ph' ? QUANTITY[quantity].name : QUANTITY[quantity].name.toLowerCase();
	const shifts = chart.shifts;
	const open = shifts.find((s) => !s.confirmed);
	return (
		<section className="note-rule" aria-label={`${source.name}, chart`}>
			<div className="flex flex-wrap gap-3 items-baseline">
				<h2 className="text-[1.2rem]">{source.name}</h2>
				{measured.map((q) => (
					<button
						key={q}
						type="button"
						aria-pressed={quantity === q}
						className={`cursor-pointer min-h-8 border-b-2 ${quantity === q ? 'border-base-content font-bold' : 'border-transparent text-soft'}`}
						onClick={() => setQuantity(q)}
					>
						{QUANTITY[q].name}
					</button>
				))}
			</div>
			<div data-chart-source={code}>
				<ControlChart
					points={chart.points}
					segments={chart.segments}
					format={(v) => shown(quantity, v, site.units)}
					day={short}
					hue={QUANTITY_HUE[quantity] ?? 'currentColor'}
					label={`${source.name}: ${named} over time${chart.segments.length > 0 ? ' with its mean and limits' : ''}`}
				/>
			</div>
			<p className="text-soft text-[0.85rem]">
				{chart.wants === 'more'
					? ''
					: chart.segments.length > 0
						? 'Band: mean ± 2.66 times the mean moving range. A square breaks a run rule.'
						: 'As it was read; it comes and goes with the season and is not judged as a change of the water.'}
			</p>
			{chart.wants === 'more' && (
				<p className="mt-1">
					Twelve readings make a baseline; until then nothing is judged. There are {chart.points.length}.
				</p>
			)}
			{open && (
				<p className="mt-1" data-shift="open">
					<strong>It may have changed:</strong> {shownWithUnit(quantity, open.to, site.units)} since {short(open.since)}
					, after {shown(quantity, open.from, site.units)} ({RUN_RULE_WORDS[open.rule]}). Run the tap, take a second
					sample:{' '}
					<a className="underline" href={`/bench?station=${encodeURIComponent(code)}`}>
						read {source.name}
					</a>
					. Doses and recipes stay as they are until it is confirmed.
				</p>
			)}
			{shifts
				.filter((s) => s.confirmed)
				.slice(-2)
				.map((s) => (
					<p key={s.since} className="mt-1" data-shift="confirmed">
						<strong>Changed on {short(s.since)}</strong>, confirmed: {named} from {shown(quantity, s.from, site.units)}{' '}
						to {shown(quantity, s.to, site.units)}. The new level is the baseline now.
					</p>
				))}
			{quantity === 'ec' && source.depends.length > 0 && (
				<div className="mt-1" data-depends={source.depends.length}>
					<h3 className="font-bold text-[0.95rem]">What depends on it</h3>
					<ul>
						{source.depends.map((d) => (
							<li key={`${d.kind}${d.name}`} className="border-t border-line py-0.5">
								<a className="underline" href={d.path}>
									{d.name}
								</a>
								: {consequenceWords(d.means)}
							</li>
						))}
					</ul>
				</div>
			)}
			{children}
		</section>
	);
}
