import { alkalinityClosed, carbonateConstants, solvePh, totalCarbonate } from '@/core/chem/carbonate';
import type { Random } from './random';

/**
 * A tank of feed as it truly is, for the evaluation of learned dosing: carbonate of its water, phosphate and some ammonium,
 * a product of a strength that nobody knows, a measuring cylinder and a pen that are a little off.
 */
export class DosingTank {
	private readonly carbonate: number;
	private charge: number;
	private readonly constants;

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
		},
		private readonly chance: Random,
	) {
		this.constants = carbonateConstants(truth.tempC);
		this.carbonate = totalCarbonate(truth.alkalinityMeqL, 7.4, this.constants) ?? truth.alkalinityMeqL;
		this.charge = this.held(truth.startPh);
	}

	/** Base equivalents held at a pH, meq/L. */
	private held(ph: number): number {
		const { phosphateMmolL, ammoniumMmolL } = this.truth;
		return (
			alkalinityClosed(ph, this.carbonate, this.constants) +
			phosphateMmolL / (1 + 10 ** (7.198 - ph)) +
			ammoniumMmolL / (1 + 10 ** (9.25 - ph))
		);
	}

	get ph(): number {
		return solvePh((p) => this.held(p), this.charge);
	}

	/** Acid that the way to a pH truly takes, meq/L. */
	meqTo(ph: number): number {
		return this.charge - this.held(ph);
	}

	/** What the pen shows. */
	measure(): number {
		return Math.round((this.ph + 0.015 * this.chance.normal()) * 100) / 100;
	}

	/** Pours acid, as exactly as a cylinder allows. */
	pour(ml: number): void {
		this.charge -= (ml * (1 + 0.03 * this.chance.normal()) * this.truth.productMeqMl) / this.truth.volumeL;
	}
}
