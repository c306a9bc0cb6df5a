import { BASES } from '@/core/chem/acids';
import type { Random } from '../random';
import { SimulatedTank } from './tank';
import type { World } from './worlds';

/** What a simulated grower writes down, with the pen, the cylinder and the clock as they are. */
export interface Notebook {
	ph: { at: number; value: number; by: string }[];
	ec: { at: number; usCm: number }[];
	/** Filled with a water, topped up, dosed: amounts as said. */
	events: (
		| { at: number; kind: 'filled'; litres: number; water: string; waterEcUsCm: number }
		| { at: number; kind: 'water'; litres: number; water: string; waterEcUsCm: number }
		| { at: number; kind: 'dosed'; ml: number }
		| { at: number; kind: 'fed' }
	)[];
}

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

/** One grower with one tank, from filling to filling. Time is simulated, in ms. */
export class SimulatedGrower {
	readonly notes: Notebook = { ph: [], ec: [], events: [] };
	tank!: SimulatedTank;
	now: number;
	/** The lowest and highest the stirred tank came to since it was last asked. */
	lowest = Number.POSITIVE_INFINITY;
	highest = Number.NEGATIVE_INFINITY;
	private n = -1;
	private strength = 1;
	private waterEc = 0;

	constructor(
		readonly world: World,
		private readonly chance: Random,
		start: number,
	) {
		this.now = start;
	}

	pass(minutes: number): void {
		// Looked at on the way too: a tank may be at its lowest before anybody reads it.
		const steps = Math.min(Math.max(Math.ceil(minutes / 5), 1), 24);
		for (let i = 0; i < steps; i++) {
			this.tank.live(minutes / 60 / steps);
			this.look();
		}
		this.now += minutes * MINUTE;
	}

	/** A new filling with feed in it, stirred. */
	fill(): void {
		this.n++;
		const f = this.world.filling(this.n);
		this.tank = new SimulatedTank(f.solution, f.around, this.chance);
		this.strength = f.productMeqMl;
		this.waterEc = f.waterEcUsCm;
		const water = this.world.told.water(this.n);
		this.notes.events.push({
			at: this.now,
			kind: 'filled',
			litres: this.world.told.litres,
			water,
			waterEcUsCm: this.said(f.waterEcUsCm),
		});
		if (this.world.kind !== 'pure water' && this.world.kind !== 'thin water')
			this.notes.events.push({ at: this.now + MINUTE, kind: 'fed' });
		this.lowest = Number.POSITIVE_INFINITY;
		this.highest = Number.NEGATIVE_INFINITY;
		this.pass(45);
	}

	/** What is said of a water that has changed without a word is still what it was. */
	private said(ec: number): number {
		return this.world.kind === 'changed source, untold' ? this.world.filling(0).waterEcUsCm : ec;
	}

	readPh(): number {
		const { hand } = this.world;
		// Now and then a pen is pulled out too soon: Student’s t with three degrees.
		const tail = Math.sqrt((this.chance.normal() ** 2 + this.chance.normal() ** 2 + this.chance.normal() ** 2) / 3);
		const noise = (hand.penNoise * this.chance.normal()) / Math.max(tail, 0.15);
		const seen = this.tank.phAtProbe + hand.penBias(this.n) + Math.min(Math.max(noise, -0.3), 0.3);
		const value = Number(seen.toFixed(hand.decimals));
		this.notes.ph.push({ at: this.now, value, by: 'pen' });
		return value;
	}

	readEc(): void {
		const truth = this.tank.mixed().ionicMolL / 1.5e-5;
		this.notes.ec.push({ at: this.now, usCm: Math.round((truth * (1 + 0.02 * this.chance.normal())) / 10) * 10 });
	}

	pour(ml: number): void {
		const { told, hand } = this.world;
		const poured =
			ml *
			(1 + hand.cylinder * this.chance.normal()) *
			(this.chance.chance(hand.slip) ? this.chance.pick([0.5, 1.5]) : 1);
		const meq = poured * this.strength;
		const t = this.tank;
		if (told.product === 'nitric') t.pour({ strongMeqL: -meq });
		else if (told.product === 'phosphoric') t.pour({ phosphateMmolL: meq / 1.04 });
		else if (told.product === 'citric') t.pour({ citrateMmolL: meq / 2.1 });
		else {
			const base = BASES[told.product];
			t.pour({ strongMeqL: meq, carbonMmolL: (meq * base.carbon) / base.meqPerMmol });
		}
		t.stir(hand.stirs());
		const late = this.chance.chance(0.5) ? 0 : this.chance.between(0, hand.lateMin);
		this.notes.events.push({ at: this.now + Math.round(late) * MINUTE, kind: 'dosed', ml });
	}

	/** Drunk water is replaced, and mostly written down. */
	topUp(): void {
		const litres = this.world.told.litres * 0.08;
		this.tank.add(litres, this.world.topUp(this.n));
		if (this.chance.chance(this.world.hand.unloggedTopUp)) return;
		this.notes.events.push({
			at: this.now,
			kind: 'water',
			litres,
			water: this.world.told.water(this.n),
			waterEcUsCm: this.said(this.waterEc),
		});
		this.pass(40);
	}

	private look(): void {
		const ph = this.tank.ph;
		this.lowest = Math.min(this.lowest, ph);
		this.highest = Math.max(this.highest, ph);
	}
}

export { HOUR, MINUTE };
