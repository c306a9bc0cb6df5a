import { useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import { QUANTITIES, QUANTITY } from '@/core/quantity';
import { type Sent, sendFile } from '../data/client';
import { useAsked } from '../data/queries';
import { Options } from '../ui/controls';

type Looked = Got<Contract['POST /sheets/look']>;
export type Mapping = Looked['guess'];
type Use = Mapping['columns'][number]['use'];

const ORDERS = { dmy: 'day first: 25/04/2026', mdy: 'month first: 04/25/2026', ymd: 'year first: 2026-04-25' };
const USES = ['ignore', 'time', 'date', 'clock', 'station', 'instrument', 'note'] as const;
const USE_WORDS = {
	ignore: 'leave out',
	time: 'date and time',
	date: 'date',
	clock: 'time of day',
	station: 'station',
	instrument: 'instrument',
	note: 'note',
};
const UNITS = [
	'pH',
	'mS/cm',
	'uS/cm',
	'ppm500',
	'ppm640',
	'ppm700',
	'C',
	'F',
	'mg/L',
	'%',
	'mV',
	'cm',
	'mm',
	'L',
	'gal',
];
const chosenOf = (u: Use): string => (u.as === 'quantity' ? u.quantity : u.as);

/** A spreadsheet as it is kept: what its columns mean is said once, under a name, and used again. */
export function Spreadsheet({
	stations,
	onReady,
}: {
	stations: readonly { code: string; name: string }[];
	onReady: (file: File, name: string, mapping: Mapping) => Promise<void>;
}) {
	const picker = useRef<HTMLInputElement>(null);
	const [file, setFile] = useState<File | null>(null);
	const [looked, setLooked] = useState<Looked | null>(null);
	const [mapping, setMapping] = useState<Mapping | null>(null);
	const [name, setName] = useState('my sheet');
	const [problem, setProblem] = useState('');
	const kept = useAsked('GET /mappings', {}).data?.mappings ?? [];
	const choose = async (chosen: File | undefined) => {
		if (!chosen) return;
		setProblem('');
		setFile(chosen);
		try {
			const data: Sent['file'] = { data: chosen, type: chosen.type || 'text/csv' };
			const found = await sendFile('POST /sheets/look', data);
			setLooked(found);
			// One that was said before and has the same columns is taken up again.
			const names = (m: Mapping) => m.columns.map((c) => c.name).join('\u0000');
			const before = kept.find((m) => names(m.mapping) === names(found.guess));
			setMapping(before?.mapping ?? { ...found.guess, station: stations[0]?.code ?? '' });
			setName(before?.name ?? chosen.name.replace(/\.\w+$/, ''));
		} catch (error) {
			setProblem((error as Error).message);
		}
	};
	const change = (part: Partial<Mapping>) => setMapping((m) => m && { ...m, ...part });
	const says = (i: number, use: Use) =>
		mapping && change({ columns: mapping.columns.map((c, k) => (k === i ? { ...c, use } : c)) });
	const asks = looked !== null && looked.orders.length > 1;
	return (
		<div className="mt-4 border-t border-line pt-3">
			<input
				ref={picker}
				type="file"
				aria-label="Spreadsheet"
				tabIndex={-1}
				accept=".csv,.xlsx,.txt,.tsv"
				className="sr-only"
				onChange={(e) => void choose(e.target.files?.[0])}
			/>
			<button type="button" className="act" onClick={() => picker.current?.click()}>
				Choose a spreadsheet of your own
			</button>{' '}
			<span className="text-soft">CSV or .xlsx; what its columns mean is said once, and kept.</span>
			{problem && (
				<p role="alert" className="text-error mt-2">
					{problem}
				</p>
			)}
			{looked && mapping && file && (
				<form
					className="mt-3 grid gap-3"
					data-mapping
					onSubmit={(e) => {
						e.preventDefault();
						void onReady(file, name.trim() || 'my sheet', mapping);
					}}
				>
					<div className="overflow-x-auto">
						<table className="text-[0.9rem]">
							<thead>
								<tr>
									{mapping.columns.map((c, i) => (
										<th key={`${i}${c.name}`} className="pr-3 pb-1 text-left align-bottom font-normal">
											<span className="block font-bold">{c.name || '(no name)'}</span>
											<select
												className="field !w-40"
												aria-label={`${c.name || `column ${i + 1}`} is`}
												value={chosenOf(c.use)}
												onChange={(e) => {
													const q = QUANTITIES.find((x) => x === e.target.value);
													const as = USES.find((x) => x === e.target.value);
													says(
														i,
														q ? { as: 'quantity', quantity: q, unit: QUANTITY[q].canonical } : { as: as ?? 'ignore' },
													);
												}}
											>
												<Options
													options={[...USES, ...QUANTITIES]}
													labels={{
														...USE_WORDS,
														...Object.fromEntries(QUANTITIES.map((q) => [q, QUANTITY[q].name])),
													}}
												/>
											</select>
											{c.use.as === 'quantity' && (
												<input
													className="field !w-40 mt-1"
													aria-label={`Unit of ${c.name}`}
													list="sheet-units"
													maxLength={20}
													value={c.use.unit}
													onChange={(e) => c.use.as === 'quantity' && says(i, { ...c.use, unit: e.target.value })}
												/>
											)}
										</th>
									))}
								</tr>
							</thead>
							<tbody className="text-soft">
								{looked.rows.slice(mapping.lines_before + 1, mapping.lines_before + 5).map((r, i) => (
									<tr key={i}>
										{mapping.columns.map((_, k) => (
											<td key={k} className="pr-3">
												{r[k]}
											</td>
										))}
									</tr>
								))}
							</tbody>
						</table>
						<datalist id="sheet-units">
							{UNITS.map((u) => (
								<option key={u} value={u} />
							))}
						</datalist>
					</div>
					<div className="flex flex-wrap gap-3 items-end">
						<label className="block w-64">
							<span className="field-label">
								{asks ? 'Its dates could be either: which are they?' : 'Its dates have'}
							</span>
							<select
								className="field"
								value={mapping.date_order}
								onChange={(e) => change({ date_order: e.target.value as Mapping['date_order'] })}
							>
								<Options options={asks ? looked.orders : Object.keys(ORDERS)} labels={ORDERS} />
							</select>
						</label>
						{!mapping.columns.some((c) => c.use.as === 'station') && (
							<label className="block w-44">
								<span className="field-label">All of it is from</span>
								<select className="field" value={mapping.station} onChange={(e) => change({ station: e.target.value })}>
									{stations.map((s) => (
										<option key={s.code} value={s.code}>
											{s.name}
										</option>
									))}
								</select>
							</label>
						)}
						<label className="block w-32">
							<span className="field-label">Read at, if not said</span>
							<input
								className="field"
								inputMode="numeric"
								placeholder="07:30"
								pattern="[0-2][0-9]:[0-5][0-9]"
								title="as 07:30"
								maxLength={5}
								value={mapping.clock}
								onChange={(e) => change({ clock: e.target.value })}
							/>
						</label>
						<label className="block w-52">
							<span className="field-label">Keep what was said as</span>
							<input className="field" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
						</label>
						<button type="submit" className="act act-main">
							See what it holds
						</button>
					</div>
				</form>
			)}
		</div>
	);
}
