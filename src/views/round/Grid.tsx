import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { parseTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { type SheetRow, sheetColumns, sheetDay, sheetTime } from '@/core/rhythm/sheet-row';
import { standingOf } from '@/core/trust/standing';
import { findingWords } from '@/words/en/finding';
import { USUAL } from '../bench/dips';
import { countedNote, fieldMeter, understandField } from '../bench/understand';
import { useEngine } from '../data/engine';
import { type Held, unheld } from '../data/held';
import { InstrumentChoice, usualInstrument } from '../entry/InstrumentChoice';
import { type DraftSample, judgeDraft, save } from '../entry/sample';
import { columnHead } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';

type Column = 'time' | Quantity | 'note';
type Cells = Partial<Record<Column, string>>;
const KEPT = 'cordwain.sheet';

/** A filled sheet copied in: one line a station, Enter goes down, arrows go everywhere, all stored at once. */
export function Grid({ site: held, rows }: { site: Held<SiteView>; rows: SheetRow[] }) {
	const site = unheld(held);
	const engine = useEngine(site, null);
	const quantities = sheetColumns(site.stations.map((s) => s.measured));
	const columns: readonly Column[] = ['time', ...quantities, 'note'];
	const [date, setDate] = useState(sheetDay(site.now, site.timezone));
	const [instrument, setInstrument] = useState(site.instruments.find((i) => i.kind === 'combined')?.info.code ?? '');
	const [cells, setCells] = useState<Record<string, Cells>>({});
	const [said, setSaid] = useState('');
	const [problem, setProblem] = useState('');
	const [busy, setBusy] = useState(false);
	const inputs = useRef(new Map<string, HTMLInputElement>());

	useEffect(() => {
		try {
			const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as { date: string; cells: typeof cells } | null;
			if (kept) {
				setCells(kept.cells);
				setDate(kept.date);
			}
		} catch {
			localStorage.removeItem(KEPT);
		}
	}, []);
	useEffect(() => {
		if (Object.keys(cells).length > 0) localStorage.setItem(KEPT, JSON.stringify({ date, cells }));
	}, [cells, date]);

	/** Pens measure what pens do; the rest is measured with what measured it last, or can. */
	const meterOf = (station: string, q: Quantity) =>
		USUAL.includes(q) ? instrument || null : usualInstrument(site, station, q);
	/** A line without a time takes the time of the line above it: a sheet often has only its first. */
	let above = sheetTime(date, site.now, site.timezone);
	const lines = rows.map((r) => {
		const own = cells[r.station] ?? {};
		const time = own.time?.trim() || above;
		above = time;
		const text = /^\d{1,2}[:.]?\d{2}$/.test(time) ? time.replace('.', ':').replace(/^(\d{1,2})(\d{2})$/, '$1:$2') : '';
		const parsed = text ? parseTime(`${date}T${text.padStart(5, '0')}`, site.timezone) : { ok: false as const };
		const at = parsed.ok ? parsed.at : null;
		const values = quantities.map((q) => ({
			q,
			v: understandField(
				q,
				own[q] ?? '',
				fieldMeter(site, meterOf(r.station, q), q),
				site.units,
				engine.expect(r.station, seriesQuantity(q), at ?? site.now),
			),
		}));
		const typed = values.flatMap(({ q, v }) => (v.state === 'value' ? [{ q, v }] : []));
		const sample: DraftSample = {
			station: r.station,
			instrument: instrument || null,
			values: typed.map(({ q, v }) => ({
				quantity: v.quantity,
				digits: v.digits,
				unit: v.unit,
				instrument: meterOf(r.station, q),
				note: countedNote(v),
			})),
			note: own.note ?? '',
			at,
			source: 'sheet',
		};
		const verdicts = typed.length > 0 && at !== null ? judgeDraft(engine, sample) : [];
		return {
			...r,
			time,
			at,
			values,
			typed,
			sample,
			verdict: (q: Quantity) => verdicts[typed.findIndex((t) => t.q === q)],
			broken: values.some(({ v }) => v.state === 'problem') || (typed.length > 0 && at === null),
		};
	});
	const filled = lines.filter((l) => l.typed.length > 0);
	const broken = lines.filter((l) => l.broken);

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

	async function submit() {
		if (busy || filled.length === 0 || broken.length > 0) return;
		setBusy(true);
		setProblem('');
		try {
			const result = await save(filled.map((l) => l.sample));
			localStorage.removeItem(KEPT);
			setCells({});
			setSaid(
				result.kind === 'stored'
					? `${filled.length} ${filled.length === 1 ? 'station' : 'stations'} stored for ${date}.`
					: result.message,
			);
		} catch (error) {
			setProblem(`${(error as Error).message} What you typed is still here.`);
		} finally {
			setBusy(false);
		}
	}

	return (
		<div>
			<h1>Copy a sheet in</h1>
			<p className="text-soft mb-2 max-w-[70ch]">
				Enter goes down, arrows go everywhere; a line without a time takes that of the line above. Nothing is stored
				until you say so.
			</p>
			<div className="flex flex-wrap gap-3 items-end mb-3">
				<label className="block w-44">
					<span className="field-label">Day of the round</span>
					<input type="date" className="field" value={date} onChange={(e) => setDate(e.target.value)} />
				</label>
				<InstrumentChoice label="Measured with" site={site} value={instrument} unsaid onChange={setInstrument} />
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
													onChange={(e) => {
														setSaid('');
														setCells({ ...cells, [l.station]: { ...cells[l.station], [c]: e.target.value } });
													}}
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
					disabled={busy || filled.length === 0 || broken.length > 0}
					onClick={submit}
				>
					Store {filled.length} {filled.length === 1 ? 'station' : 'stations'}{' '}
					<kbd className="!text-primary-content !border-primary-content">Ctrl Enter</kbd>
				</button>
				{broken.length > 0 && (
					<span className="text-error">{broken.map((b) => b.name).join(', ')}: not readable yet.</span>
				)}
				<span aria-live="polite" data-grid-said>
					{said}
				</span>
				{problem && (
					<span role="alert" className="text-error">
						{problem}
					</span>
				)}
			</div>
		</div>
	);
}
