import { useState } from 'react';
import type { SourceReport, WaterSource } from '@/contract/pages';
import { IONS, type IonKey, type Ions, readReport, TRACES, type WaterReport } from '@/core/water/ions';
import { readReportText } from '@/core/water/report/read';
import { remarkWords } from '@/words/en/remark';
import { lineWords, understoodWords } from '@/words/en/source';
import { api } from '../data/client';

/** A laboratory report: pasted line by line, read critically before it is kept. */
export function ReportForm({
	source,
	read: kept,
	day,
	onKept,
}: {
	source: WaterSource;
	read: WaterReport | null;
	day: (at: number) => string;
	onKept: (report: SourceReport) => void;
}) {
	const [text, setText] = useState('');
	const [said, setSaid] = useState('');
	const [problem, setProblem] = useState('');
	const typed = text.trim() === '' ? null : readReportText(text);
	const ions: Ions = typed ? typed.ions : (source.report?.ions ?? {});
	const traces = typed?.traces ?? {};
	const ecUsCm = typed ? typed.ecUsCm : (source.report?.ecUsCm ?? null);
	const read = typed ? readReport(ions, ecUsCm) : kept;
	return (
		<section className="note-rule grid lg:grid-cols-2 gap-x-8 gap-y-3" data-report>
			<div>
				<h2>Laboratory report of {source.name}</h2>
				<p className="text-soft text-[0.9rem] mb-1">
					{source.report && !typed
						? `The last is of ${day(source.report.at)}${source.report.lab ? `, ${source.report.lab}` : ''}. Paste a new one here.`
						: 'A line for each value, in the laboratory’s own units: “Ca 80 mg/L”, “nitrate 22”, “alkalinity 210 mg/L CaCO3”, “EC 0.78 mS/cm”.'}
				</p>
				<label className="field-label" htmlFor="report-text">
					Values
				</label>
				<textarea
					id="report-text"
					className="field min-h-40 font-mono text-[0.95rem]"
					value={text}
					onChange={(e) => {
						setText(e.target.value);
						setSaid('');
					}}
				/>
				<label className="block mt-1">
					<span className="field-label">or a CSV file of it</span>
					<input
						type="file"
						accept=".csv,.txt,text/csv,text/plain"
						className="text-[0.9rem] min-h-11 w-full"
						onChange={async (e) => {
							const file = e.target.files?.[0];
							if (!file) return;
							if (file.size > 20_000) return setProblem('That is longer than a report: choose the file of one sample.');
							setText(await file.text());
							setSaid('');
							setProblem('');
						}}
					/>
				</label>
				{typed?.problems.map((p) => (
					<p key={`${p.line}${p.code}`} className="text-error text-[0.9rem]">
						Line {p.line}: {lineWords(p)}
					</p>
				))}
				{typed && typed.understood.length > 0 && (
					<details className="text-[0.9rem] mt-1" data-understood={typed.understood.length}>
						<summary className="cursor-pointer text-soft min-h-8">
							How the {typed.understood.length} lines were understood
						</summary>
						<ul>
							{typed.understood.map((u) => (
								<li key={u.line}>
									<span className="text-soft">{u.text}</span> → {understoodWords(u)}
								</li>
							))}
						</ul>
					</details>
				)}
				<button
					type="button"
					className="act mt-2"
					disabled={!typed || Object.keys(typed.ions).length === 0}
					onClick={async () => {
						try {
							await api('POST /reports', {
								body: {
									station: source.code,
									ions: { ...typed!.ions, ...typed!.traces },
									ec_us_cm: typed!.ecUsCm,
									ph: typed!.ph,
								},
							});
							onKept({
								at: Date.now(),
								lab: '',
								ions: { ...typed!.ions, ...typed!.traces },
								ecUsCm: typed!.ecUsCm,
								ph: typed!.ph,
							});
							setText('');
							setSaid('Kept.');
						} catch (error) {
							setProblem((error as Error).message);
						}
					}}
				>
					Keep this report
				</button>{' '}
				<span aria-live="polite">{said}</span>
				{problem && (
					<p role="alert" className="text-error">
						{problem}
					</p>
				)}
			</div>
			<div aria-live="polite">
				{read ? (
					<div data-report-read={read.balanceOk ? 'balanced' : 'odd'}>
						<h2>Read critically</h2>
						<table className="text-[0.95rem]">
							<tbody>
								<Line
									name="cations, anions"
									value={`${read.cationsMeqL.toFixed(2)}, ${read.anionsMeqL.toFixed(2)} meq/L`}
								/>
								<Line
									name="balance"
									value={`${read.balancePct >= 0 ? '+' : '−'}${Math.abs(read.balancePct).toFixed(1)} %: ${read.balanceOk ? 'accepted' : 'not accepted'}`}
								/>
								<Line
									name="EC from the ions"
									value={`${Math.round(read.ecCalculatedUsCm)} µS/cm${ecUsCm ? `, measured ${Math.round(ecUsCm)}` : ''}`}
								/>
								<Line name="hardness" value={`${Math.round(read.hardnessMgLCaco3)} mg/L CaCO3`} />
								<Line name="alkalinity" value={`${Math.round(read.alkalinityMgLCaco3)} mg/L CaCO3`} />
								{read.sar !== null && <Line name="SAR" value={read.sar.toFixed(2)} />}
							</tbody>
						</table>
						{read.odd.length === 0 ? (
							<p className="mt-1">Nothing odd about it.</p>
						) : (
							read.odd.map((o) => (
								<p key={o.code} className="mt-1 border-l-4 border-warning pl-2" data-odd={o.code}>
									{remarkWords(o)}
								</p>
							))
						)}
						<p className="text-soft text-[0.85rem] mt-2">
							{(Object.entries({ ...ions, ...traces }) as [IonKey, number][])
								.map(([k, v]) => `${({ ...IONS, ...TRACES })[k].name} ${Number(v.toPrecision(3))}`)
								.join(', ')}{' '}
							mg/L.
						</p>
					</div>
				) : (
					<p className="text-soft">
						No report yet. The supplier’s yearly report, or a sample at an accredited laboratory, tells what EC alone
						cannot: alkalinity, hardness, sodium, chloride.
					</p>
				)}
			</div>
		</section>
	);
}

function Line({ name, value }: { name: string; value: string }) {
	return (
		<tr className="border-t border-line">
			<th scope="row" className="pr-4 py-0.5">
				{name}
			</th>
			<td>{value}</td>
		</tr>
	);
}
