import { ACIDS, type AcidKind, molPerGram, molPerLitre, protonsGiven } from '../chem/acids';
import { alkalinityClosed, alkalinityOpen, phOpen, solvePh } from '../chem/carbonate';
import { AIR_UATM } from '../chem/constants';
import { AERATION } from '../chem/degassing';
import { carbonAfter } from '../chem/solution';
import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import type { Remark } from '../remark';
import { treatedWater } from './treated-water';

/**
 * How much acid a water takes to a target pH. Closed: total carbonate stays, meq/L = alkalinity at the start − alkalinity
 * at the target. Aerated: carbon dioxide leaves until air and water agree, so holding the target takes nearly all of the
 * alkalinity. Source: Plummer and Busenberg (1982) for the constants; Stumm and Morgan, Aquatic Chemistry, for the method.
 */
export interface AcidInput {
	ph: number;
	alkalinityMgLCaco3: number;
	targetPh: number;
	tempC: number;
	volumeL: number;
	pco2Uatm?: number | undefined;
	/** Of a feed, µS/cm: its ions act as fewer than they are. Left out: a thin water. */
	ecUsCm?: number | undefined;
	acid: { kind: AcidKind; percentWw: number; densityGMl?: number | undefined };
}

export interface AcidDemand {
	meqPerL: number;
	meqPerLAerated: number;
	/** Of a liquid; null for a powder. */
	mlTotal: number | null;
	gTotal: number | null;
	adds: Partial<Record<'no3_n_mg_l' | 'p_mg_l' | 'so4_mg_l', number>>;
	/** After the carbon dioxide has left, with what the acid itself buffers: phosphate and citrate hold the pH lower. */
	phAfterDegassing: number;
	/** The same by the carbonate system alone. */
	phAfterDegassingCarbonate: number;
	/** A day later: standing still, and with a bubbler or a falling return. */
	phNextDay: { still: number; moved: number };
	cautions: Remark[];
}

/** A feed holds about 30 to 60 mg/L of phosphorus, 150 to 200 of nitrogen; beyond these an acid feeds too much (common practice). */
const MOST = [
	['p_mg_l', 40],
	['no3_n_mg_l', 80],
	['so4_mg_l', 250],
] as const;
/** More alkalinity than this is not fought with acid (common practice). */
const MUCH_MEQ_L = 6;
const STRONG_PERCENT = 30;
/** No plant lives in more acid water (common practice). */
const LEAST_TARGET = 3;

/**
 * Acid that a water takes to a lower pH. mg/L, °C (0 to 60), litres; refused where the pH would rise, or water and alkalinity contradict each other.
 * @example acidDemand({ ph: 7.8, alkalinityMgLCaco3: 200, targetPh: 6, tempC: 20, volumeL: 100, acid: { kind: 'nitric', percentWw: 38, densityGMl: 1.24 } }) // { ok: true, value: { meqPerL: 2.784, mlTotal: 37.23 } }
 */
export function acidDemand(input: AcidInput): Answer<AcidDemand> {
	const { ph, targetPh, volumeL, acid } = input;
	if (targetPh >= ph) return refuse({ code: 'acid-does-not-raise', field: 'target_ph', targetPh, ph });
	if (targetPh < LEAST_TARGET) return refuse({ code: 'below-any-plant', field: 'target_ph', ph: LEAST_TARGET });
	const water = treatedWater(input, { name: 'acid', percentWw: acid.percentWw });
	if (!water.ok) return water;
	const { m, alkalinityMeqL: alkalinity, totalMmolL: total } = water.value;
	const { c } = m;
	const ec = input.ecUsCm ?? 0;
	const pco2 = input.pco2Uatm ?? AIR_UATM;
	const left = alkalinityClosed(targetPh, total, c);
	const meqPerL = alkalinity - left;
	const meqPerLAerated = Math.max(alkalinity - alkalinityOpen(targetPh, pco2, c), 0);
	const protons = protonsGiven(acid.kind, targetPh, input.tempC, ec);
	const mmolPerL = meqPerL / protons;
	const liquid = acid.densityGMl !== undefined;
	const amount = liquid
		? (mmolPerL * volumeL) / molPerLitre(acid.kind, acid.percentWw, acid.densityGMl!)
		: (mmolPerL * volumeL) / 1000 / molPerGram(acid.kind, acid.percentWw);
	const own = (p: number) => mmolPerL * protonsGiven(acid.kind, p, input.tempC, ec);
	const later = (perHour: number) => carbonAfter(24, perHour, alkalinity, total, 0, m, targetPh, own).ph;
	const adds = Object.fromEntries(Object.entries(ACIDS[acid.kind].adds).map(([k, mg]) => [k, mg * mmolPerL]));
	return done({
		meqPerL,
		meqPerLAerated,
		mlTotal: liquid ? amount : null,
		gTotal: liquid ? null : amount,
		adds,
		phAfterDegassing: solvePh((p) => alkalinityOpen(p, pco2, c) + own(p), alkalinity),
		phAfterDegassingCarbonate: phOpen(left, pco2, c),
		phNextDay: { still: later(AERATION.still.perHour), moved: later(AERATION['air stone'].perHour) },
		cautions: [...(water.value.caution ? [water.value.caution] : []), ...cautionsOf(acid, adds, meqPerL)],
	});
}

function cautionsOf(acid: AcidInput['acid'], adds: Record<string, number>, meqPerL: number): Remark[] {
	const list: Remark[] = [{ code: 'acid-caution' }];
	for (const [of, most] of MOST) {
		const mgL = adds[of];
		if (mgL !== undefined && mgL > most) list.push({ code: 'adds-too-much', of, mgL });
	}
	const weak = acid.kind === 'citric' || acid.kind === 'acetic';
	if (acid.percentWw > STRONG_PERCENT && !weak) list.push({ code: 'strong-acid' });
	if (weak) list.push({ code: 'eaten-by-microbes' });
	if (meqPerL > MUCH_MEQ_L) list.push({ code: 'better-blended' });
	return list;
}
