import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';

export type Report = Got<Contract['POST /import']>;

/** What a file holds, before it is stored and after: how much is new, what it would make, and every line that is wrong. */
export function ImportReport({
	report,
	onStore,
	busy,
}: {
	report: Report;
	/** Stores it; null where that is done, or nothing is new. */
	onStore: (() => void) | null;
	busy: boolean;
}) {
	const stored = !report.dry_run;
	const fresh = report.good - report.duplicates;
	return (
		<div className="mt-3" data-report>
			<p>
				{stored ? (
					<>
						<strong>
							{report.stored.toLocaleString('en-GB')} {report.format} stored.
						</strong>{' '}
						{report.duplicates > 0 && `${report.duplicates} were there already. `}
						{report.bad > 0 && `${report.bad} bad lines were left out. `}
						{(report.flagged[3] ?? 0) + (report.flagged[4] ?? 0) > 0 &&
							`${(report.flagged[3] ?? 0) + (report.flagged[4] ?? 0)} are doubtful and wait in the Ledger.`}
					</>
				) : (
					<>
						{report.lines.toLocaleString('en-GB')} lines of {report.format}:{' '}
						<strong>{fresh.toLocaleString('en-GB')} new</strong>, {report.duplicates} already here,{' '}
						<strong>{report.bad} bad</strong>.
					</>
				)}
			</p>
			{report.creates.stations.length + report.creates.instruments.length > 0 && !stored && (
				<p>
					It names what is not here yet, and would make:{' '}
					{[
						...report.creates.stations.map((s) => `station ${s}`),
						...report.creates.instruments.map((s) => `instrument ${s}`),
					].join(', ')}
					.
				</p>
			)}
			{report.notes.map((n) => (
				<p key={n}>{n}</p>
			))}
			{onStore && (
				<button type="button" className="act mt-2" disabled={busy} onClick={onStore}>
					{report.bad > 0
						? `Store the ${fresh} good lines, leave out ${report.bad}`
						: `Store ${fresh.toLocaleString('en-GB')} lines`}
				</button>
			)}
			{report.problems.length > 0 && (
				<table className="mt-3 text-[0.92rem]">
					<thead>
						<tr>
							<th scope="col" className="pr-4">
								Line
							</th>
							<th scope="col" className="pr-4">
								Column
							</th>
							<th scope="col">What is wrong</th>
						</tr>
					</thead>
					<tbody>
						{report.problems.slice(0, 50).map((p) => (
							<tr key={`${p.line}${p.column}`} className="border-t border-line">
								<td className="pr-4">{p.line}</td>
								<td className="pr-4">{p.column}</td>
								<td>{p.message}</td>
							</tr>
						))}
					</tbody>
				</table>
			)}
			{report.problems.length + report.more_problems > 50 && (
				<p className="text-soft">and {report.problems.length + report.more_problems - 50} more</p>
			)}
		</div>
	);
}
