import { useCallback, useEffect, useRef, useState } from 'react';
import { api, begin } from '../data/client';
import { followJob, pendingJob, Stopped, stopJob } from '../data/job';
import { askAgain } from '../data/queries';
import { Backups } from './Backups';
import { Imported } from './Imported';
import { ImportReport, type Report } from './ImportReport';
import { type Mapping, Spreadsheet } from './Spreadsheet';
import { TakeOut } from './TakeOut';

/** Files in and out: an import shows what it would do before it does it. */
export function Files({
	timezone,
	stations,
}: {
	timezone: string;
	stations: readonly { code: string; name: string }[];
}) {
	const [file, setFile] = useState<File | null>(null);
	const [report, setReport] = useState<Report | null>(null);
	const [progress, setProgress] = useState('');
	const [problem, setProblem] = useState('');
	const [stopped, setStopped] = useState('');
	const picker = useRef<HTMLInputElement>(null);

	const follow = useCallback(async (id: string) => {
		try {
			const done = await followJob('POST /import', 'import', id, setProgress);
			setReport(done);
			if (!done.dry_run) await askAgain();
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
	/** Of a spreadsheet of one's own, what its columns were said to mean. */
	const [mapped, setMapped] = useState<string | null>(null);
	async function send(chosen: File, query: { dry_run?: '1'; keep_good?: '1' }, mapping: string | null = mapped) {
		setProblem('');
		setStopped('');
		setProgress('Sending …');
		try {
			const job = await begin('POST /import', {
				query: { ...query, ...(mapping === null ? {} : { mapping }) },
				file: { data: chosen, type: chosen.type || 'text/csv' },
			});
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
		setMapped(null);
		send(chosen, { dry_run: '1' }, null);
	};
	const byMapping = async (chosen: File, name: string, mapping: Mapping) => {
		setFile(chosen);
		setReport(null);
		setMapped(name);
		try {
			await api('POST /mappings', { body: { name, mapping } });
			await send(chosen, { dry_run: '1' }, name);
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	const stored = report !== null && !report.dry_run;
	const fresh = report ? report.good - report.duplicates : 0;

	return (
		<div className="grid lg:grid-cols-2 gap-x-10">
			<h1 className="lg:col-span-2">Files</h1>
			<section className="note-rule">
				<h2>Bring readings, events, calibrations or irrigations in</h2>
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
						<ImportReport
							report={report}
							onStore={!stored && fresh > 0 ? () => file && send(file, report.bad > 0 ? { keep_good: '1' } : {}) : null}
							busy={progress !== ''}
						/>
					)}
				</div>
				<Spreadsheet stations={stations} onReady={byMapping} />
				<Imported key={String(stored)} timezone={timezone} />
				<Backups timezone={timezone} />
			</section>
			<div>
				<TakeOut />
			</div>
		</div>
	);
}
