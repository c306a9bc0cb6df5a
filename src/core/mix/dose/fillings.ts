import { ACID_KINDS, type AcidKind, BASES, type BaseKind, protonsGiven } from '../../chem/acids';
import type { DoseProduct, PhRead, TankEvent, TankRecord, TankSetup, WaterThen } from './record';

/** What was given to a tank at once, for each litre that it then held. */
export interface Given {
	/** Acid positive, base negative, meq/L by the label. */
	meqL: number;
	/** mmol/L that come along. */
	carbonMmolL: number;
	phosphateMmolL: number;
	/** An acid that buffers by itself, in the equivalents it gives at a usual pH. */
	weak: AcidKind | null;
	product: string;
}
export type Happening = { at: number; event: TankEvent } & (
	| { does: 'dose'; given: Given; litres: number }
	/** Water that then makes up this share of the tank; where it replaces what plants have drunk, the salts had stayed behind. */
	| { does: 'water'; share: number; water: WaterThen | null; replaces: boolean }
	/** Feed, or something whose effect nobody can reckon: the tank is known again from its next reading. */
	| { does: 'unknown' }
	| { does: 'nothing' }
);

/** A tank from one filling to the next. */
export interface Filling {
	/** When it was filled; null where the record begins in the middle. */
	filledAt: number | null;
	water: WaterThen | null;
	litres: number;
	readings: PhRead[];
	happenings: Happening[];
	/** EC of the solution as it was dosed, where read. */
	ecUsCm: number | null;
	alkalinity: { at: number; meqL: number }[];
}

/** The protons of a product are counted at this pH. */
export const TYPICAL_PH = 5.8;
const isAcid = (c: string | null): c is AcidKind => (ACID_KINDS as readonly (string | null)[]).includes(c);
const isBase = (c: string | null): c is BaseKind => c !== null && Object.hasOwn(BASES, c);

/** What so many equivalents of a product bring for each litre. */
export function givenOf(product: DoseProduct, meqL: number, sign: -1 | 1): Given {
	const { chemical } = product;
	if (sign > 0) {
		const perMeq = isBase(chemical) ? BASES[chemical].carbon / BASES[chemical].meqPerMmol : 0;
		return { meqL: -meqL, carbonMmolL: perMeq * meqL, phosphateMmolL: 0, weak: null, product: product.name };
	}
	if (chemical === 'phosphoric') {
		// It gives one proton on becoming H2PO4, and stays in the water as phosphate, which answers the pH from then on.
		const mmol = meqL / protonsGiven('phosphoric', TYPICAL_PH);
		return { meqL: mmol, carbonMmolL: 0, phosphateMmolL: mmol, weak: null, product: product.name };
	}
	const weak = isAcid(chemical) && (chemical === 'citric' || chemical === 'acetic') ? chemical : null;
	return { meqL, carbonMmolL: 0, phosphateMmolL: 0, weak, product: product.name };
}

/** A tank that was never filled anew is followed from so long before its last dose on. */
const LONGEST_MS = 45 * 86_400_000;
const MOST_SHARE = 0.98;

/**
 * The fillings of a record, oldest first, with what was given by the litres that were in the tank then.
 * @param strengths meq/mL of each product by name in lower case; a dose of one that is not among them has an unknown effect
 */
export function fillingsOf(
	record: TankRecord,
	tank: TankSetup,
	products: ReadonlyMap<string, DoseProduct>,
	now: number,
): Filling[] {
	const events = record.events.filter((e) => e.at <= now);
	const starts = events.filter((e) => e.kind === 'filled').map((e) => e.at);
	const firstAt = Math.min(record.ph[0]?.at ?? now, events[0]?.at ?? now);
	const cuts = starts[0] !== undefined && starts[0] <= firstAt ? starts : [firstAt, ...starts];
	return cuts.map((from, i) => {
		const to = cuts[i + 1] ?? Number.POSITIVE_INFINITY;
		const filled = events.find((e) => e.kind === 'filled' && e.at === from);
		const lastDose = events.findLast((e) => e.kind === 'dosed' && e.at < to);
		const since = filled ? from : Math.max(from, Math.min(to, now, lastDose?.at ?? now) - LONGEST_MS);
		const inside = <T extends { at: number }>(list: readonly T[]) =>
			list.filter((x) => x.at >= since && x.at < to && x.at <= now);
		let litres = filled?.kind === 'filled' && filled.litres ? filled.litres : tank.holdsL;
		const happenings = inside(events).flatMap((event): Happening[] => {
			const { at } = event;
			if (event.kind === 'dosed') {
				const product = products.get(event.product.toLowerCase());
				if (!product?.strengthMeqMl) return [{ at, event, does: 'unknown' }];
				const given = givenOf(product, (event.ml * product.strengthMeqMl) / litres, event.sign);
				return [{ at, event, does: 'dose', given, litres }];
			}
			if (event.kind === 'water') {
				if (event.litres === null) return [{ at, event, does: 'unknown' }];
				// Topped up to what it holds, where it was never drained: the litres given as the tank’s stay.
				const before = Math.max(Math.min(litres, tank.holdsL - event.litres), 0);
				const replaces = litres > before;
				litres = Math.min(before + event.litres, Math.max(litres, tank.holdsL));
				return [
					{
						at,
						event,
						does: 'water',
						share: Math.min(event.litres / (before + event.litres), MOST_SHARE),
						water: event.water,
						replaces,
					},
				];
			}
			if (event.kind === 'drained') {
				if (event.litres !== null) litres = Math.max(litres - event.litres, 0.02 * litres);
				return [{ at, event, does: 'nothing' }];
			}
			return event.kind === 'fed' ? [{ at, event, does: 'unknown' }] : [];
		});
		const ec = inside(record.ec);
		const firstDose = happenings.find((h) => h.does === 'dose');
		const ecThen = firstDose ? (ec.findLast((e) => e.at <= firstDose.at) ?? ec[0]) : ec.at(-1);
		return {
			filledAt: filled ? from : null,
			water: filled?.kind === 'filled' ? filled.water : null,
			litres,
			readings: inside(record.ph),
			happenings,
			ecUsCm: ecThen?.usCm ?? null,
			alkalinity: inside(record.alkalinity),
		};
	});
}
