import type { Lot } from '@/contract/calibrations';
import { standardNamed } from '@/core/probe/standards';
import { type Step, standardsFor } from './step';

export type Nominal = { ok: true; value: number } | { ok: false; text: string };

/** A table of pH has no value above 14; of conductivity hardly one below. */
const isOf = (quantity: 'ph' | 'ec', table: readonly (readonly [number, number])[]): boolean =>
	table.every(([, v]) => v <= 14) === (quantity === 'ph');

/** One standard: which, what it should show at this temperature, and what the meter shows before anything is touched. */
export function FoundStep({
	number,
	step,
	quantity,
	nominal,
	show,
	unit,
	showsMv,
	lots,
	onChange,
}: {
	number: number;
	step: Step;
	quantity: 'ph' | 'ec';
	/** Null until the temperature is known. */
	nominal: Nominal | null;
	show: (v: number) => string;
	unit: string;
	showsMv: boolean;
	lots: Lot[];
	onChange: (change: Partial<Step>) => void;
}) {
	const own = lots.filter((l) => l.own_table && !standardNamed(l.standard) && isOf(quantity, l.own_table));
	return (
		<div className="grid grid-cols-2 md:grid-cols-[10rem_6rem_8rem_8rem_8rem] gap-3 items-end py-1.5">
			<label className="block">
				<span className="field-label">Standard {number + 1}</span>
				<select
					className="field"
					value={step.standard}
					onChange={(e) =>
						onChange({
							standard: e.target.value,
							// What no table here knows is known by its bottle alone.
							lot: own.find((l) => l.standard === e.target.value)?.name ?? '',
						})
					}
				>
					{[...new Set([...standardsFor(quantity), ...own.map((l) => l.standard)])].map((n) => (
						<option key={n}>{n}</option>
					))}
				</select>
			</label>
			<p className="pb-2">
				<span className="field-label">should show</span>
				<strong data-nominal={number}>{nominal?.ok ? show(nominal.value) : '–'}</strong>{' '}
				<span className="text-soft text-[0.85rem]">{unit}</span>
			</p>
			<label className="block">
				<span className="field-label">as found</span>
				<input
					id={`c-found-${number}`}
					className="field !text-[1.3rem]"
					inputMode="decimal"
					autoComplete="off"
					value={step.found}
					onChange={(e) => onChange({ found: e.target.value })}
				/>
			</label>
			{showsMv && quantity === 'ph' && (
				<label className="block">
					<span className="field-label">mV</span>
					<input
						className="field"
						inputMode="text"
						autoComplete="off"
						value={step.mv}
						onChange={(e) => onChange({ mv: e.target.value })}
					/>
				</label>
			)}
			<label className="block">
				<span className="field-label">bottle</span>
				<select className="field" value={step.lot} onChange={(e) => onChange({ lot: e.target.value })}>
					<option value="">not said</option>
					{lots
						.filter((l) => l.standard === step.standard)
						.map((l) => (
							<option key={l.name}>{l.name}</option>
						))}
				</select>
			</label>
			{nominal && !nominal.ok && <p className="text-error text-[0.9rem] col-span-2">{nominal.text}</p>}
		</div>
	);
}
