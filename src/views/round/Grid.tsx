import { type KeyboardEvent, useRef } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import type { SheetRow } from '@/core/rhythm/sheet-row';
import { standingOf } from '@/core/trust/standing';
import { findingWords } from '@/words/en/finding';
import { type Held, unheld } from '../data/held';
import { InstrumentChoice } from '../entry/InstrumentChoice';
import { DayField } from '../ui/DayField';
import { columnHead } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { useGrid } from './use-grid';

/** A filled sheet copied in: one line a station, Enter goes down, arrows go everywhere, all stored at once. */
export function Grid({ site: held, rows }: { site: Held<SiteView>; rows: SheetRow[] }) {
	const site = unheld(held);
	const g = useGrid(site, rows);
	const { quantities, columns, lines, filled, broken, cells, submit } = g;
	const inputs = useRef(new Map<string, HTMLInputElement>());

	function onKey(e: KeyboardEvent<HTMLInputElement>, row: number, column: number) {
		const go = (r: number, c: number) => {
			const target = inputs.current.get(`${r} ${c}`);
			if (!target) return;
			e.preventDefault();
			target.focus();
			target.select();
		};
		const { selectionStart, selectionEnd, value } = e.currentTarget;
		if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
			e.preventDefault();
			submit();
		} else if (e.key === 'Enter' || e.key === 'ArrowDown') go(row + 1, column);
		else if (e.key === 'ArrowUp') go(row - 1, column);
		else if (e.key === 'ArrowRight' && selectionStart === value.length) go(row, column + 1);
		else if (e.key === 'ArrowLeft' && selectionStart === 0 && (selectionEnd === 0 || value === '')) go(row, column - 1);
	}

	return (
		<div>
			<h1>Copy a sheet in</h1>
			<p className="text-soft mb-2 max-w-[70ch]">
				Enter goes down, arrows go everywhere; a line without a time takes that of the line above. Nothing is stored
				until you say so.
			</p>
			<div className="flex flex-wrap gap-3 items-end mb-3">
				<DayField key={g.kept} label="Day of the round" day={g.date} zone={site.timezone} onDay={g.setDate} />
				<InstrumentChoice label="Measured with" site={site} value={g.instrument} unsaid onChange={g.setInstrument} />
			</div>
			<div className="overflow-x-auto">
				<table className="border-collapse w-full">
					<thead>
						<tr>
							<th className="pr-2">station</th>
							<th>time</th>
							{quantities.map((q) => (
								<th key={q}>{columnHead(q, site.units)}</th>
							))}
							<th>note</th>
						</tr>
					</thead>
					<tbody>
						{lines.map((l, row) => (
							<tr key={l.station} data-line={l.station}>
								<th scope="row" className="pr-2 !text-base-content !text-[1rem] whitespace-nowrap">
									{l.name}
								</th>
								{columns.map((c, column) => {
									const q = c === 'time' || c === 'note' ? null : c;
									const v = q && l.values.find((x) => x.q === q)!.v;
									const verdict = q ? l.verdict(q) : undefined;
									const bad = v?.state === 'problem' || (c === 'time' && l.typed.length > 0 && l.at === null);
									return (
										<td key={c} className={`p-0.5 align-top ${c === 'note' ? 'min-w-40' : 'min-w-20'}`}>
											<span className="flex items-center gap-1">
												<input
													ref={(el) => {
														if (el) inputs.current.set(`${row} ${column}`, el);
														else inputs.current.delete(`${row} ${column}`);
													}}
													aria-label={`${l.name} ${c}`}
													className="field"
													inputMode={q || c === 'time' ? 'decimal' : undefined}
													autoComplete="off"
													aria-invalid={bad}
													value={cells[l.station]?.[c] ?? ''}
													placeholder={c === 'time' ? l.time : undefined}
													onChange={(e) => g.type(l.station, c, e.target.value)}
													onKeyDown={(e) => onKey(e, row, column)}
												/>
												{verdict && (
													<span
														data-grid-flag={verdict.flag}
														title={findingWords(verdict.deciding?.said).message || 'fits'}
													>
														<StandingMark standing={standingOf({ flag: verdict.flag, decision: null })} />
													</span>
												)}
											</span>
											{bad && (
												<span className="text-error text-[0.8rem] block pt-1">
													{v?.state === 'problem' ? v.message : 'Write the time as 7:30.'}
												</span>
											)}
											{verdict?.deciding && (
												<span className="text-[0.8rem] block pt-1 max-w-48 leading-tight">
													{findingWords(verdict.deciding.said).message}
												</span>
											)}
											{v?.state === 'value' && v.marked && (
												<span className="text-soft text-[0.8rem] block pt-1">read as {v.digits}</span>
											)}
										</td>
									);
								})}
							</tr>
						))}
					</tbody>
				</table>
			</div>
			<div className="flex flex-wrap gap-3 items-center mt-3">
				<button
					type="button"
					className="act act-main"
					disabled={g.busy || filled.length === 0 || broken.length > 0}
					onClick={submit}
				>
					Store {filled.length} {filled.length === 1 ? 'station' : 'stations'}{' '}
					<kbd className="!text-primary-content !border-primary-content">Ctrl Enter</kbd>
				</button>
				{broken.length > 0 && (
					<span className="text-error">{broken.map((b) => b.name).join(', ')}: not readable yet.</span>
				)}
				<span aria-live="polite" data-grid-said>
					{g.said}
				</span>
				{g.problem && (
					<span role="alert" className="text-error">
						{g.problem}
					</span>
				)}
			</div>
		</div>
	);
}
