import { useState } from 'react';
import { decimal } from '@/core/format/readings-row';
import { acidDemand } from '@/core/water/acid-demand';
import { ACID_KINDS, type AcidKind } from '@/core/water/acids';
import { Choice, Text } from '../setup/fields';
import type { WaterSource } from './types';

/** Acid that this water takes to a target pH: in the label's own terms, with what it feeds and where the pH goes later. */
export function AcidTool({ source }: { source: WaterSource }) {
	const [f, setF] = useState({
		ph: source.newest.ph ? source.newest.ph.value.toFixed(2) : (source.report?.ph?.toString() ?? ''),
		alkalinity: source.alkalinityMgLCaco3 === null ? '' : String(Math.round(source.alkalinityMgLCaco3)),
		target: '5.8',
		temp: source.newest.temp ? source.newest.temp.value.toFixed(0) : '20',
		litres: '1000',
		kind: 'nitric' as AcidKind,
		percent: '38',
		density: '1.24',
	});
	const n = (text: string) => decimal(text.trim());
	const set = (change: Partial<typeof f>) => setF({ ...f, ...change });
	const [ph, alkalinity, target, temp, litres, percent] = [
		f.ph,
		f.alkalinity,
		f.target,
		f.temp,
		f.litres,
		f.percent,
	].map(n);
	const ready = [ph, alkalinity, target, temp, litres, percent].every((v) => v !== undefined) && litres! > 0;
	const powder = f.kind === 'citric';
	const r = ready
		? acidDemand({
				ph: ph!,
				alkalinityMgLCaco3: Math.max(alkalinity!, 0),
				targetPh: target!,
				tempC: temp!,
				volumeL: litres!,
				acid: { kind: f.kind, percentWw: percent!, densityGMl: powder ? undefined : (n(f.density) ?? 1) },
			})
		: null;
	return (
		<section className="note-rule" data-acid-tool>
			<h2>Acid that {source.name} takes</h2>
			<div className="flex flex-wrap gap-2 items-end">
				<Text label="its pH" width="w-20" mode="decimal" value={f.ph} onChange={(v) => set({ ph: v })} />
				<Text
					label="alkalinity, mg/L CaCO3"
					width="w-36"
					mode="decimal"
					value={f.alkalinity}
					onChange={(v) => set({ alkalinity: v })}
				/>
				<Text label="°C" width="w-16" mode="decimal" value={f.temp} onChange={(v) => set({ temp: v })} />
				<Text label="to pH" width="w-16" mode="decimal" value={f.target} onChange={(v) => set({ target: v })} />
				<Text label="litres" width="w-20" mode="decimal" value={f.litres} onChange={(v) => set({ litres: v })} />
				<Choice
					label="acid"
					width="w-32"
					value={f.kind}
					options={ACID_KINDS}
					onChange={(v) =>
						set({
							kind: v as AcidKind,
							...{
								nitric: { percent: '38', density: '1.24' },
								phosphoric: { percent: '59', density: '1.43' },
								sulfuric: { percent: '37', density: '1.28' },
								citric: { percent: '100', density: '' },
								acetic: { percent: '5', density: '1.005' },
							}[v as AcidKind],
						})
					}
				/>
				<Text label="% by weight" width="w-20" mode="decimal" value={f.percent} onChange={(v) => set({ percent: v })} />
				{!powder && (
					<Text label="g/mL" width="w-20" mode="decimal" value={f.density} onChange={(v) => set({ density: v })} />
				)}
			</div>
			<div aria-live="polite" className="mt-2">
				{r === null ? (
					<p className="text-soft">
						{f.alkalinity === ''
							? 'Its alkalinity is not known: a drop test or a laboratory report gives it.'
							: 'Fill in every field.'}
					</p>
				) : !r.ok ? (
					<p className="text-error">{r.message}</p>
				) : (
					<>
						<p className="text-[1.15rem]" data-acid-answer>
							<strong>{r.mlTotal !== null ? `${amount(r.mlTotal)} mL` : `${amount(r.gTotal ?? 0)} g`}</strong>{' '}
							<span className="text-soft text-[0.95rem]">
								for {f.litres} L: {r.meqPerL.toFixed(2)} meq/L
							</span>
						</p>
						<p>
							When its carbon dioxide has left, the pH is back near{' '}
							<strong>{r.phAfterDegassingBuffered.toFixed(1)}</strong>
							{r.phAfterDegassing - r.phAfterDegassingBuffered > 0.2 &&
								` (${r.phAfterDegassing.toFixed(1)} without what the acid itself buffers)`}
							; holding {f.target} under aeration takes {r.meqPerLAerated.toFixed(2)} meq/L in all. Add a part, stir,
							wait, measure.
						</p>
						{Object.entries(r.adds).map(([k, v]) => (
							<p key={k} className="text-soft text-[0.92rem]">
								It feeds {v.toFixed(0)} mg/L of{' '}
								{{ no3_n_mg_l: 'nitrogen', p_mg_l: 'phosphorus', so4_mg_l: 'sulfate' }[k]}: count it in the recipe.
							</p>
						))}
						{r.cautions.map((c) => (
							<p key={c} className="text-[0.9rem] border-l-4 border-warning pl-2 mt-1">
								{c}
							</p>
						))}
					</>
				)}
			</div>
		</section>
	);
}

const amount = (v: number): string => (v >= 100 ? v.toFixed(0) : v >= 10 ? v.toFixed(1) : v.toFixed(2));
