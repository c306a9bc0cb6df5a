import { useState } from 'react';
import type { Lot } from '@/contract/calibrations';
import { STANDARDS } from '@/core/probe/standards';
import { decimal } from '@/core/quantity';
import { ApiProblem, api } from '../data/client';
import { useCheckedForm } from '../ui/checked-form';
import { DayField } from '../ui/DayField';
import { Field } from '../ui/Field';

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

const OWN = 'its own';
interface Values {
	name: string;
	standard: string;
	/** What a standard is called that no table here knows. */
	called: string;
	opened: string;
	expires: string;
	tolerance: string;
	table: string;
	single: boolean;
}
const EMPTY: Values = {
	name: '',
	standard: 'pH 7.00',
	called: '',
	opened: '',
	expires: '',
	tolerance: '',
	table: '',
	single: false,
};

/** A bottle as it is typed; or the field that cannot be understood. */
function readBottle(
	b: Values,
): { ok: true; body: Omit<Lot, 'id'> } | { ok: false; field: 'table' | 'tolerance'; message: string } {
	const own = b.table.trim() === '' ? null : tableOf(b.table);
	if (b.table.trim() !== '' && own === null)
		return { ok: false, field: 'table', message: 'Pairs of °C and value, one a line: 20 7.02' };
	if (b.standard === OWN && own === null)
		return { ok: false, field: 'table', message: 'A standard that is not known here wants its table.' };
	const tolerance = b.tolerance.trim() === '' ? null : decimal(b.tolerance.trim());
	if (tolerance === undefined) return { ok: false, field: 'tolerance', message: 'Write a number, or leave it empty.' };
	return {
		ok: true,
		body: {
			name: b.name.trim(),
			standard: b.standard === OWN ? b.called.trim() || b.name.trim() : b.standard,
			opened: b.opened || null,
			expires: b.expires || null,
			tolerance,
			own_table: own,
			single_use: b.single,
			retired: false,
		},
	};
}

/** Bottles of buffer and standard: which, until when, and their own table where the label has one. */
export function Bottles({ lots: first, zone }: { lots: Lot[]; zone: string }) {
	const [lots, setLots] = useState(first);
	const [problem, setProblem] = useState('');
	/** @throws ApiProblem */
	const keep = async (lot: Omit<Lot, 'id'>) => {
		const { id } = await api('POST /lots', { body: lot });
		setLots((list) => [...list.filter((l) => l.name !== lot.name), { ...lot, id }]);
		setProblem('');
	};
	const retire = ({ id: _, ...lot }: Lot) =>
		keep({ ...lot, retired: !lot.retired }).catch((e: Error) => setProblem(e.message));
	const line = (l: Lot) => (
		<li key={l.name} data-lot={l.name}>
			{l.name}: {l.standard}
			{l.expires ? `, until ${l.expires}` : ''}
			{l.own_table ? ', own table' : ''}{' '}
			<button type="button" className="underline cursor-pointer min-h-8 text-soft" onClick={() => retire(l)}>
				{l.retired ? 'bring back' : 'it is empty'}
			</button>
		</li>
	);
	const retired = lots.filter((l) => l.retired);
	return (
		<div className="note-rule">
			<h2>Bottles</h2>
			<ul className="text-[0.92rem]">{lots.filter((l) => !l.retired).map(line)}</ul>
			{retired.length > 0 && (
				<details data-retired-lots={retired.length}>
					<summary className="cursor-pointer text-soft min-h-8">Empty: {retired.length}</summary>
					<ul className="text-[0.92rem]">{retired.map(line)}</ul>
				</details>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
			<details>
				<summary className="cursor-pointer underline underline-offset-4 min-h-8">Add a bottle</summary>
				<NewBottle zone={zone} onKeep={keep} />
			</details>
		</div>
	);
}

function NewBottle({ zone, onKeep }: { zone: string; onKeep: (lot: Omit<Lot, 'id'>) => Promise<void> }) {
	const form = useCheckedForm({
		address: 'POST /lots',
		first: EMPTY,
		read: readBottle,
		fields: { own_table: 'table' },
	});
	const { register, watch, formState } = form;
	const v = watch();
	const [made, setMade] = useState(0);
	const submit = form.handleSubmit(async (b) => {
		const typed = readBottle(b);
		if (!typed.ok) return form.setError(typed.field, { message: typed.message });
		try {
			await onKeep(typed.body);
			form.reset(EMPTY);
			setMade((n) => n + 1);
		} catch (error) {
			if (!(error instanceof ApiProblem && form.say(error.errors)))
				form.setError('root', { message: (error as Error).message });
		}
	});
	const checked = (name: 'name' | 'tolerance' | 'table') => register(name, { validate: () => form.takes(name) });
	return (
		<form className="grid grid-cols-2 gap-2 mt-1" {...form.steady} onSubmit={submit}>
			<Field label="Name or number" width="w-full" wrong={formState.errors.name?.message}>
				<input className="field" maxLength={200} {...checked('name')} />
			</Field>
			<Field label="Standard" width="w-full">
				<select className="field" {...register('standard')}>
					{STANDARDS.map((s) => (
						<option key={s.name}>{s.name}</option>
					))}
					<option value={OWN}>another, by its own table</option>
				</select>
			</Field>
			{v.standard === OWN && (
				<Field label="What it says on it" width="w-full col-span-2">
					<input className="field" maxLength={100} placeholder="pH 5.00" {...register('called')} />
				</Field>
			)}
			<DayField
				key={`o${made}`}
				label="Opened"
				width="w-full"
				day=""
				zone={zone}
				onDay={(day) => form.setValue('opened', day)}
			/>
			<DayField
				key={`e${made}`}
				label="Expires"
				width="w-full"
				day=""
				zone={zone}
				onDay={(day) => form.setValue('expires', day)}
			/>
			<Field label="Tolerance ±" width="w-full" wrong={formState.errors.tolerance?.message}>
				<input className="field" inputMode="decimal" {...checked('tolerance')} />
			</Field>
			<Field label="Own table, °C value" width="w-full" wrong={formState.errors.table?.message}>
				<textarea className="field" rows={2} {...checked('table')} />
			</Field>
			<label className="flex gap-2 items-center min-h-11 col-span-2">
				<input type="checkbox" {...register('single')} /> for a single use (sachet)
			</label>
			<button type="submit" className="act !font-normal" disabled={v.name.trim() === '' || formState.isSubmitting}>
				Add
			</button>
			{formState.errors.root && (
				<p role="alert" className="text-error col-span-2">
					{formState.errors.root.message}
				</p>
			)}
		</form>
	);
}
