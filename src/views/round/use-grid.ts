import { useEffect, useState } from 'react';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { parseTime } from '@/core/quantity/time';
import type { SiteView } from '@/core/reading/site-view';
import { type SheetRow, sheetColumns, sheetDay, sheetTime } from '@/core/rhythm/sheet-row';
import { USUAL } from '../bench/dips';
import { countedNote, fieldMeter, understandField } from '../bench/understand';
import { useEngine } from '../data/engine';
import { ofSiteHere } from '../data/site-here';
import { usualInstrument } from '../entry/InstrumentChoice';
import { type DraftSample, judgeDraft, save } from '../entry/sample';

export type Column = 'time' | Quantity | 'note';
type Cells = Partial<Record<Column, string>>;
const KEPT = 'cordwain.sheet';

/** A sheet as it is copied in: what is typed, how each line is understood and judged, and storing it all at once. */
export function useGrid(site: SiteView, rows: readonly SheetRow[]) {
	const engine = useEngine(site, null);
	const quantities = sheetColumns(site.stations.map((s) => s.measured));
	const columns: readonly Column[] = ['time', ...quantities, 'note'];
	const [date, setDate] = useState(sheetDay(site.now, site.timezone));
	const [instrument, setInstrument] = useState(site.instruments.find((i) => i.kind === 'combined')?.info.code ?? '');
	const [cells, setCells] = useState<Record<string, Cells>>({});
	/** The day of what was left half copied. */
	const [kept, setKept] = useState('');
	const [said, setSaid] = useState('');
	const [problem, setProblem] = useState('');
	const [busy, setBusy] = useState(false);
	useEffect(() => {
		try {
			const kept = JSON.parse(localStorage.getItem(ofSiteHere(KEPT)) ?? 'null') as {
				date: string;
				cells: typeof cells;
			} | null;
			if (kept) {
				setCells(kept.cells);
				setDate(kept.date);
				setKept(kept.date);
			}
		} catch {
			localStorage.removeItem(ofSiteHere(KEPT));
		}
	}, []);
	useEffect(() => {
		if (Object.keys(cells).length > 0) localStorage.setItem(ofSiteHere(KEPT), JSON.stringify({ date, cells }));
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
				fieldMeter(site, meterOf(r.station, q), q, at ?? site.now),
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
		const verdicts = typed.length > 0 && at !== null ? judgeDraft(engine, sample, site) : [];
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

	async function submit() {
		if (busy || filled.length === 0 || broken.length > 0) return;
		setBusy(true);
		setProblem('');
		try {
			const result = await save(filled.map((l) => l.sample));
			localStorage.removeItem(ofSiteHere(KEPT));
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
	return {
		quantities,
		columns,
		date,
		setDate,
		kept,
		instrument,
		setInstrument,
		cells,
		type: (station: string, column: Column, text: string) => {
			setSaid('');
			setCells({ ...cells, [station]: { ...cells[station], [column]: text } });
		},
		lines,
		filled,
		broken,
		said,
		problem,
		busy,
		submit,
	};
}
