import type { Random } from './random';

/**
 * A simulated combined meter: what its display would show, second by second, as it is dipped, rinsed and put away.
 *
 * pH: first-order response that slows in water of few ions, an electrode with slope and offset of its own, wander where
 * nothing buffers. EC: a fast cell, salt clinging from the liquid before, a bubble that reads low until swirled.
 * Temperature: a sensor that lags; compensation of EC with a coefficient, or none.
 */
export interface Water {
	ph: number;
	/** µS/cm at 25 °C. */
	ecUsCm: number;
	tempC: number;
}

export interface MeterTraits {
	/** Time constants in nutrient solution, seconds. */
	tauPhS: number;
	tauEcS: number;
	tauTempS: number;
	noisePh: number;
	noiseEcShare: number;
	/** The electrode's error: shown = 7 + gain·(pH − 7) + offset. */
	phOffset: number;
	phGain: number;
	cellFactor: number;
	compensates: boolean;
	alphaPctPerC: number;
	/** Chance that a dip traps a bubble. */
	bubbleChance: number;
	/** Share of the liquid before that stays on an unrinsed probe. */
	filmShare: number;
	steps: { ph: number; ecUsCm: number; tempC: number };
}

export const PLAIN_METER: MeterTraits = {
	tauPhS: 6,
	tauEcS: 2,
	tauTempS: 10,
	noisePh: 0.004,
	noiseEcShare: 0.002,
	phOffset: 0,
	phGain: 1,
	cellFactor: 1,
	compensates: true,
	alphaPctPerC: 2,
	bubbleChance: 0,
	filmShare: 0.002,
	steps: { ph: 0.01, ecUsCm: 1, tempC: 0.1 },
};

/** Potassium chloride, 3 mol/L, in the storage cap. */
export const STORAGE: Water = { ph: 5.5, ecUsCm: 250_000, tempC: 21 };
const AIR_C = 21;
/** What compensation of real water needs, whatever the meter believes. */
const WATER_ALPHA = 0.0195;
const RINSED = 0.01;
/** Below this conductivity the electrode slows and wanders. */
const THIN_US_CM = 100;

const rounded = (v: number, step: number): number => Number((Math.round(v / step) * step).toFixed(6));

export interface Display {
	ph: number;
	ecUsCm: number;
	tempC: number;
}

export class SimulatedMeter {
	private place: 'storage' | 'air' | 'water' = 'storage';
	private water: Water = STORAGE;
	private ph = STORAGE.ph;
	private ec = 0;
	private probeC = AIR_C;
	/** Conductivity that the clinging film adds to whatever it is dipped in. */
	private filmUsCm = 0;
	private bubble = false;
	private wander = 0;

	private readonly traits: MeterTraits;

	constructor(
		traits: MeterTraits,
		private readonly chance: Random,
	) {
		this.traits = { ...traits };
	}

	/** Switches the compensation of EC to 25 °C on or off. */
	setCompensation(on: boolean): void {
		this.traits.compensates = on;
	}

	get compensates(): boolean {
		return this.traits.compensates;
	}

	/** Into a sample; what clings from before comes along. */
	dip(water: Water): void {
		if (this.place !== 'air') this.lift();
		this.place = 'water';
		this.water = water;
		this.bubble = this.chance.chance(this.traits.bubbleChance);
		this.wander = 0;
	}

	/** Out of the liquid, dripping. */
	lift(): void {
		if (this.place === 'air') return;
		this.filmUsCm = Math.max(this.filmUsCm, this.traits.filmShare * this.water.ecUsCm);
		this.place = 'air';
	}

	rinse(): void {
		if (this.place !== 'air') this.lift();
		this.filmUsCm *= RINSED;
	}

	swirl(): void {
		this.bubble = false;
	}

	store(): void {
		this.dip(STORAGE);
		this.place = 'storage';
		this.filmUsCm = 0;
		this.bubble = false;
	}

	/** Lets some seconds pass and reads the display. */
	after(seconds: number): Display {
		const { traits, chance } = this;
		const wet = this.place !== 'air';
		const tempC = wet ? this.water.tempC : AIR_C;
		this.probeC += (tempC - this.probeC) * (1 - Math.exp(-seconds / traits.tauTempS));
		const ec = wet ? (this.water.ecUsCm + (this.place === 'water' ? this.filmUsCm : 0)) * (this.bubble ? 0.7 : 1) : 3;
		this.ec += (ec - this.ec) * (1 - Math.exp(-seconds / traits.tauEcS));
		const thin = wet ? Math.max(1, Math.min(THIN_US_CM / Math.max(ec, 5), 12)) : 12;
		this.ph += ((wet ? this.water.ph : this.ph) - this.ph) * (1 - Math.exp(-seconds / (traits.tauPhS * thin)));
		if (thin > 1) {
			const hold = Math.exp(-seconds / 30);
			this.wander = this.wander * hold + 0.02 * Math.sqrt(thin * (1 - hold * hold)) * chance.normal();
		} else this.wander = 0;
		const raw = this.ec * (1 + WATER_ALPHA * (tempC - 25)) * traits.cellFactor;
		const shownEc = traits.compensates ? raw / (1 + (traits.alphaPctPerC / 100) * (this.probeC - 25)) : raw;
		return {
			ph: rounded(
				7 + traits.phGain * (this.ph - 7) + traits.phOffset + this.wander + traits.noisePh * chance.normal(),
				traits.steps.ph,
			),
			ecUsCm: rounded(Math.max(shownEc * (1 + traits.noiseEcShare * chance.normal()), 0), traits.steps.ecUsCm),
			tempC: rounded(this.probeC + 0.03 * chance.normal(), traits.steps.tempC),
		};
	}
}
