import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import { afterAdding, dilute } from './dilute';

/**
 * Topping up: what EC comes of it by mass balance, what feed brings it to the target, and in how many parts where roots
 * hang in the tank and it cannot be stirred (common practice: 2 L into 12 L spikes and takes hours to settle).
 */
export interface TopUpInput {
	/** In the tank now. */
	volumeL: number;
	ecUsCm: number;
	addL: number;
	withEcUsCm: number;
	capacityL?: number | undefined;
	targetEcUsCm?: number | undefined;
	/** EC that 1 mL/L of each part adds. */
	gainUsCmPerMlL?: number | undefined;
	/** Whether it can be stirred or has a pump. */
	stirred: boolean;
}
export interface TopUp {
	volumeL: number;
	/** With the water alone. */
	ecUsCm: number;
	/** mL of each part that bring it to the target; 0 when none is wanted, null when it cannot be said. */
	feedMlEach: number | null;
	/** What brings it down to the target with this water alone; null where it is not over it, or the water cannot. */
	toTarget: { drainL: number; addL: number } | null;
	/** Litres of each part, in order, and the EC after each. */
	parts: { litres: number; ecUsCm: number }[];
	/** Hours to wait before measuring, after each part. */
	waitHours: number;
}

/** Of what is in the tank: more at once shocks roots that hang still. */
const PART_SHARE = 0.08;
const MOST_PARTS = 6;
const WAIT_STILL_H = 4;
const WAIT_STIRRED_H = 0.25;

/**
 * EC after topping up, feed to the target, parts and waits. Litres and µS/cm; refused where it would run over.
 * @example planTopUp({ volumeL: 12, ecUsCm: 2000, addL: 2, withEcUsCm: 600, stirred: true }) // { ok: true, value: { volumeL: 14, ecUsCm: 1800, feedMlEach: 0 } }
 */
export function planTopUp(t: TopUpInput): Answer<TopUp> {
	if (!(t.volumeL > 0)) return refuse({ code: 'litres-now', field: 'volume_l' });
	if (!(t.addL > 0)) return refuse({ code: 'litres-to-add', field: 'add_l' });
	if (t.capacityL !== undefined && t.volumeL + t.addL > t.capacityL * 1.001)
		return refuse({ code: 'runs-over', field: 'add_l', roomL: t.capacityL - t.volumeL });
	const volumeL = t.volumeL + t.addL;
	const ecUsCm = afterAdding(t.volumeL, t.ecUsCm, t.addL, t.withEcUsCm);
	const short = t.targetEcUsCm === undefined ? 0 : t.targetEcUsCm - ecUsCm;
	const feedMlEach =
		short <= 0
			? 0
			: t.gainUsCmPerMlL === undefined || !(t.gainUsCmPerMlL > 0)
				? null
				: (short / t.gainUsCmPerMlL) * volumeL;
	const { targetEcUsCm: target } = t;
	const down =
		target !== undefined && t.ecUsCm > target
			? dilute({
					volumeL: t.volumeL,
					ecUsCm: t.ecUsCm,
					targetEcUsCm: target,
					withEcUsCm: t.withEcUsCm,
					capacityL: t.capacityL,
				})
			: null;
	const count = t.stirred ? 1 : Math.min(Math.max(Math.ceil(t.addL / (PART_SHARE * t.volumeL)), 1), MOST_PARTS);
	const litres = t.addL / count;
	const parts = Array.from({ length: count }, (_, i) => ({
		litres,
		ecUsCm: afterAdding(t.volumeL, t.ecUsCm, litres * (i + 1), t.withEcUsCm),
	}));
	return done({
		volumeL,
		ecUsCm,
		feedMlEach,
		toTarget: down?.ok ? { drainL: down.value.drainL, addL: down.value.addL } : null,
		parts,
		waitHours: t.stirred ? WAIT_STIRRED_H : WAIT_STILL_H,
	});
}
