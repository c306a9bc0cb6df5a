import { BASES, type BaseKind } from '../chem/acids';
import { alkalinityClosed, phOpen } from '../chem/carbonate';
import { AIR_UATM, MG_L_CACO3_PER_MEQ } from '../chem/constants';
import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import type { Remark } from '../remark';
import { treatedWater } from './treated-water';

/**
 * How much base a water takes up to a target pH, closed to the air. A hydroxide or silicate only takes up acid: x = (alkalinity
 * at the target − alkalinity)/n. A carbonate brings carbonate of its own, so that total carbonate rises by m for each mole and
 * x·(n − m·charge at the target) = alkalinity at the target − alkalinity. A bicarbonate alone therefore never passes pH 8.3.
 * Constants: Plummer and Busenberg (1982); method: Stumm and Morgan, Aquatic Chemistry.
 */
export interface BaseInput {
	ph: number;
	alkalinityMgLCaco3: number;
	targetPh: number;
	tempC: number;
	volumeL: number;
	pco2Uatm?: number | undefined;
	/** Of a feed, µS/cm; left out: a thin water. */
	ecUsCm?: number | undefined;
	base: { kind: BaseKind; percentWw: number; densityGMl?: number | undefined };
}

export type BaseAdds = Partial<Record<'k_mg_l' | 'na_mg_l' | 'si_mg_l', number>>;
export interface BaseDemand {
	meqPerL: number;
	mmolPerL: number;
	/** Of a liquid; null for a powder. */
	mlTotal: number | null;
	gTotal: number | null;
	adds: BaseAdds;
	alkalinityMgLCaco3: number;
	phAfterDegassing: number;
	cautions: Remark[];
}

/** Silicic acid begins to give protons of its own above this, and no plant wants more. */
const MOST_TARGET = 9;
/** Sodium that class 1 of substrate growing still bears (1.5 mmol/L; from memory). */
const MOST_NA_MG_L = 35;

/** Base that a water takes to a higher pH, up to 9. mg/L, °C (0 to 60), litres; refused where the base cannot reach it. */
export function baseDemand(input: BaseInput): Answer<BaseDemand> {
	const { ph, targetPh, volumeL, base } = input;
	if (targetPh <= ph) return refuse({ code: 'base-does-not-lower', field: 'target_ph', targetPh, ph });
	if (targetPh > MOST_TARGET) return refuse({ code: 'above-any-plant', field: 'target_ph', ph: MOST_TARGET });
	const water = treatedWater(input, { name: 'base', percentWw: base.percentWw });
	if (!water.ok) return water;
	const { m, alkalinityMeqL: alkalinity, totalMmolL: total } = water.value;
	const { c } = m;
	const { meqPerMmol, carbon, gPerMol, adds } = BASES[base.kind];
	// What one mmol of it still lifts at the target, after its own carbonate has been served.
	const lifts = meqPerMmol - carbon * (alkalinityClosed(targetPh, 1, c) - alkalinityClosed(targetPh, 0, c));
	if (!(lifts > 0.02)) return refuse({ code: 'bicarbonate-ends', field: 'target_ph', kind: base.kind, targetPh });
	const mmolPerL = (alkalinityClosed(targetPh, total, c) - alkalinity) / lifts;
	const liquid = base.densityGMl !== undefined;
	const grams = (mmolPerL * volumeL * gPerMol) / 1000 / (base.percentWw / 100);
	const brought = Object.fromEntries(Object.entries(adds).map(([k, mg]) => [k, mg * mmolPerL])) as BaseAdds;
	const alkalinityAfter = alkalinity + meqPerMmol * mmolPerL;
	return done({
		meqPerL: meqPerMmol * mmolPerL,
		mmolPerL,
		mlTotal: liquid ? grams / base.densityGMl! : null,
		gTotal: liquid ? null : grams,
		adds: brought,
		alkalinityMgLCaco3: alkalinityAfter * MG_L_CACO3_PER_MEQ,
		phAfterDegassing: phOpen(alkalinityAfter, input.pco2Uatm ?? AIR_UATM, c),
		cautions: [...(water.value.caution ? [water.value.caution] : []), ...cautionsOf(base.kind, brought)],
	});
}

function cautionsOf(kind: BaseKind, adds: BaseAdds): Remark[] {
	const list: Remark[] = [{ code: 'base-caution' }];
	if (kind === 'potassium hydroxide') list.push({ code: 'caustic' });
	if (kind === 'potassium silicate') list.push({ code: 'silicate-first' });
	const sodium = adds.na_mg_l;
	if (sodium !== undefined)
		list.push(sodium > MOST_NA_MG_L ? { code: 'too-much-sodium', mgL: sodium } : { code: 'sodium-stays' });
	return list;
}
