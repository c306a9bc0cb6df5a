import { useState } from 'react';
import type { WaterSource } from '@/contract/pages';
import { ACID_KINDS, type AcidKind, BASE_KINDS, type BaseKind } from '@/core/chem/acids';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { acidDemand } from '@/core/water/acid-demand';
import { baseDemand } from '@/core/water/base-demand';
import { problemWords } from '@/words/en/problem';
import { remarkWords } from '@/words/en/remark';
import { litresTyped, tempShown, tempTyped, volumeName, volumeWithUnit } from '../mix/typed';
import { Choice, Text } from '../ui/controls';
import { unitLabel } from '../ui/format';

/** What a bottle of each usually is, where its own label is not at hand: percent by weight, and g/mL unless it is a powder. */
const USUAL: Record<AcidKind | BaseKind, { percent: string; density: string }> = {
	nitric: { percent: '38', density: '1.24' },
	phosphoric: { percent: '59', density: '1.43' },
	sulfuric: { percent: '37', density: '1.28' },
	citric: { percent: '100', density: '' },
	acetic: { percent: '5', density: '1.005' },
	'potassium hydroxide': { percent: '25', density: '1.24' },
	'potassium carbonate': { percent: '100', density: '' },
	'potassium bicarbonate': { percent: '100', density: '' },
	'potassium silicate': { percent: '29', density: '1.25' },
	'sodium bicarbonate': { percent: '100', density: '' },
};
const isAcid = (kind: string): kind is AcidKind => (ACID_KINDS as readonly string[]).includes(kind);
const FEEDS: Record<string, string> = {
	no3_n_mg_l: 'nitrogen',
	p_mg_l: 'phosphorus',
	so4_mg_l: 'sulfate',
	k_mg_l: 'potassium',
	na_mg_l: 'sodium',
	si_mg_l: 'silicon',
};

/** Acid or base that this water takes to a target pH: in the label's own terms, with what it feeds and where the pH goes later. */
export function AcidTool({ source, units }: { source: WaterSource; units: DisplayUnits }) {
	const [f, setF] = useState({
		ph: source.newest.ph ? source.newest.ph.value.toFixed(2) : (source.report?.ph?.toString() ?? ''),
		alkalinity: source.alkalinityMgLCaco3 === null ? '' : String(Math.round(source.alkalinityMgLCaco3)),
		target: '5.8',
		temp: tempShown(source.newest.temp?.value ?? 20, units),
		litres: '1000',
		kind: 'nitric' as AcidKind | BaseKind,
		percent: '38',
		density: '1.24',
	});
	const n = (text: string) => decimal(text.trim());
	const set = (change: Partial<typeof f>) => setF({ ...f, ...change });
	const [ph, alkalinity, target, percent] = [f.ph, f.alkalinity, f.target, f.percent].map(n);
	const [temp, litres] = [tempTyped(f.temp, units), litresTyped(f.litres, units)];
	const ready = [ph, alkalinity, target, temp, litres, percent].every((v) => v !== undefined) && litres! > 0;
	const powder = f.density.trim() === '';
	const question = {
		ph: ph!,
		alkalinityMgLCaco3: Math.max(alkalinity ?? 0, 0),
		targetPh: target!,
		tempC: temp!,
		volumeL: litres!,
	};
	const product = { percentWw: percent!, densityGMl: powder ? undefined : (n(f.density) ?? 1) };
	const acid = ready && isAcid(f.kind) ? acidDemand({ ...question, acid: { kind: f.kind, ...product } }) : null;
	const base = ready && !isAcid(f.kind) ? baseDemand({ ...question, base: { kind: f.kind, ...product } }) : null;
	const r = acid ?? base;
	return (
		<section className="note-rule" data-acid-tool>
			<h2>Acid or base that {source.name} takes</h2>
			<div className="flex flex-wrap gap-2 items-end">
				<Text label="its pH" width="w-20" mode="decimal" value={f.ph} onChange={(v) => set({ ph: v })} />
				<Text
					label="alkalinity, mg/L CaCO3"
					width="w-36"
					mode="decimal"
					value={f.alkalinity}
					onChange={(v) => set({ alkalinity: v })}
				/>
				<Text
					label={unitLabel(units.temp)}
					width="w-16"
					mode="decimal"
					value={f.temp}
					onChange={(v) => set({ temp: v })}
				/>
				<Text label="to pH" width="w-16" mode="decimal" value={f.target} onChange={(v) => set({ target: v })} />
				<Text
					label={volumeName(units)}
					width="w-20"
					mode="decimal"
					value={f.litres}
					onChange={(v) => set({ litres: v })}
				/>
				<Choice
					label="with"
					width="w-44"
					value={f.kind}
					options={[...ACID_KINDS, ...BASE_KINDS]}
					onChange={(v) => set({ kind: v as AcidKind | BaseKind, ...USUAL[v as AcidKind | BaseKind] })}
				/>
				<Text label="% by weight" width="w-20" mode="decimal" value={f.percent} onChange={(v) => set({ percent: v })} />
				<Text
					label="g/mL, if liquid"
					width="w-28"
					mode="decimal"
					value={f.density}
					onChange={(v) => set({ density: v })}
				/>
			</div>
			<div aria-live="polite" className="mt-2">
				{r === null ? (
					<p className="text-soft">
						{f.alkalinity === ''
							? 'Its alkalinity is not known: a drop test or a laboratory report gives it.'
							: 'Fill in every field.'}
					</p>
				) : !r.ok ? (
					<p className="text-error">{problemWords(r.problem)}</p>
				) : (
					<>
						<p className="text-[1.15rem]" data-acid-answer>
							<strong>
								{r.value.mlTotal !== null ? `${amount(r.value.mlTotal)} mL` : `${amount(r.value.gTotal ?? 0)} g`}
							</strong>{' '}
							<span className="text-soft text-[0.95rem]">
								for {volumeWithUnit(litres ?? 0, units)}: {r.value.meqPerL.toFixed(2)} meq/L
							</span>
						</p>
						{acid?.ok ? (
							<p>
								Tomorrow it stands near <strong>{acid.value.phNextDay.moved.toFixed(1)}</strong> with a bubbler or a
								falling return, {acid.value.phNextDay.still.toFixed(1)} standing still: carbon dioxide leaves, and the
								pH climbs back to {acid.value.phAfterDegassing.toFixed(1)} in the end
								{acid.value.phAfterDegassingCarbonate - acid.value.phAfterDegassing > 0.2 &&
									` (${acid.value.phAfterDegassingCarbonate.toFixed(1)} without what the acid itself buffers)`}
								. Holding {f.target} under aeration takes {acid.value.meqPerLAerated.toFixed(2)} meq/L in all. Add a
								part, stir, wait, measure.
							</p>
						) : (
							base?.ok && (
								<p>
									Its alkalinity becomes {Math.round(base.value.alkalinityMgLCaco3)} mg/L CaCO3; in contact with air the
									pH goes to about <strong>{base.value.phAfterDegassing.toFixed(1)}</strong>. Add a part, stir, wait,
									measure.
								</p>
							)
						)}
						{Object.entries(r.value.adds).map(([k, v]) => (
							<p key={k} className="text-soft text-[0.92rem]">
								It brings {v.toFixed(0)} mg/L of {FEEDS[k]}: count it in the recipe.
							</p>
						))}
						{r.value.cautions.map((c) => (
							<p key={c.code} className="text-[0.9rem] border-l-4 border-warning pl-2 mt-1">
								{remarkWords(c)}
							</p>
						))}
					</>
				)}
			</div>
		</section>
	);
}

const amount = (v: number): string => (v >= 100 ? v.toFixed(0) : v >= 10 ? v.toFixed(1) : v.toFixed(2));
