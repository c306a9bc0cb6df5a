import type { Random } from '../random';
import { acidTo, carbonDioxideOfAir, freeCarbonDioxide, phOf, type Solution } from './solution';

/** What a tank stands in and what lives in it. */
export interface Surroundings {
	/** Litres truly in it, whatever was said. */
	litres: number;
	/** Carbon dioxide that leaves, as a share of what is over the air's, each hour. */
	lossPerHour: number;
	airUatm: number;
	/** How fast what was poured at one end reaches the rest, each hour, and the share of the tank that it is poured into. */
	mixingPerHour: number;
	corner: number;
	/** Whether the probe hangs in that corner. */
	probeInCorner: boolean;
	/** What roots and nitrifiers do to the charge, meq/L an hour: nitrate raises, ammonium lowers. */
	uptakeMeqLHour: number;
	/** A medium that answers the solution's pH: towards which pH, and how much for each pH and hour. */
	medium: { towardsPh: number; meqLHourPh: number } | null;
	/** Share of citrate that microbes eat each hour. */
	citrateEatenPerHour: number;
	/** Water that plants drink and air takes, as a share each hour. */
	drunkPerHour: number;
}

type Change = Partial<
	Pick<
		Solution,
		| 'strongMeqL'
		| 'carbonMmolL'
		| 'phosphateMmolL'
		| 'citrateMmolL'
		| 'ammoniumMmolL'
		| 'silicateMmolL'
		| 'chelateMmolL'
	>
>;
const FLOWS = [
	'strongMeqL',
	'carbonMmolL',
	'phosphateMmolL',
	'ammoniumMmolL',
	'citrateMmolL',
	'chelateMmolL',
	'silicateMmolL',
	'calciumMmolL',
	'magnesiumMmolL',
	'ionicMolL',
] as const;
const LONGEST_STEP_H = 0.1;

/** A simulated tank in time, as two parts that mix: the corner that is poured into, and the rest. */
export class SimulatedTank {
	readonly corner: Solution;
	readonly rest: Solution;
	litres: number;

	constructor(
		solution: Solution,
		readonly around: Surroundings,
		private readonly chance: Random,
	) {
		this.corner = { ...solution };
		this.rest = { ...solution };
		this.litres = around.litres;
	}

	private get parts(): readonly [Solution, Solution] {
		return [this.corner, this.rest];
	}

	/** The tank if it were stirred through. */
	mixed(): Solution {
		const s = { ...this.rest };
		for (const f of FLOWS) s[f] = this.around.corner * this.corner[f] + (1 - this.around.corner) * this.rest[f];
		return s;
	}

	/** pH of the whole, stirred through. */
	get ph(): number {
		return phOf(this.mixed());
	}

	/** Where the probe hangs. */
	get phAtProbe(): number {
		return phOf(this.around.probeInCorner ? this.corner : this.rest);
	}

	acidTo(ph: number): number {
		return acidTo(this.mixed(), ph);
	}

	live(hours: number): void {
		const { around } = this;
		const rate = Math.max(around.lossPerHour, around.mixingPerHour / 4, 0.2);
		const steps = Math.min(Math.max(Math.ceil(hours / Math.min(LONGEST_STEP_H, 0.25 / rate)), 1), 4000);
		const dt = hours / steps;
		for (let i = 0; i < steps; i++) {
			for (const s of this.parts) {
				const ph = phOf(s);
				const over = freeCarbonDioxide(s, ph) - carbonDioxideOfAir(around.airUatm, s.tempC);
				s.carbonMmolL = Math.max(s.carbonMmolL - over * (1 - Math.exp(-around.lossPerHour * dt)), 0);
				s.strongMeqL += around.uptakeMeqLHour * dt * (1 + 0.5 * this.chance.normal());
				if (around.medium) s.strongMeqL += around.medium.meqLHourPh * (around.medium.towardsPh - ph) * dt;
				if (s.citrateMmolL > 0) {
					// Eaten citrate leaves as carbon dioxide, and its charge stays behind as bicarbonate.
					const eaten = s.citrateMmolL * (1 - Math.exp(-around.citrateEatenPerHour * dt));
					s.citrateMmolL -= eaten;
					s.carbonMmolL += 6 * eaten;
				}
				const thicker = 1 / (1 - around.drunkPerHour * dt);
				for (const f of FLOWS) s[f] *= thicker;
			}
			this.litres *= 1 - around.drunkPerHour * dt;
			this.stir(1 - Math.exp(-around.mixingPerHour * dt));
		}
	}

	/** Something poured into the corner, in amounts for the whole tank, mmol or meq. */
	pour(total: Change): void {
		const litres = this.litres * this.around.corner;
		for (const [f, amount] of Object.entries(total)) this.corner[f as keyof Change] += (amount as number) / litres;
	}

	/** A stick brings this share of what differs round at once. */
	stir(share: number): void {
		const all = this.mixed();
		for (const s of this.parts) for (const f of FLOWS) s[f] += share * (all[f] - s[f]);
	}

	/** Water added and stirred in by its own fall. */
	add(litres: number, water: Solution): void {
		const all = this.litres + litres;
		for (const s of this.parts) for (const f of FLOWS) s[f] = (s[f] * this.litres + water[f] * litres) / all;
		this.litres = all;
	}
}
