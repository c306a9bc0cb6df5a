import { useState } from 'react';
import type { WaterMembrane, WaterSource } from '@/contract/pages';
import { QUANTITIES, QUANTITY, type SeriesQuantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { schoolAdvice } from '@/core/water/advice';
import { gradeWater } from '@/core/water/classes';
import { readReport } from '@/core/water/ions';
import { consequenceWords, RUN_RULE_WORDS, schoolWords } from '@/words/en/source';
import { type Held, unheld } from '../data/held';
import { ControlChart } from '../ui/ControlChart';
import { ago, dateTime, QUANTITY_HUE, shown, shownWithUnit, unitLabel } from '../ui/format';
import { AcidTool } from './AcidTool';
import { BlendTool } from './BlendTool';
import { EarlierReports } from './EarlierReports';
import { Membrane } from './Membrane';
import { ReportForm } from './ReportForm';

const gradeOf = (list: readonly { of: string; grade: string }[], of: string): string | null =>
	list.find((g) => g.of === of)?.grade ?? null;
const hardnessClass = (hardnessMgLCaco3: number): string | null =>
	gradeOf(gradeWater({ hardnessMgLCaco3, ecUsCm: null, sar: null }), 'hardness');
/** The class as far as EC, sodium and chloride tell it; its source stands with the source below. */
const substrateClass = (s: WaterSource): string | null =>
	gradeOf(
		gradeWater({
			hardnessMgLCaco3: null,
			ecUsCm: s.newest.ec?.value ?? s.report?.ecUsCm ?? null,
			naMgL: s.report?.ions.na_mg_l,
			clMgL: s.report?.ions.cl_mg_l,
			sar: null,
		}),
		'substrate class',
	);

/** Sources side by side, one of them in full: its chart, its report, what the numbers say, and what it takes. */
export function Water({
	site: held,
	sources,
	membranes,
	asked,
	targetEcUsCm,
}: {
	site: Held<SiteView>;
	sources: WaterSource[];
	membranes: WaterMembrane[];
	asked: string | null;
	/** Of the feed these waters are to become. */
	targetEcUsCm: number;
}) {
	const site = unheld(held);
	const [code, setCode] = useState(sources.some((s) => s.code === asked) ? asked! : (sources[0]?.code ?? ''));
	const [quantity, setQuantity] = useState<SeriesQuantity>('ec');
	const choose = (next: string) => {
		setCode(next);
		// The address names the source, so that it can be kept and sent.
		history.replaceState(null, '', `?source=${encodeURIComponent(next)}`);
	};
	const source = sources.find((s) => s.code === code);
	const short = (at: number) =>
		new Intl.DateTimeFormat('en-GB', { timeZone: site.timezone, day: 'numeric', month: 'short' }).format(at);
	if (!source)
		return (
			<div>
				<h1>Water</h1>
				<p className="mt-2">
					There is no source yet. Everything starts with the water: add a station of the kind source in{' '}
					<a className="underline" href="/setup">
						Setup
					</a>
					, then read it at Bench.
				</p>
			</div>
		);
	const measured = QUANTITIES.filter((q): q is SeriesQuantity => q !== 'tds' && source.charts[q] !== undefined);
	const chart = source.charts[quantity] ?? source.charts.ec;
	const named =
		quantity === 'ec' || quantity === 'ph' ? QUANTITY[quantity].name : QUANTITY[quantity].name.toLowerCase();
	const shifts = chart.shifts;
	const open = shifts.find((s) => !s.confirmed);
	const ions = source.report?.ions ?? {};
	const read = source.report ? readReport(ions, source.report.ecUsCm) : null;
	const ecNow = source.newest.ec?.value ?? source.report?.ecUsCm ?? null;
	const { used, schools } = schoolAdvice(
		{
			ecUsCm: ecNow,
			alkalinityMgLCaco3: source.alkalinityMgLCaco3,
			hardnessMgLCaco3: source.hardnessMgLCaco3,
			naMgL: ions.na_mg_l ?? null,
			clMgL: ions.cl_mg_l ?? null,
		},
		targetEcUsCm,
	);
	const grades = gradeWater({
		hardnessMgLCaco3: source.hardnessMgLCaco3,
		ecUsCm: ecNow,
		naMgL: ions.na_mg_l,
		clMgL: ions.cl_mg_l,
		hco3MgL: ions.hco3_mg_l,
		sar: read?.sar ?? null,
	});
	const membrane = membranes.find((m) => m.station === code);
	const value = (q: 'ec' | 'ph', s: WaterSource) => (s.newest[q] ? shown(q, s.newest[q].value, site.units) : '–');
	return (
		<div>
			<h1 className="mb-2">Water</h1>
			<div className="overflow-x-auto">
				<table className="w-full max-w-[68rem] min-w-[46rem]">
					<thead>
						<tr>
							<th>source</th>
							<th>EC, {unitLabel(site.units.ec)}</th>
							<th>of the target EC</th>
							<th>pH</th>
							<th>alkalinity, mg/L CaCO3</th>
							<th>hardness</th>
							<th>substrate class</th>
							<th>record</th>
						</tr>
					</thead>
					<tbody>
						{sources.map((s) => (
							<tr
								key={s.code}
								data-source={s.code}
								className={`border-t border-line ${s.code === code ? 'bg-lit font-bold' : ''}`}
							>
								<td className="py-1 pr-3">
									<button
										type="button"
										className="underline cursor-pointer min-h-10 sm:min-h-8 text-left"
										aria-pressed={s.code === code}
										onClick={() => choose(s.code)}
									>
										{s.name}
									</button>
								</td>
								<td>{value('ec', s)}</td>
								<td>{s.newest.ec ? `${Math.round((100 * s.newest.ec.value) / targetEcUsCm)} %` : '–'}</td>
								<td>{value('ph', s)}</td>
								<td>{s.alkalinityMgLCaco3 === null ? 'not known' : Math.round(s.alkalinityMgLCaco3)}</td>
								<td>
									{s.hardnessMgLCaco3 === null ? (
										'not known'
									) : (
										<>
											{Math.round(s.hardnessMgLCaco3)}{' '}
											<span className="font-normal text-soft text-[0.85rem]">{hardnessClass(s.hardnessMgLCaco3)}</span>
										</>
									)}
								</td>
								<td className="font-normal text-[0.9rem]">{substrateClass(s)?.split(':')[0] ?? 'not known'}</td>
								<td className="font-normal text-[0.9rem]">
									{s.charts.ec.wants === 'confirm' ? (
										<strong>wants a confirming sample</strong>
									) : (
										`${s.charts.ec.points.length} readings${s.newest.ec ? `, ${ago(s.newest.ec.at, site.now)}` : ''}`
									)}
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</div>

			<div className="grid lg:grid-cols-[1fr_24rem] gap-x-8 gap-y-4 mt-4">
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
							<strong>It may have changed:</strong> {shownWithUnit(quantity, open.to, site.units)} since{' '}
							{short(open.since)}, after {shown(quantity, open.from, site.units)} ({RUN_RULE_WORDS[open.rule]}). Run the
							tap, take a second sample:{' '}
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
								<strong>Changed on {short(s.since)}</strong>, confirmed: {named} from{' '}
								{shown(quantity, s.from, site.units)} to {shown(quantity, s.to, site.units)}. The new level is the
								baseline now.
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
					{membrane && (
						<Membrane
							membrane={membrane}
							site={site}
							feedName={sources.find((s) => s.code === membrane.feed)?.name ?? membrane.feed}
						/>
					)}
				</section>
				<section className="note-rule" aria-label="What the numbers say">
					<h2>What the numbers say</h2>
					{used !== null && (
						<p>
							It uses up <strong>{Math.round(100 * used)} %</strong> of a target of{' '}
							{shownWithUnit('ec', targetEcUsCm, site.units)} before any feed.
						</p>
					)}
					<ul className="mt-1">
						{schools.map((s) => (
							<li key={s.school} className="py-1 border-t border-line">
								<strong>{s.school}</strong>: {s.fits}. <span className="text-soft">{schoolWords(s.why)}</span>
							</li>
						))}
					</ul>
					<table className="mt-2 text-[0.92rem]">
						<tbody>
							{grades.map((g) => (
								<tr key={g.of} className="border-t border-line align-top">
									<th scope="row" className="pr-3 py-0.5">
										{g.of}
									</th>
									<td>
										{g.grade}{' '}
										<span className="text-soft text-[0.8rem]">
											{Number(g.value.toPrecision(3))} {g.unit} · {g.source}
										</span>
									</td>
								</tr>
							))}
						</tbody>
					</table>
					<p className="text-soft text-[0.85rem] mt-2">
						Water fit for plants is not thereby fit to drink: that takes an accredited laboratory and the local health
						authority.
					</p>
				</section>
			</div>
			<div className="grid lg:grid-cols-2 gap-x-8">
				<AcidTool key={`acid ${code}`} source={source} />
				<BlendTool sources={sources} site={site} targetEcUsCm={targetEcUsCm} />
			</div>
			<EarlierReports source={source} day={short} />
			<ReportForm key={`report ${code}`} source={source} read={read} day={(at) => dateTime(at, site.timezone)} />
		</div>
	);
}
