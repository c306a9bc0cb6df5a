import type { Random } from './random';

/**
 * A tank of nutrient solution with plants in it: volume, salt and pH from day to day.
 *
 * Plants drink water at one concentration of salt and the tank keeps the rest, so EC moves by mass balance; nitrate
 * uptake lifts pH. pH answers a dose through one buffer capacity. Enough to make histories that behave like real ones.
 */
export interface TankState {
	volumeL: number;
	ecUsCm: number;
	ph: number;
	tempC: number;
}

export interface TankTraits {
	fullL: number;
	drinkLPerDay: number;
	/** EC of what the plants take up with the water. */
	uptakeEcUsCm: number;
	/** pH per day that uptake adds at the middle of the range. */
	phRisePerDay: number;
	/** meq per litre and pH. */
	bufferMeq: number;
	meanTempC: number;
}

export class Tank {
	constructor(
		readonly traits: TankTraits,
		readonly state: TankState,
	) {}

	/** Lets the plants live for some hours. `season` from −1 (deep winter) to 1 (high summer). */
	live(hours: number, season: number, chance: Random): void {
		const { traits, state } = this;
		const days = hours / 24;
		const drunk = Math.min(
			traits.drinkLPerDay * days * (0.75 + 0.35 * season) * (1 + 0.1 * chance.normal()),
			state.volumeL * 0.5,
		);
		const salt = state.ecUsCm * state.volumeL - traits.uptakeEcUsCm * drunk;
		state.volumeL -= drunk;
		state.ecUsCm = Math.max(salt / state.volumeL, 50);
		// The rise tires as pH climbs: bicarbonate from the roots meets carbon dioxide of the air.
		const rise = traits.phRisePerDay * Math.max(0, (7.6 - state.ph) / 1.8);
		state.ph += rise * days + 0.02 * Math.sqrt(days) * chance.normal();
		const air = traits.meanTempC + 4.5 * season;
		state.tempC += (air - state.tempC) * (1 - Math.exp(-days * 2)) + 0.3 * Math.sqrt(days) * chance.normal();
	}

	add(litres: number, ecUsCm: number, ph: number): void {
		const { state } = this;
		const total = state.volumeL + litres;
		state.ph = (state.ph * state.volumeL + ph * litres * 0.6) / (state.volumeL + litres * 0.6);
		state.ecUsCm = (state.ecUsCm * state.volumeL + ecUsCm * litres) / total;
		state.volumeL = total;
	}

	/** Raises EC by dry or liquid feed; most feeds pull pH down a little. */
	feed(riseUsCm: number): void {
		this.state.ecUsCm += riseUsCm;
		this.state.ph -= 0.0002 * riseUsCm;
	}

	/** Acid (positive) or base (negative) in milliequivalents. */
	dose(meq: number): void {
		this.state.ph -= meq / (this.state.volumeL * this.traits.bufferMeq);
	}
}
