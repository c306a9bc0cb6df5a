import type { Instrument } from '@/contract/site';
import { decimal } from '@/core/quantity';
import { Choice, Text } from './fields';

const SCHOOLS = ['learned', 'weekly', 'before_use', 'monthly', 'maker'] as const;

/** What the meter's leaflet says: how finely it shows, how right it claims to be, how it is calibrated. */
export function InstrumentLeaflet({ i, onChange }: { i: Instrument; onChange: (change: Partial<Instrument>) => void }) {
	const quantity = (q: 'ph' | 'ec', key: 'resolution' | 'accuracy' | 'accuracyPct', text: string) => {
		const value = text.trim() === '' ? undefined : decimal(text.trim());
		onChange({ quantities: { ...i.quantities, [q]: { ...i.quantities?.[q], [key]: value } } });
	};
	const field = (label: string, q: 'ph' | 'ec', key: 'resolution' | 'accuracy' | 'accuracyPct') => (
		<label className="block w-28">
			<span className="field-label">{label}</span>
			<input
				className="field"
				inputMode="decimal"
				defaultValue={i.quantities?.[q]?.[key] ?? ''}
				onBlur={(e) => quantity(q, key, e.target.value)}
			/>
		</label>
	);
	return (
		<details className="w-full">
			<summary className="cursor-pointer text-soft text-[0.9rem]">what its leaflet says</summary>
			<div className="flex flex-wrap gap-2 items-end py-1">
				{i.kind !== 'ec' && field('pH steps of', 'ph', 'resolution')}
				{i.kind !== 'ec' && field('pH right to ±', 'ph', 'accuracy')}
				{i.kind !== 'ph' && field('EC steps, µS/cm', 'ec', 'resolution')}
				{i.kind !== 'ph' && field('EC right to ± %', 'ec', 'accuracyPct')}
				<Text
					label="% per °C"
					width="w-20"
					mode="decimal"
					value={String(i.alpha_pct_per_c ?? 2)}
					onChange={(v) => onChange({ alpha_pct_per_c: decimal(v.trim()) ?? 2 })}
				/>
				<Choice
					label="Calibrate"
					width="w-36"
					value={i.calibrate_by ?? 'learned'}
					options={SCHOOLS}
					onChange={(v) => onChange({ calibrate_by: v as Instrument['calibrate_by'] })}
				/>
				{i.calibrate_by === 'maker' && (
					<Text
						label="every, days"
						width="w-24"
						mode="decimal"
						value={String(i.maker_days ?? '')}
						onChange={(v) => onChange({ maker_days: decimal(v.trim()) ?? null })}
					/>
				)}
				<Choice
					label="Remembers"
					width="w-32"
					value={String(i.remembers_points ?? 2)}
					options={['0', '1', '2', '3']}
					onChange={(v) => onChange({ remembers_points: Number(v) })}
				/>
				<label className="flex gap-2 items-center min-h-10">
					<input
						type="checkbox"
						checked={i.shows_mv ?? false}
						onChange={(e) => onChange({ shows_mv: e.target.checked })}
					/>{' '}
					shows mV
				</label>
				<Choice
					label="Reads live"
					width="w-32"
					value={i.live ?? 'none'}
					options={['none', 'simulated']}
					onChange={(v) => onChange({ live: v as 'none' })}
				/>
				<label className="flex gap-2 items-center min-h-10">
					<input type="checkbox" checked={i.locks ?? false} onChange={(e) => onChange({ locks: e.target.checked })} />{' '}
					locks when stable
				</label>
			</div>
		</details>
	);
}
