import { useState } from 'react';
import type { SourceReport, WaterMembrane, WaterSource } from '@/contract/pages';
import type { SiteView } from '@/core/reading/site-view';
import { readReport } from '@/core/water/ions';
import { type Held, unheld } from '../data/held';
import { dateTime, shortDay } from '../ui/format';
import { AcidTool } from './AcidTool';
import { BlendTool } from './BlendTool';
import { EarlierReports } from './EarlierReports';
import { Membrane } from './Membrane';
import { ReportForm } from './ReportForm';
import { SourceRecord } from './SourceRecord';
import { SourceSays } from './SourceSays';
import { SourceTable } from './SourceTable';
import { TreatmentTool } from './TreatmentTool';

/** A source with a report that was just kept: what nobody has read since is known by it. */
function withReport(s: WaterSource, report: SourceReport): WaterSource {
	const read = readReport(report.ions, report.ecUsCm);
	const known = (by: number | undefined, was: number | null) => (by !== undefined && by > 0 ? by : was);
	return {
		...s,
		report,
		reports: [report, ...s.reports],
		alkalinityMgLCaco3: s.newest.alkalinity?.value ?? known(read?.alkalinityMgLCaco3, s.alkalinityMgLCaco3),
		hardnessMgLCaco3: s.newest.hardness?.value ?? known(read?.hardnessMgLCaco3, s.hardnessMgLCaco3),
	};
}

/** Sources side by side, one of them in full: its chart, its report, what the numbers say, and what it takes. */
export function Water({
	site: held,
	sources: first,
	membranes,
	asked,
	targetEcUsCm,
}: {
	site: Held<SiteView>;
	sources: Held<WaterSource[]>;
	membranes: WaterMembrane[];
	asked: string | null;
	/** Of the feed these waters are to become. */
	targetEcUsCm: number;
}) {
	const site = unheld(held);
	const [sources, setSources] = useState(unheld(first));
	const [code, setCode] = useState(sources.some((s) => s.code === asked) ? asked! : (sources[0]?.code ?? ''));
	const choose = (next: string) => {
		setCode(next);
		// The address names the source, so that it can be kept and sent.
		history.replaceState(null, '', `?source=${encodeURIComponent(next)}`);
	};
	const source = sources.find((s) => s.code === code);
	const short = (at: number) => shortDay(at, site.timezone);
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
	const read = source.report ? readReport(source.report.ions, source.report.ecUsCm) : null;
	const membrane = membranes.find((m) => m.station === code);
	return (
		<div>
			<h1 className="mb-2">Water</h1>
			<SourceTable sources={sources} chosen={code} site={site} targetEcUsCm={targetEcUsCm} onChoose={choose} />
			<div className="grid lg:grid-cols-[1fr_24rem] gap-x-8 gap-y-4 mt-4">
				<SourceRecord key={code} source={source} site={site} day={short}>
					{membrane && (
						<Membrane
							membrane={membrane}
							site={site}
							feedName={sources.find((s) => s.code === membrane.feed)?.name ?? membrane.feed}
						/>
					)}
				</SourceRecord>
				<SourceSays source={source} read={read} targetEcUsCm={targetEcUsCm} units={site.units} />
			</div>
			<div className="grid lg:grid-cols-2 gap-x-8">
				<AcidTool key={`acid ${code}`} source={source} units={site.units} />
				<BlendTool sources={sources} site={site} targetEcUsCm={targetEcUsCm} />
			</div>
			<TreatmentTool source={source} membrane={membranes.find((m) => m.feed === code)} units={site.units} />
			<EarlierReports source={source} day={short} />
			<ReportForm
				key={`report ${code}`}
				source={source}
				read={read}
				day={(at) => dateTime(at, site.timezone)}
				onKept={(report) => setSources((list) => list.map((s) => (s.code === code ? withReport(s, report) : s)))}
			/>
		</div>
	);
}
