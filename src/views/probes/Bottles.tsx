import { useState } from 'react';
import type { Lot } from '@/contract/calibrations';
import { STANDARDS } from '@/core/probe/standards';
import { decimal } from '@/core/quantity';
import { api } from '../data/client';

/** "20 7.02, 25 7.00": pairs of temperature and value as the label prints them; null when it cannot be read. */
function tableOf(text: string): [number, number][] | null {
	const rows = text
		.split(/[\n;]+/)
		.map((r) => r.trim())
		.filter((r) => r !== '');
	const pairs = rows.map((r) => r.split(/\s+/).map((c) => decimal(c)));
	return pairs.every((p) => p.length === 2 && p[0] !== undefined && p[1] !== undefined)
		? (pairs as [number, number][])
		: null;
}

/** Bottles of buffer and standard: which, until when, and their own table where the label has one. */
export function Bottles({ lots: first }: { lots: Lot[] }) {
	const [lots, setLots] = useState(first);
	const [name, setName] = useState('');
	const [standard, setStandard] = useState('pH 7.00');
	const [expires, setExpires] = useState('');
	const [opened, setOpened] = useState('');
	const [tolerance, setTolerance] = useState('');
	const [table, setTable] = useState('');
	const [single, setSingle] = useState(false);
	const [problem, setProblem] = useState('');
	return (
		<div className="note-rule">
			<h2>Bottles</h2>
			<ul className="text-[0.92rem]">
				{lots.map((l) => (
					<li key={l.name}>
						{l.name}: {l.standard}
						{l.expires ? `, until ${l.expires}` : ''}
						{l.own_table ? ', own table' : ''}
					</li>
				))}
			</ul>
			<details>
				<summary className="cursor-pointer underline underline-offset-4 min-h-8">Add a bottle</summary>
				<form
					className="grid grid-cols-2 gap-2 mt-1"
					onSubmit={async (e) => {
						e.preventDefault();
						const own = table.trim() === '' ? null : tableOf(table);
						if (table.trim() !== '' && own === null)
							return setProblem('Write the table as pairs of °C and value, one a line: 20 7.02');
						const lot = {
							name: name.trim(),
							standard,
							expires: expires || null,
							opened: opened || null,
							tolerance: decimal(tolerance.trim()) ?? null,
							own_table: own,
							single_use: single,
						};
						try {
							const { id } = await api('POST /lots', { body: lot });
							setLots([...lots.filter((l) => l.name !== lot.name), { ...lot, id }]);
							setName('');
							setProblem('');
						} catch (error) {
							setProblem((error as Error).message);
						}
					}}
				>
					<label className="block">
						<span className="field-label">Name or number</span>
						<input className="field" value={name} maxLength={200} onChange={(e) => setName(e.target.value)} />
					</label>
					<label className="block">
						<span className="field-label">Standard</span>
						<select className="field" value={standard} onChange={(e) => setStandard(e.target.value)}>
							{STANDARDS.map((s) => (
								<option key={s.name}>{s.name}</option>
							))}
						</select>
					</label>
					<label className="block">
						<span className="field-label">Opened</span>
						<input type="date" className="field" value={opened} onChange={(e) => setOpened(e.target.value)} />
					</label>
					<label className="block">
						<span className="field-label">Expires</span>
						<input type="date" className="field" value={expires} onChange={(e) => setExpires(e.target.value)} />
					</label>
					<label className="block">
						<span className="field-label">Tolerance ±</span>
						<input
							className="field"
							inputMode="decimal"
							value={tolerance}
							onChange={(e) => setTolerance(e.target.value)}
						/>
					</label>
					<label className="block">
						<span className="field-label">Own table, °C value</span>
						<textarea className="field" rows={2} value={table} onChange={(e) => setTable(e.target.value)} />
					</label>
					<label className="flex gap-2 items-center min-h-10 col-span-2">
						<input type="checkbox" checked={single} onChange={(e) => setSingle(e.target.checked)} /> for a single use
						(sachet)
					</label>
					<button type="submit" className="act !font-normal" disabled={name.trim() === ''}>
						Add
					</button>
					{problem && (
						<p role="alert" className="text-error col-span-2">
							{problem}
						</p>
					)}
				</form>
			</details>
		</div>
	);
}
