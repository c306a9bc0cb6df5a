import type { WaterSource } from '@/contract/pages';
import type { SiteView } from '@/core/reading/site-view';
import { gradeWater } from '@/core/water/classes';
import { ago, shown, unitLabel } from '../ui/format';

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

/** Sources side by side: what each is like, and how much of the target it uses up. */
export function SourceTable({
	sources,
	chosen: code,
	site,
	targetEcUsCm,
	onChoose: choose,
}: {
	sources: readonly WaterSource[];
	chosen: string;
	site: SiteView;
	targetEcUsCm: number;
	onChoose: (code: string) => void;
}) {
	const value = (q: 'ec' | 'ph', s: WaterSource) => (s.newest[q] ? shown(q, s.newest[q].value, site.units) : '–');
	return (
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
	);
}
