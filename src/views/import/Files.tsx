import { useCallback, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import { addressOf, begin } from '../data/client';
import { followJob, pendingJob, Stopped, stopJob } from '../data/job';

type Report = Got<Contract['POST /import']>;

/** Files in and out: an import shows what it would do before it does it. */
export function Files({ timezone }: { timezone: string }) {
	const [file, setFile] = useState<File | null>(null);
	const [report, setReport] = useState<Report | null>(null);
	const [progress, setProgress] = useState('');
	const [problem, setProblem] = useState('');
	const [stopped, setStopped] = useState('');
	const picker = useRef<HTMLInputElement>(null);

	const follow = useCallback(async (id: string) => {
		try {
			setReport(await followJob('POST /import', 'import', id, setProgress));
		} catch (error) {
			(error instanceof Stopped ? setStopped : setProblem)((error as Error).message);
		} finally {
			setProgress('');
		}
	}, []);
	// Left while it was running: take it up again.
	useEffect(() => {
		const id = pendingJob('import');
		if (id) follow(id);
	}, [follow]);
	async function send(chosen: File, query: { dry_run?: '1'; keep_good?: '1' }) {
		setProblem('');
		setStopped('');
		setProgress('Sending …');
		try {
			const job = await begin('POST /import', { query, file: { data: chosen, type: 'text/csv' } });
			await follow(job);
		} catch (error) {
			setProblem((error as Error).message);
			setProgress('');
		}
	}
	const choose = (chosen: File | undefined) => {
		if (!chosen) return;
		setFile(chosen);
		setReport(null);
		send(chosen, { dry_run: '1' });
	};
	const stored = report !== null && !report.dry_run;
	const fresh = report ? report.good - report.duplicates : 0;

	return (
		<div className="max-w-[56rem]">
			<h1>Files</h1>
			<section className="note-rule">
				<h2>Bring readings, events or calibrations in</h2>
				<p className="text-soft mb-2">
					A CSV with a header line; commas, semicolons and decimal commas are understood. Times without offset are taken
					in {timezone}. Nothing is stored before you have seen what it holds.
				</p>
				<input
					ref={picker}
					id="file"
					type="file"
					aria-label="CSV file"
					tabIndex={-1}
					accept=".csv,text/csv,text/plain"
					className="sr-only"
					onChange={(e) => choose(e.target.files?.[0])}
				/>
				<button type="button" className="act act-main" onClick={() => picker.current?.click()}>
					Choose a file
				</button>{' '}
				{file && <span className="ml-2">{file.name}</span>}
				<div aria-live="polite">
					{progress && (
						<p className="mt-2">
							{progress}{' '}
							<button
								type="button"
								className="act ml-2"
								onClick={() => stopJob('import').catch((e: Error) => setProblem(e.message))}
							>
								Stop
							</button>
						</p>
					)}
					{stopped && <p className="mt-2">{stopped}</p>}
					{problem && (
						<p role="alert" className="text-error mt-2">
							{problem}
						</p>
					)}
					{report && (
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
							{!stored && fresh > 0 && (
								<button
									type="button"
									className="act mt-2"
									disabled={progress !== ''}
									onClick={() => file && send(file, report.bad > 0 ? { keep_good: '1' } : {})}
								>
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
					)}
				</div>
			</section>
			<section className="note-rule">
				<h2>Take everything out</h2>
				<p className="text-soft mb-2">The same open formats; a file taken out and brought in again changes nothing.</p>
				<div className="flex flex-wrap gap-1.5">
					<a className="act" href={addressOf('GET /readings', { query: { format: 'csv' } })} download>
						readings.csv
					</a>
					<a className="act" href={addressOf('GET /events', { query: { format: 'csv' } })} download>
						events.csv
					</a>
					<a className="act" href={addressOf('GET /calibrations', { query: { format: 'csv' } })} download>
						calibrations.csv
					</a>
					<a className="act" href={addressOf('GET /attachments', { query: { format: 'zip' } })} download>
						photos and files, zip
					</a>
					<a className="act !font-normal" href={addressOf('GET /restatements', {})} download>
						restatements.csv
					</a>
				</div>
			</section>
		</div>
	);
}
