import type { Random } from '../random';
import { naturalWater, type Solution } from './solution';
import type { Surroundings } from './tank';

/**
 * The tanks that advice on doses is tried in: each kind has what makes it hard. They were written before the advice that
 * they try and know nothing of it. What a grower is told of a tank stands beside what is true.
 */
export const WORLD_KINDS = [
	'still',
	'stirred',
	'air stone',
	'falling return',
	'soft water',
	'thin water',
	'pure water',
	'citrate and chelate',
	'leaching medium',
	'strong uptake',
	'wrong label',
	'wrong litres',
	'weak bottle, then a fresh one',
	'dosed again after each rebound',
	'changed source, told',
	'changed source, untold',
	'read too early',
	'late and rounded notes',
	'phosphoric acid',
	'wrong alkalinity',
	'poor pen',
	'base',
	'roots in the way',
] as const;
export type WorldKind = (typeof WORLD_KINDS)[number];
export type Moved = 'still' | 'stirred' | 'falling return' | 'air stone';

export interface World {
	kind: WorldKind;
	/** What is known to the grower. */
	told: {
		litres: number;
		moved: Moved;
		/** meq/mL on the label. */
		labelMeqMl: number;
		product: 'nitric' | 'phosphoric' | 'citric' | 'potassium hydroxide' | 'potassium carbonate';
		alkalinityMeqL: number | null;
		targetPh: number;
		range: [number, number];
		/** Name of the water that a filling is said to be of. */
		water: (filling: number) => string;
	};
	/** A filling as it truly is. */
	filling: (n: number) => { solution: Solution; waterEcUsCm: number; around: Surroundings; productMeqMl: number };
	topUp: (n: number) => Solution;
	hand: {
		/** Systematic error of the pen in this filling, and noise with heavy tails. */
		penBias: (n: number) => number;
		penNoise: number;
		decimals: 1 | 2;
		cylinder: number;
		/** Chance that a dose is poured from the wrong mark. */
		slip: number;
		/** Minutes that a note is late by, at the most. */
		lateMin: number;
		/** Reads so many minutes after pouring, whatever was advised; null: as advised. */
		readsAfterMin: number | null;
		unloggedTopUp: number;
		/** How much of what was poured a stick brings round at once; 0 where roots hang in the way. */
		stirs: () => number;
	};
	days: number;
	visitsADay: number;
}

const LOSS: Record<Moved, [number, number]> = {
	still: [0.015, 0.08],
	stirred: [0.1, 0.4],
	'falling return': [0.4, 1.2],
	'air stone': [0.6, 1.8],
};
const MIXING: Record<Moved, [number, number]> = {
	still: [0.8, 2.5],
	stirred: [8, 25],
	'falling return': [8, 20],
	'air stone': [15, 40],
};

/** Of one water with feed in it, about as strong as this EC. */
function fed(water: Solution, waterEcUsCm: number, ecUsCm: number, r: Random, more: Partial<Solution> = {}): Solution {
	const feed = Math.max(ecUsCm - waterEcUsCm, 0) / 1500;
	const phosphate = feed * r.between(0.7, 1.7);
	const ammonium = feed * r.between(0, 1.2);
	return {
		...water,
		// Potassium phosphate and ammonium nitrate: neutral salts, whose weak halves then answer the pH.
		strongMeqL: water.strongMeqL + phosphate - ammonium + feed * r.between(-0.15, 0.1),
		phosphateMmolL: phosphate,
		ammoniumMmolL: ammonium,
		chelateMmolL: feed * r.between(0.02, 0.08),
		calciumMmolL: water.calciumMmolL + 2.5 * feed,
		magnesiumMmolL: water.magnesiumMmolL + 1.1 * feed,
		ionicMolL: 1.5e-5 * ecUsCm,
		...more,
	};
}

/** The tank of a seed. */
export function drawWorld(kind: WorldKind, r: Random): World {
	const moved: Moved =
		kind === 'still' || kind === 'stirred' || kind === 'air stone' || kind === 'falling return'
			? kind
			: kind === 'roots in the way'
				? 'still'
				: kind === 'dosed again after each rebound'
					? r.pick(['air stone', 'falling return'])
					: r.pick(['still', 'stirred', 'falling return', 'air stone']);
	const litres = r.pick([12, 40, 100, 600, 2400]);
	const tempC = r.between(14, 27);
	const soft = kind === 'soft water' || kind === 'base';
	const thin = kind === 'thin water';
	const pure = kind === 'pure water';
	const alkalinity = soft
		? r.between(0.1, 0.5)
		: pure
			? r.between(0.01, 0.08)
			: thin
				? r.between(0.3, 1.2)
				: r.between(0.7, 4.3);
	const target = r.pick([5.6, 5.8, 5.8, 6, 6.2]);
	const product: World['told']['product'] =
		kind === 'base'
			? r.pick(['potassium hydroxide', 'potassium carbonate'])
			: kind === 'phosphoric acid'
				? 'phosphoric'
				: kind === 'citrate and chelate' && r.chance(0.5)
					? 'citric'
					: 'nitric';
	const label = r.between(0.4, 6);
	const strength = label * (kind === 'wrong label' ? r.pick([0.4, 0.5, 1.6, 2, 2.5]) : r.between(0.85, 1.15));
	const truly = litres * (kind === 'wrong litres' ? r.pick([0.5, 0.6, 0.75, 1.3]) : r.between(0.93, 1.07));
	const ec = pure ? r.between(15, 80) : thin ? r.between(130, 280) : r.between(1000, 2400);
	const waterEc = (alk: number) => Math.min(25 + 160 * alk, pure ? ec : 1e9);
	const around: Surroundings = {
		litres: truly,
		lossPerHour: r.between(...LOSS[moved]),
		airUatm: r.between(400, 1000),
		mixingPerHour: r.between(...MIXING[moved]),
		corner: r.between(0.08, 0.3),
		probeInCorner: r.chance(0.3),
		uptakeMeqLHour:
			kind === 'strong uptake' ? r.pick([r.between(0.008, 0.02), -r.between(0.005, 0.015)]) : r.between(-0.001, 0.004),
		medium:
			kind === 'leaching medium' ? { towardsPh: r.pick([4.8, 7.6, 7.9]), meqLHourPh: r.between(0.005, 0.03) } : null,
		citrateEatenPerHour: r.between(0.005, 0.02),
		drunkPerHour: r.between(0.0005, 0.004),
	};
	const sourcePh = () => r.between(6.9, 7.9);
	const extra: Partial<Solution> =
		kind === 'citrate and chelate' ? { citrateMmolL: r.between(0, 0.4), chelateMmolL: r.between(0.05, 0.25) } : {};
	const changes = kind === 'changed source, told' || kind === 'changed source, untold';
	const changed = r.pick([0.08, 0.2, 0.35, 0.6, 1.8]);
	/** What a grower would notice on the EC pen: whether they feed by the mark or up to the same EC. */
	const feedsToEc = r.chance(0.5);
	const seedOfFeed = r.between(0, 1);
	const feedOf = (n: number): Random => ({
		...r,
		between: (low, high) => low + (high - low) * ((((seedOfFeed + 0.037 * n) * 7919) % 1) * 0.3 + seedOfFeed * 0.7),
	});
	const bias = r.between(-0.03, 0.03);
	return {
		kind,
		told: {
			litres,
			moved,
			labelMeqMl: label,
			product,
			alkalinityMeqL:
				kind === 'wrong alkalinity'
					? alkalinity * r.pick([0.4, 2, 2.5])
					: r.chance(0.4)
						? alkalinity * r.between(0.88, 1.12)
						: null,
			targetPh: target,
			range: [target - 0.3, target + 0.4],
			water: (n) => (kind === 'changed source, told' && n >= 3 ? 'other' : 'usual'),
		},
		filling: (n) => {
			const alk = alkalinity * (changes && n >= 3 ? changed : r.between(0.93, 1.07));
			const ecWater = waterEc(alk);
			const water = naturalWater(alk, pure ? r.between(5.8, 7.2) : sourcePh(), tempC);
			const ecNow = pure ? ec : feedsToEc ? ec * r.between(0.97, 1.03) : ec - waterEc(alkalinity) + ecWater;
			const solution = pure
				? { ...water, ionicMolL: 1.5e-5 * ec }
				: fed(water, Math.min(ecWater, ecNow), ecNow, feedOf(n), extra);
			// A base is wanted where the feed has pulled the pH far down.
			if (kind === 'base') solution.strongMeqL -= r.between(0.05, 0.4) + 0.5 * alk;
			const weak = kind === 'weak bottle, then a fresh one' && n < 3 ? r.between(0.25, 0.5) : 1;
			return {
				solution,
				waterEcUsCm: ecWater,
				around: { ...around, litres: around.litres * r.between(0.97, 1.03) },
				productMeqMl: strength * weak,
			};
		},
		topUp: (n) => naturalWater(alkalinity * (changes && n >= 3 ? changed : 1), sourcePh(), tempC),
		hand: {
			penBias: (n) => (kind === 'poor pen' ? r.between(-0.25, 0.25) : bias + 0.01 * n * r.normal()),
			penNoise: kind === 'poor pen' ? 0.04 : 0.012,
			decimals: kind === 'poor pen' && r.chance(0.5) ? 1 : 2,
			cylinder: 0.03,
			slip: kind === 'late and rounded notes' ? 0.03 : 0.005,
			lateMin: kind === 'late and rounded notes' ? 30 : 3,
			readsAfterMin: kind === 'read too early' ? r.pick([1, 2]) : null,
			stirs: () =>
				kind === 'roots in the way'
					? 0
					: moved === 'still'
						? r.between(0.7, 0.98)
						: r.chance(0.5)
							? r.between(0, 0.7)
							: 0,
			unloggedTopUp: kind === 'late and rounded notes' ? r.pick([0, 0, 0.15]) : 0,
		},
		days: kind === 'strong uptake' || kind === 'leaching medium' ? 4 : 2,
		visitsADay: kind === 'dosed again after each rebound' ? 2 : 1,
	};
}
