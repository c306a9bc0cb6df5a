import type { WaterSource } from '@/contract/pages';
import { IONS, type IonKey, readReport } from '@/core/water/ions';

/** Less than this share apart is within what laboratories differ by (common practice, no source). */
const DIFFERS = 0.15;
const LEAST_MG_L = 1;

/** A source's reports side by side, newest first; what is unlike the one before it stands bold. */
export function EarlierReports({ source, day }: { source: WaterSource; day: (at: number) => string }) {
	const { reports } = source;
	if (reports.length < 2) return null;
	const ions = (Object.keys(IONS) as IonKey[]).filter((k) => reports.some((r) => r.ions[k] !== undefined));
	const rows: { name: string; unit: string; values: (number | null)[] }[] = [
		{ name: 'EC', unit: 'µS/cm', values: reports.map((r) => r.ecUsCm) },
		{ name: 'pH', unit: '', values: reports.map((r) => r.ph) },
		{
			name: 'hardness',
			unit: 'mg/L CaCO3',
			values: reports.map((r) => readReport(r.ions, r.ecUsCm)?.hardnessMgLCaco3 ?? null),
		},
		...ions.map((k) => ({ name: IONS[k].name, unit: 'mg/L', values: reports.map((r) => r.ions[k] ?? null) })),
	].filter((r) => r.values.some((v) => v !== null));
	const unlike = (v: number | null, before: number | null | undefined, name: string): boolean =>
		v !== null &&
		before != null &&
		(name === 'pH'
			? Math.abs(v - before) > 0.3
			: Math.abs(v - before) > Math.max(DIFFERS * Math.max(before, v), LEAST_MG_L));
	return (
		<section className="note-rule" aria-label={`Reports of ${source.name}`} data-reports={reports.length}>
			<h2>Reports of {source.name}, one beside the other</h2>
			<div className="overflow-x-auto">
				<table className="text-[0.95rem]">
					<thead>
						<tr>
							<th className="pr-5">mg/L unless said</th>
							{reports.map((r) => (
								<th key={r.at} className="pr-5">
									{day(r.at)}
									{r.lab && <span className="block font-normal">{r.lab}</span>}
								</th>
							))}
						</tr>
					</thead>
					<tbody>
						{rows.map((row) => (
							<tr key={row.name} className="border-t border-line">
								<th scope="row" className="pr-5 py-0.5">
									{row.name}
									{row.unit !== '' && row.unit !== 'mg/L' && `, ${row.unit}`}
								</th>
								{row.values.map((v, i) => {
									const changed = unlike(v, row.values[i + 1], row.name);
									return (
										<td key={reports[i]!.at} className={`pr-5 ${changed ? 'font-bold' : ''}`}>
											{v === null ? '–' : Number(v.toPrecision(3))}
											{changed && <span className="sr-only"> unlike the one before</span>}
										</td>
									);
								})}
							</tr>
						))}
					</tbody>
				</table>
			</div>
		</section>
	);
}
