import { done } from '../outcome';
import { type Answer, refuse } from '../problem';

/**
 * Sodium or chloride in a loop that is used again and again: what comes with the water and is not taken up stays, until part of it is let
 * out. V·dC/dt = (W + B)·Cs − W·k·C − B·C: water for what is drunk and let out brings Cs, plants take k·C with what they drink, the
 * bleed takes C (mass balance). Concentrations in mmol/L, litres a day.
 */
export interface Loop {
	/** What circulates, with what the medium holds, litres. */
	volumeL: number;
	drunkLPerDay: number;
	/** Of the water that fills it up. */
	sourceMmolL: number;
	/** In the loop today. */
	nowMmolL: number;
	/** What the crop bears in the root zone, above nothing, and what it takes up with its water there. */
	limitMmolL: number;
	takenMmolL: number;
	bleedLPerDay: number;
}
export interface LoopOutlook {
	/** Where it settles, mmol/L. */
	settlesMmolL: number;
	/** Days until the limit; null where it is never reached, 0 where it is over it now. */
	daysToLimit: number | null;
	/** Litres to let out each day so that it stays at the limit; null where no bleed does that with this water. */
	bleedLPerDay: number | null;
	/** The most in the water with which nothing has to be let out, mmol/L. */
	sourceWithoutBleed: number;
	/** Part of pure water in a blend with this water with which nothing has to be let out, 0 to 1. */
	pureShare: number;
	/** Let out so much at once, to come from today down to half the limit; 0 where it is there; null where the water is too strong for that. */
	renewL: number | null;
}

/** What a crop bears of sodium in the root zone, and what it takes up with its water there, mmol/L (Sonneveld’s values, from memory: confirm). */
export const SODIUM_LIMITS: Readonly<Record<string, { limitMmolL: number; takenMmolL: number }>> = {
	tomato: { limitMmolL: 8, takenMmolL: 0.7 },
	pepper: { limitMmolL: 6, takenMmolL: 0.2 },
	cucumber: { limitMmolL: 8, takenMmolL: 0.9 },
	rose: { limitMmolL: 4, takenMmolL: 0.3 },
	gerbera: { limitMmolL: 4, takenMmolL: 0.4 },
	lettuce: { limitMmolL: 5, takenMmolL: 0.4 },
	strawberry: { limitMmolL: 3, takenMmolL: 0.2 },
};
/** For a crop that is not in the table: careful. */
export const CAREFUL_LIMIT = { limitMmolL: 4, takenMmolL: 0.2 };
/** Chloride, whatever the crop: careful, from memory; most bear more than of sodium and take up more. */
export const CHLORIDE_LIMIT = { limitMmolL: 5, takenMmolL: 0.4 };

/**
 * Where a loop goes, when it comes to the limit, what is to be let out, and which water would spare that.
 * @example loopOutlook({ volumeL: 600, drunkLPerDay: 40, sourceMmolL: 1, nowMmolL: 1, limitMmolL: 4, takenMmolL: 0.4, bleedLPerDay: 0 }) // { ok: true, value: { settlesMmolL: 10, daysToLimit: 60.8, bleedLPerDay: 8, sourceWithoutBleed: 0.4, pureShare: 0.6, renewL: 0 } }
 */
export function loopOutlook(loop: Loop): Answer<LoopOutlook> {
	const { volumeL: V, drunkLPerDay: W, sourceMmolL: cs, nowMmolL: c0, limitMmolL: limit, bleedLPerDay: B } = loop;
	if (!(V > 0)) return refuse({ code: 'litres-now', field: 'volume_l' });
	const k = loop.takenMmolL / limit;
	const leaves = W * k + B;
	const settles = leaves > 0 ? ((W + B) * cs) / leaves : W * cs > 0 ? Number.POSITIVE_INFINITY : c0;
	const without = k * limit;
	const half = limit / 2;
	return done({
		settlesMmolL: settles,
		daysToLimit: daysTo(limit, c0, settles, leaves / V, (W * cs) / V),
		bleedLPerDay: cs <= without ? 0 : cs < limit ? (W * (cs - without)) / (limit - cs) : null,
		sourceWithoutBleed: without,
		pureShare: cs > without ? 1 - without / cs : 0,
		renewL: c0 <= half ? 0 : cs < half ? V * (1 - (half - cs) / (c0 - cs)) : null,
	});
}

function daysTo(limit: number, c0: number, settles: number, rate: number, rises: number): number | null {
	if (c0 >= limit) return 0;
	if (settles <= limit) return null;
	if (rate <= 0) return (limit - c0) / rises;
	return -Math.log((settles - limit) / (settles - c0)) / rate;
}
