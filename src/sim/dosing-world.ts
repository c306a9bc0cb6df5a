import { acidTo, naturalWater, phOf, type Solution } from './dosing/solution';
import type { Random } from './random';

/**
 * A closed tank of feed: carbonate of its water, phosphate and some ammonium, a product of a strength that nobody knows, a
 * measuring cylinder and a pen that are a little off. Nothing leaves it and nothing lives in it (dosing/tank.ts has those).
 */
export class DosingTank {
	private readonly solution: Solution;

	constructor(
		private readonly truth: {
			volumeL: number;
			alkalinityMeqL: number;
			phosphateMmolL: number;
			ammoniumMmolL: number;
			tempC: number;
			/** meq/mL. */
			productMeqMl: number;
			startPh: number;
			/** Of the feed; 1,700 unless given. */
			ecUsCm?: number;
		},
		private readonly chance: Random,
	) {
		const ec = truth.ecUsCm ?? 1700;
		this.solution = {
			...naturalWater(truth.alkalinityMeqL, 7.4, truth.tempC),
			phosphateMmolL: truth.phosphateMmolL,
			ammoniumMmolL: truth.ammoniumMmolL,
			calciumMmolL: 0.0021 * ec,
			magnesiumMmolL: 0.0009 * ec,
			ionicMolL: 1.5e-5 * ec,
		};
		this.solution.strongMeqL -= acidTo(this.solution, truth.startPh);
	}

	get ph(): number {
		return phOf(this.solution);
	}

	/** Acid that the way to a pH truly takes, meq/L. */
	meqTo(ph: number): number {
		return acidTo(this.solution, ph);
	}

	/** What the pen shows. */
	measure(): number {
		return Math.round((this.ph + 0.015 * this.chance.normal()) * 100) / 100;
	}

	/** Pours acid, as exactly as a cylinder allows. */
	pour(ml: number): void {
		this.solution.strongMeqL -= (ml * (1 + 0.03 * this.chance.normal()) * this.truth.productMeqMl) / this.truth.volumeL;
	}
}
