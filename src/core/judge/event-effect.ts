import type { SeriesQuantity } from '../quantity/quantities';
import { toCanonical, UNITS } from '../quantity/units';
import type { StationInfo, WaterEvent } from '../reading/model';
import { madSigma, median } from '../series/robust';

/**
 * What the events since the last reading do to the expectation: a shift that is known, a widening that is not, and a
 * direction in which any size is believable up to a reach. Working units: pH, ln(EC), °C.
 *
 * Water of low salt added to a known volume dilutes by mass balance: ln(V/(V + a)). A dose of known size shifts by what
 * doses of its kind did at this station before, once three are known.
 */
export interface EventEffect {
	shift: number;
	widen: number;
	/** -1 or 1: the only way an addition of unknown size can move it; 0: either way. */
	direction: -1 | 0 | 1;
	reach: number;
	/** The series before does not predict the series after. */
	cuts: boolean;
	kinds: readonly string[];
	/** The one dose of known size behind it, for learning its response; null for none, several, or an unknown size. */
	dose: { key: string; amount: number } | null;
}

/** What doses of one kind did here before, per unit of their amount, in working units; newest last. */
export type Responses = Record<string, number[]>;

export const NO_EFFECT: EventEffect = {
	shift: 0,
	widen: 0,
	direction: 0,
	reach: 0,
	cuts: false,
	kinds: [],
	dose: null,
};

const DOSES = new Set(['acid_added', 'base_added', 'nutrient_added']);
const LEAST_LEARNED = 3;
/** A dose repeats itself to about this share of what it does (common practice, no source). */
const REPEATS_WITHIN = 0.3;

/** What an event put into the water that moves its pH, for the prediction of the next reading; null where nothing did. */
export const doseOf = (event: WaterEvent): EventEffect['dose'] =>
	DOSES.has(event.kind) && event.amount !== null && event.amount > 0
		? { key: `${event.kind} ${event.unit ?? ''}`, amount: event.amount }
		: null;

/** The shift that a dose of this size made before, once three are known. */
function learned(event: WaterEvent, responses: Responses): Omit<EventEffect, 'kinds' | 'dose'> | null {
	const dose = doseOf(event);
	const ratios = dose && responses[dose.key];
	if (!dose || !ratios || ratios.length < LEAST_LEARNED) return null;
	const shift = median(ratios) * dose.amount;
	return {
		shift,
		widen: Math.max(madSigma(ratios) * dose.amount, REPEATS_WITHIN * Math.abs(shift)),
		direction: 0,
		reach: 0,
		cuts: true,
	};
}

function dilution(event: WaterEvent, station: StationInfo): number | null {
	if (event.amount === null || event.unit === null || station.volumeL === null || !(station.volumeL > 0)) return null;
	if (UNITS[event.unit].dimension !== 'volume') return null;
	const added = toCanonical(event.amount, event.unit);
	return added >= 0 ? Math.log(station.volumeL / (station.volumeL + added)) : null;
}

function effectOf(
	quantity: SeriesQuantity,
	event: WaterEvent,
	station: StationInfo,
): Omit<EventEffect, 'kinds' | 'dose'> | null {
	const none = { shift: 0, widen: 0, direction: 0 as const, reach: 0, cuts: true };
	if (quantity === 'ec')
		switch (event.kind) {
			case 'water_added': {
				const shift = dilution(event, station);
				// A top-up replaces what was drunk, so the tank ends near its full volume: the shift is an upper bound.
				return shift === null
					? { ...none, direction: -1, reach: 0.35 }
					: { ...none, direction: -1, reach: -shift, widen: 0.02 };
			}
			case 'nutrient_added':
				return { ...none, direction: 1, reach: 0.7 };
			case 'solution_changed':
				return { ...none, widen: 0.35 };
			case 'acid_added':
			case 'base_added':
				return { ...none, cuts: false, widen: 0.03 };
			case 'calibrated':
			case 'probe_cleaned':
				return { ...none, cuts: false, widen: 0.06 };
			default:
				return null;
		}
	if (quantity === 'ph')
		switch (event.kind) {
			case 'acid_added':
				return { ...none, direction: -1, reach: 1.5 };
			case 'base_added':
				return { ...none, direction: 1, reach: 1.5 };
			case 'water_added':
			case 'nutrient_added':
				return { ...none, widen: 0.25 };
			case 'solution_changed':
				return { ...none, widen: 0.5 };
			case 'calibrated':
			case 'probe_cleaned':
				return { ...none, cuts: false, widen: 0.25 };
			default:
				return null;
		}
	if (quantity === 'temp' && (event.kind === 'solution_changed' || event.kind === 'water_added'))
		return { ...none, widen: 3 };
	return null;
}

/** Combines the effects of several events; opposite directions leave only a widening. */
export function combinedEffect(
	quantity: SeriesQuantity,
	events: readonly WaterEvent[],
	station: StationInfo,
	responses: Responses = {},
): EventEffect {
	let result: EventEffect = NO_EFFECT;
	for (const event of events) {
		const usual = effectOf(quantity, event, station);
		const one = usual && (learned(event, responses) ?? usual);
		if (!one) continue;
		const clash = result.direction !== 0 && one.direction !== 0 && one.direction !== result.direction;
		const reach = result.reach + one.reach;
		result = {
			shift: result.shift + one.shift,
			widen: Math.hypot(result.widen, one.widen, clash ? reach / 2 : 0),
			direction: clash ? 0 : result.direction || one.direction,
			reach: clash ? 0 : reach,
			cuts: result.cuts || one.cuts,
			kinds: [...result.kinds, event.kind],
			dose: result.kinds.length === 0 ? doseOf(event) : null,
		};
	}
	return result;
}
