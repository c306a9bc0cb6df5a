import { useState } from 'react';
import type { WaterMembrane, WaterSource } from '@/contract/pages';
import type { DisplayUnits } from '@/core/reading/site-view';
import { TREATMENTS, type Treatment, treated, type WaterNumbers } from '@/core/water/treatments';
import { TREATMENT_WORDS } from '@/words/en/treatment';
import { ecWithUnit } from '../mix/typed';
import { Choice } from '../ui/controls';

/** What a treatment would make of this water: in its numbers, and what to mind. */
export function TreatmentTool({
	source,
	membrane,
	units,
}: {
	source: WaterSource;
	/** One that this water feeds, whose rejection is known. */
	membrane: WaterMembrane | undefined;
	units: DisplayUnits;
}) {
	const [by, setBy] = useState<Treatment>('carbon filter');
	const ions = source.report?.ions ?? {};
	const before: WaterNumbers = {
		ecUsCm: source.newest.ec?.value ?? source.report?.ecUsCm ?? null,
		alkalinityMgLCaco3: source.alkalinityMgLCaco3,
		hardnessMgLCaco3: source.hardnessMgLCaco3,
		naMgL: ions.na_mg_l ?? null,
		clMgL: ions.cl_mg_l ?? null,
	};
	const own = membrane?.state.known ? membrane.state.rejection : undefined;
	const after = treated(before, by, own);
	const mg = (v: number | null) => (v === null ? 'not known' : String(v >= 10 ? Math.round(v) : Number(v.toFixed(1))));
	const ec = (v: number | null) => (v === null ? 'not known' : ecWithUnit(v, units));
	const rows: [string, string, string][] = [
		['EC', ec(before.ecUsCm), ec(after.ecUsCm)],
		['alkalinity, CaCO3', mg(before.alkalinityMgLCaco3), mg(after.alkalinityMgLCaco3)],
		['hardness, CaCO3', mg(before.hardnessMgLCaco3), mg(after.hardnessMgLCaco3)],
		['sodium', mg(before.naMgL), mg(after.naMgL)],
		['chloride', mg(before.clMgL), mg(after.clMgL)],
	];
	return (
		<section className="note-rule" data-treatment={by}>
			<h2>What a treatment makes of it</h2>
			<Choice label="treated by" width="w-52" value={by} options={TREATMENTS} onChange={setBy} />
			<table className="mt-2 text-[0.95rem]">
				<thead>
					<tr>
						<th className="pr-6">mg/L</th>
						<th className="pr-6">now</th>
						<th>after it</th>
					</tr>
				</thead>
				<tbody>
					{rows.map(([name, now, then]) => (
						<tr key={name} className="border-t border-line">
							<th scope="row" className="pr-6 !text-base-content !text-[0.95rem]">
								{name}
							</th>
							<td className="pr-6">{now}</td>
							<td className={now === then ? 'text-soft' : 'font-bold'}>{then}</td>
						</tr>
					))}
				</tbody>
			</table>
			<p className="mt-1 max-w-[60ch]">{TREATMENT_WORDS[by]}</p>
			{by === 'reverse osmosis' && (
				<p className="text-soft text-[0.9rem]">
					{own === undefined ? 'As a membrane in good order holds back.' : 'As your own membrane holds back now.'}
				</p>
			)}
		</section>
	);
}
