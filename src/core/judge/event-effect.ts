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
	/** -1 or 1: the only way an addition of unknown size can move it; 0: either way, as far as the reach goes. */
	direction: -1 | 0 | 1;
	reach: number;
	/** The series before does not predict the series after. */
	cuts: boolean;
	kinds: readonly string[];
	/** The doses behind it, for learning their response; null where none is of known size. */
	dose: Dose | null;
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
/** What several additions together leave uncertain at least: pH, ln(EC), °C (common practice, no source). */
const MIXED_WITHIN: Partial<Record<SeriesQuantity, number>> = { ph: 0.1, ec: 0.05, temp: 1 };
type OneEffect = Omit<EventEffect, 'kinds' | 'dose'>;

/** What doses put into the water, for the prediction of the next reading: of one kind, or of those that go in together. */
interface Dose {
	key: string;
	amount: number;
}
/** Doses of one kind are told apart by their unit. */
const kindOf = (e: WaterEvent): string => (isDose(e) && e.unit ? `${e.kind} ${e.unit}` : e.kind);
const isDose = (e: WaterEvent): boolean => DOSES.has(e.kind) && e.amount !== null && e.amount > 0;

/**
 * What moved the water since the last reading, as one: by its kinds, and by the amount of its first. Feed, water and acid of one visit
 * go in together, and are learned together. Null where nothing of known size is among them.
 */
export function doseOf(events: readonly WaterEvent[]): Dose | null {
	const doses = events.filter(isDose);
	if (doses.length === 0) return null;
	const kinds = [...new Set(events.map(kindOf))].sort();
	const first = doses.map(kindOf).sort()[0]!;
	const amount = doses.reduce((sum, e) => (kindOf(e) === first ? sum + e.amount! : sum), 0);
	return { key: kinds.join(' + '), amount };
}

/** The shift that a dose of this size made before, once three are known. */
function learned(quantity: SeriesQuantity, dose: Dose, responses: Responses): OneEffect | null {
	const ratios = responses[dose.key];
	if (!ratios || ratios.length < LEAST_LEARNED) return null;
	const shift = median(ratios) * dose.amount;
	const mixed = dose.key.includes(' + ');
	return {
		shift,
		widen: Math.max(
			madSigma(ratios) * dose.amount,
			REPEATS_WITHIN * Math.abs(shift),
			// What cancels out does not repeat itself to a share of nothing.
			mixed ? (MIXED_WITHIN[quantity] ?? 0) : 0,
		),
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

function effectOf(quantity: SeriesQuantity, event: WaterEvent, station: StationInfo): OneEffect | null {
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

/**
 * Combines the effects of several events: as they did together before, else one after the other. What can go either way is believed
 * as far as either reaches.
 */
export function combinedEffect(
	quantity: SeriesQuantity,
	events: readonly WaterEvent[],
	station: StationInfo,
	responses: Responses = {},
): EventEffect {
	const moving = events.flatMap((event) => {
		const usual = effectOf(quantity, event, station);
		return usual ? [{ event, usual }] : [];
	});
	if (moving.length === 0) return NO_EFFECT;
	const dose = doseOf(moving.map((m) => m.event));
	const kinds = moving.map((m) => m.event.kind);
	const known = dose && learned(quantity, dose, responses);
	if (known) return { ...known, kinds, dose };
	let [shift, widen, up, down, cuts] = [0, 0, 0, 0, false];
	for (const { event, usual } of moving) {
		const alone = moving.length > 1 ? doseOf([event]) : null;
		const one = (alone && learned(quantity, alone, responses)) ?? usual;
		shift += one.shift;
		widen = Math.hypot(widen, one.widen);
		if (one.direction > 0) up += one.reach;
		if (one.direction < 0) down += one.reach;
		cuts ||= one.cuts;
	}
	const both = up > 0 && down > 0;
	return {
		shift,
		widen,
		direction: both ? 0 : up > 0 ? 1 : down > 0 ? -1 : 0,
		reach: both ? Math.max(up, down) : up + down,
		cuts,
		kinds,
		dose,
	};
}
