import { useState } from 'react';
import { kclGrams } from '@/core/probe/storage-solution';
import { decimal } from '@/core/quantity';

/** Grams of potassium chloride for a cap. */
export function StorageSolution() {
	const [molar, setMolar] = useState('3');
	const [ml, setMl] = useState('100');
	const m = decimal(molar.trim());
	const v = decimal(ml.trim());
	const ok = m !== undefined && v !== undefined && m > 0 && v > 0 && m <= 4.6 && v <= 1e6;
	return (
		<div className="note-rule">
			<h2>Storage solution</h2>
			<div className="flex gap-2 my-1">
				<label className="block">
					<span className="field-label">mol/L KCl</span>
					<input className="field" inputMode="decimal" value={molar} onChange={(e) => setMolar(e.target.value)} />
				</label>
				<label className="block">
					<span className="field-label">mL made up</span>
					<input className="field" inputMode="decimal" value={ml} onChange={(e) => setMl(e.target.value)} />
				</label>
			</div>
			<p aria-live="polite">
				{ok ? (
					<>
						<strong>{kclGrams(m, v).toFixed(2)} g</strong> potassium chloride, filled up with pure water to {v} mL.
					</>
				) : (
					'Up to 4.6 mol/L dissolves; type two numbers.'
				)}
			</p>
			<p className="text-soft text-[0.85rem] mt-1">
				Label the bottle, keep it from food and children. The probe’s own instructions come first.
			</p>
		</div>
	);
}
