import { useState } from 'react';
import { decimal, type Quantity, type Unit } from '@/core/quantity';
import { dropResolution, type PerDrop, unitsFor } from '@/core/reading/drops';
import { unitLabel } from '../ui/format';

/** What one drop of a kit stands for, as its leaflet says; asked once, and changed when the kit is another. */
export function DropSize({
	quantity,
	per,
	said,
	onSize,
}: {
	quantity: Quantity;
	per: PerDrop | null;
	said: string | null;
	onSize: (per: PerDrop) => void;
}) {
	const units = unitsFor(quantity);
	const [text, setText] = useState(per ? String(per.value) : '');
	const [unit, setUnit] = useState<Unit>(per?.unit ?? units[0]!);
	const value = decimal(text.trim());
	const usable = value !== undefined && dropResolution(quantity, { value, unit }) !== null;
	return (
		<details className="text-[0.85rem] text-soft" open={!per} data-drop-size={quantity}>
			<summary className="cursor-pointer min-h-8 pt-1">{said ?? 'A kit that counts drops?'}</summary>
			<div className="flex flex-wrap gap-2 items-end pb-2">
				<label className="block w-20">
					<span className="field-label">One drop is</span>
					<input
						className="field"
						inputMode="decimal"
						value={text}
						maxLength={10}
						onChange={(e) => setText(e.target.value)}
					/>
				</label>
				<label className="block grow">
					<span className="field-label">of what</span>
					<select className="field" value={unit} onChange={(e) => setUnit(e.target.value as Unit)}>
						{units.map((u) => (
							<option key={u} value={u}>
								{unitLabel(u)}
							</option>
						))}
					</select>
				</label>
				<button
					type="button"
					className="act !font-normal"
					disabled={!usable}
					onClick={() => value !== undefined && onSize({ value, unit })}
				>
					Keep
				</button>
			</div>
		</details>
	);
}
