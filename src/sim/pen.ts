import type { Random } from './random';

/** A pen as it truly is: an offset and a gain that wander between adjustments, a display with so many digits. */
export class Pen {
	phOffset = 0;
	ecFactor = 1;

	constructor(
		private readonly traits: {
			phDriftPerDay: number;
			phWanderPerRootDay: number;
			ecWanderPerRootDay: number;
			phDecimals: number;
			ecStepUsCm: number;
			noisePh: number;
			noiseEc: number;
		},
		private readonly chance: Random,
	) {}

	age(days: number): void {
		this.phOffset +=
			this.traits.phDriftPerDay * days + this.traits.phWanderPerRootDay * Math.sqrt(days) * this.chance.normal();
		this.ecFactor *= 1 + this.traits.ecWanderPerRootDay * Math.sqrt(days) * this.chance.normal();
	}

	/** Adjusted in standards: what is left is the care of the hand that did it. */
	adjust(): void {
		this.phOffset = 0.01 * this.chance.normal();
		this.ecFactor = 1 + 0.004 * this.chance.normal();
	}

	ph(truth: number): string {
		return (truth + this.phOffset + this.traits.noisePh * this.chance.normal()).toFixed(this.traits.phDecimals);
	}

	ecUsCm(truth: number): number {
		const step = this.traits.ecStepUsCm;
		const seen =
			truth * this.ecFactor * (1 + this.traits.noiseEc * this.chance.normal()) + 0.3 * step * this.chance.normal();
		return Math.max(Math.round(seen / step) * step, 0);
	}

	temp(truth: number): string {
		return (truth + 0.15 * this.chance.normal()).toFixed(1);
	}
}
