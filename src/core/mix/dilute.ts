import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
/**
 * Bringing EC down: V·(EC − target)/(target − EC_with) litres to add where there is room, else drain and replace so much
 * that the tank ends full and on target. Salt is conserved.
 */
export interface DiluteInput {
	volumeL: number;
	ecUsCm: number;
	targetEcUsCm: number;
	withEcUsCm: number;
	/** No limit unless given. */
	capacityL?: number | undefined;
}
export interface Dilution {
	drainL: number;
	addL: number;
	ecUsCm: number;
}

/**
 * Litres to add, and to drain first where there is no room. Refused where the water cannot bring it there.
 * @example dilute({ volumeL: 100, ecUsCm: 2400, targetEcUsCm: 2000, withEcUsCm: 400 }) // { ok: true, value: { drainL: 0, addL: 25 } }
 */
export function dilute(d: DiluteInput): Answer<Dilution> {
	const { volumeL: v, ecUsCm: ec, targetEcUsCm: target, withEcUsCm: w, capacityL } = d;
	if (capacityL !== undefined && capacityL < v)
		return refuse({ code: 'less-than-in-it', field: 'capacity_l', capacityL, volumeL: v });
	if (target === ec) return done({ drainL: 0, addL: 0, ecUsCm: ec });
	const between = (target < ec && target > w) || (target > ec && target < w);
	if (!between && target !== w)
		return refuse(
			target > ec
				? { code: 'water-does-not-raise', field: 'target_ec_us_cm', withUsCm: w, ecUsCm: ec, targetUsCm: target }
				: { code: 'water-too-salty', field: 'target_ec_us_cm', withUsCm: w, targetUsCm: target },
		);
	if (target === w) {
		if (capacityL === undefined) return refuse({ code: 'only-by-replacing', field: 'target_ec_us_cm' });
		return done({ drainL: v, addL: capacityL, ecUsCm: w });
	}
	const add = (v * (ec - target)) / (target - w);
	if (capacityL === undefined || v + add <= capacityL) return done({ drainL: 0, addL: add, ecUsCm: target });
	const replaced = (capacityL * (ec - target)) / (ec - w);
	return done({ drainL: v - (capacityL - replaced), addL: replaced, ecUsCm: target });
}

/** EC after adding so much water of another EC: mass balance. */
export const afterAdding = (volumeL: number, ecUsCm: number, addL: number, withEcUsCm: number): number =>
	(volumeL * ecUsCm + addL * withEcUsCm) / (volumeL + addL);
