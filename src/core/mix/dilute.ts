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
export type Dilution =
	| { ok: true; drainL: number; addL: number; ecUsCm: number }
	| { ok: false; field: string; message: string };

export function dilute(d: DiluteInput): Dilution {
	const refuse = (field: string, message: string): Dilution => ({ ok: false, field, message });
	const { volumeL: v, ecUsCm: ec, targetEcUsCm: target, withEcUsCm: w, capacityL } = d;
	if (capacityL !== undefined && capacityL < v)
		return refuse('capacity_l', `The tank holds ${capacityL} L and there are ${v} L in it: one of the two is wrong.`);
	if (target === ec) return { ok: true, drainL: 0, addL: 0, ecUsCm: ec };
	const between = (target < ec && target > w) || (target > ec && target < w);
	if (!between && target !== w)
		return refuse(
			'target_ec_us_cm',
			target > ec
				? `Adding water of ${w} µS/cm does not raise ${ec} to ${target}: add nutrients instead.`
				: `Water of ${w} µS/cm cannot bring it down to ${target}: reachable is anything above ${w}. Use purer water.`,
		);
	if (target === w) {
		if (capacityL === undefined)
			return refuse(
				'target_ec_us_cm',
				'Only replacing all of it reaches the EC of the water itself; give the tank’s capacity for that.',
			);
		return { ok: true, drainL: v, addL: capacityL, ecUsCm: w };
	}
	const add = (v * (ec - target)) / (target - w);
	if (capacityL === undefined || v + add <= capacityL) return { ok: true, drainL: 0, addL: add, ecUsCm: target };
	const replaced = (capacityL * (ec - target)) / (ec - w);
	return { ok: true, drainL: v - (capacityL - replaced), addL: replaced, ecUsCm: target };
}

/** EC after adding so much water of another EC: mass balance. */
export const afterAdding = (volumeL: number, ecUsCm: number, addL: number, withEcUsCm: number): number =>
	(volumeL * ecUsCm + addL * withEcUsCm) / (volumeL + addL);
