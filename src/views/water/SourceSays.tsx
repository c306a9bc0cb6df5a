import type { WaterSource } from '@/contract/pages';
import type { DisplayUnits } from '@/core/reading/site-view';
import { schoolAdvice } from '@/core/water/advice';
import { gradeWater } from '@/core/water/classes';
import type { WaterReport } from '@/core/water/ions';
import { traceRemarks } from '@/core/water/traces';
import { remarkWords } from '@/words/en/remark';
import { schoolWords } from '@/words/en/source';
import { shownWithUnit } from '../ui/format';

/** What the numbers of a source say: what it uses up, which school it suits, its classes and where they come from. */
export function SourceSays({
	source,
	read,
	targetEcUsCm,
	units,
}: {
	source: WaterSource;
	read: WaterReport | null;
	targetEcUsCm: number;
	units: DisplayUnits;
}) {
	const ions = source.report?.ions ?? {};
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
		boronMgL: ions.b_mg_l,
	});
	const traces = traceRemarks(ions);
	return (
		<section className="note-rule" aria-label="What the numbers say">
			<h2>What the numbers say</h2>
			{used !== null && (
				<p>
					It uses up <strong>{Math.round(100 * used)} %</strong> of a target of{' '}
					{shownWithUnit('ec', targetEcUsCm, units)} before any feed.
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
			{traces.length > 0 && (
				<ul className="mt-2" data-traces={traces.length}>
					{traces.map((r) => (
						<li key={`${r.code}${'of' in r ? r.of : ''}`} className="py-1 border-t border-line">
							{remarkWords(r)}
						</li>
					))}
				</ul>
			)}
			<p className="text-soft text-[0.85rem] mt-2">
				Water fit for plants is not thereby fit to drink: that takes an accredited laboratory and the local health
				authority.
			</p>
		</section>
	);
}
