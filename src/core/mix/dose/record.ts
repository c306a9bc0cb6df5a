import type { AcidKind, BaseKind } from '../../chem/acids';
import type { Aeration } from '../../chem/degassing';

/** What is written down of a tank: all that advice on a dose may go by, oldest first. */
export interface TankRecord {
	ph: readonly PhRead[];
	/** µS/cm at 25 °C. */
	ec: readonly { at: number; usCm: number }[];
	events: readonly TankEvent[];
	/** Alkalinity measured in the tank itself, meq/L. */
	alkalinity: readonly { at: number; meqL: number }[];
	/** Titrations of its own solution in a jug. */
	jugs: readonly { at: number; litres: number; product: string; steps: readonly { ml: number; ph: number }[] }[];
}

export interface PhRead {
	at: number;
	value: number;
	/** Standard uncertainty of the probe, its known error not taken off. */
	u: number;
	/** Of one reading against the next with the same pen, where its display is coarse; else that of a kept two-decimal pen. */
	noise?: number | undefined;
	by: string | null;
	/** Under which it is kept; absent where it was only said. */
	id?: number | undefined;
}

export type TankEvent = { at: number } & (
	| {
			kind: 'filled';
			/** Null where nobody said. */
			litres: number | null;
			water: WaterThen | null;
	  }
	| { kind: 'water'; litres: number | null; water: WaterThen | null }
	| { kind: 'drained'; litres: number | null }
	| { kind: 'fed' }
	| { kind: 'dosed'; ml: number; product: string; sign: -1 | 1 }
);

/** A water as it was known when it went in. */
export interface WaterThen {
	/** Changes when the source is another one or has shifted for good. */
	code: string;
	ecUsCm: number | null;
	alkalinityMeqL: number | null;
}

/** The tank as it is set up. */
export interface TankSetup {
	holdsL: number;
	aeration: Aeration | null;
	/** Minutes to wait after pouring, where the grower set them. */
	mixMinutes: number | null;
	tempC: number;
	range: readonly [number, number] | null;
	/** The grower’s own limits for this tank: pH that acid or base must not pass. */
	leastPh: number | null;
	mostPh: number | null;
}

export interface DoseProduct {
	name: string;
	kind: 'acid' | 'base';
	/** What it is, where the label says. */
	chemical: AcidKind | BaseKind | null;
	/** meq in a millilitre by its label or a jug; null where nobody knows. */
	strengthMeqMl: number | null;
	/** From a jug and not from a label. */
	fromJug?: boolean | undefined;
}

export interface DoseQuestion {
	record: TankRecord;
	tank: TankSetup;
	product: DoseProduct;
	/** All that are in use here: what was given of another one counts too. */
	others?: readonly DoseProduct[] | undefined;
	targetPh: number;
	/** Litres in it now, where said with the question. */
	litres: number | null;
	/** A pH said with the question, read just now; else the newest reading. */
	ph: number | null;
	now: number;
	/** Why the newest reading is nothing to dose on, by the checks; null where it is. */
	doubt: Said | null;
	/** The doubt is only that nobody expected the value: a tank that has lost carbon dioxide may explain it. */
	unexpectedOnly?: boolean | undefined;
	/** An error of the probe that is known and not taken off, in pH. */
	knownErrorPh?: number | undefined;
	/** Leaves alone what is inside the range. */
	leaveInRange?: boolean | undefined;
}

/** A thing to be said, without its words. */
export interface Said {
	code: string;
	params: Readonly<Record<string, number | string>>;
}
/**
 * A thing to be said, by its code.
 * @example say('on-target', { ph: 5.8 }) // { code: 'on-target', params: { ph: 5.8 } }
 */
export const say = (code: string, params: Said['params'] = {}): Said => ({ code, params });
