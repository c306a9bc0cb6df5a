import type { Random } from '@/sim/random';

/**
 * A row of bags with drippers and trays, as they are: each bag holds solution of its own in an upper and a lower layer, drippers differ
 * and clog, part of each run goes past the roots, plants drink by the hour, the weather and their growth, and take less of the salt on
 * hot days. Written before the advice that is tried in it, and apart from it. Litres, µS/cm, hours.
 */
export interface BagWorld {
	bags: readonly Bag[];
	/** Runs a day and minutes of each, as the clock is set. */
	runs: number;
	minutes: number;
	feedUsCm: number;
	/** What the label or the crop wants the feed to be at least. */
	leastFeedUsCm: number;
	hour: number;
	weather: number;
	/** What the grower reads of one meter: this much off, in all readings alike. */
	meter: number;
	plants: { drinkL: number; growth: number; takesUsCm: number; heat: number };
}
interface Bag {
	capacityL: number;
	upper: Layer;
	lower: Layer;
	dripper: number;
	/** Share of each run that finds a way past. */
	past: number;
	vigour: number;
	/** Litres and salt that left since the tray was emptied, and what was given. */
	tray: { litres: number; salt: number; given: number };
	driest: number;
}
interface Layer {
	litres: number;
	/** Litres times µS/cm. */
	salt: number;
}

export const DRIPPERS_A_BAG = 4;
/** mL that a dripper gives in a minute by its label. */
export const DRIPPER_ML_MIN = 17;
const BAGS = 12;
/** Below this share of what it holds a bag is dry: roots suffer. */
export const DRY = 0.45;

const heavy = (c: Random): number => (c.chance(0.05) ? 4 : 1) * c.normal();

/** Bags in which salt has built up: watered too seldom, or fed too strong for the heat. */
export function builtUp(c: Random): BagWorld {
	const feedUsCm = c.between(1300, 2200);
	const drinkL = c.between(0.7, 2.2);
	const held = c.between(5, 14);
	const rise = c.between(900, 3200);
	const minutes = c.pick([4, 5, 6, 8]);
	const given = (minutes * DRIPPERS_A_BAG * DRIPPER_ML_MIN) / 1000;
	// Just about what they drink, and a little more.
	const runs = Math.max(2, Math.ceil((drinkL * c.between(1.02, 1.25)) / given));
	const layer = (litres: number, us: number): Layer => ({ litres, salt: litres * us });
	return {
		bags: Array.from({ length: BAGS }, () => {
			const capacityL = held * (1 + 0.08 * c.normal());
			return {
				capacityL,
				upper: layer(capacityL * 0.4, feedUsCm + rise * c.between(0.3, 0.9)),
				lower: layer(capacityL * 0.6, feedUsCm + rise * c.between(0.8, 1.3)),
				dripper: c.chance(0.04) ? c.between(0.3, 0.6) : 1 + 0.07 * c.normal(),
				past: c.between(0.03, 0.3),
				vigour: Math.exp(0.15 * c.normal()),
				tray: { litres: 0, salt: 0, given: 0 },
				driest: 1,
			};
		}),
		runs,
		minutes,
		feedUsCm,
		leastFeedUsCm: feedUsCm * c.between(0.55, 0.75),
		hour: 0,
		weather: 0,
		meter: 0.02 * c.normal(),
		plants: {
			drinkL,
			growth: c.between(-0.003, 0.012),
			takesUsCm: feedUsCm * c.between(0.6, 0.95),
			heat: c.between(0, 0.35),
		},
	};
}

/** Part of the day's drinking in each hour, by the sun. */
const SUN = Array.from({ length: 24 }, (_, h) => 0.008 + Math.max(0, Math.sin(((h - 6) / 14) * Math.PI)));
const SUM = SUN.reduce((a, b) => a + b, 0);

/**
 * One day passes. Runs are spread over the light, as a clock spreads them.
 * @param watched what is done in the place of the first run after noon: somebody stands by with cups
 */
export function dayPasses(w: BagWorld, c: Random, watched?: () => void): void {
	let looked = watched === undefined;
	w.weather = 0.7 * w.weather + 0.22 * c.normal();
	w.plants.drinkL *= 1 + w.plants.growth;
	w.plants.takesUsCm *= Math.exp(0.02 * c.normal());
	// A dripper clogs now and then, and nobody says so.
	if (c.chance(0.01)) c.pick(w.bags).dripper *= 0.6;
	const runsAt = Array.from({ length: w.runs }, (_, i) => Math.floor(6 + (14 * i) / w.runs));
	for (let h = 0; h < 24; h++) {
		for (const b of w.bags) drink(w, b, h);
		for (const [i, at] of runsAt.entries()) {
			if (at !== h) continue;
			if (!looked && (h >= 12 || i === runsAt.length - 1)) {
				looked = true;
				watched!();
			} else for (const b of w.bags) water(b, w.minutes, w.feedUsCm);
		}
	}
	w.hour += 24;
}

function drink(w: BagWorld, b: Bag, h: number): void {
	const heat = Math.exp(w.weather);
	const litres = (w.plants.drinkL * heat * b.vigour * SUN[h]!) / SUM;
	const takes = w.plants.takesUsCm * (1 - w.plants.heat * Math.max(0, heat - 1));
	for (const [layer, share] of [
		[b.upper, 0.45],
		[b.lower, 0.55],
	] as const) {
		const v = Math.min(litres * share, 0.9 * layer.litres);
		// They take less of a weak solution and cannot take all of a strong one.
		const own = layer.salt / Math.max(layer.litres, 1e-9);
		layer.salt = Math.max(0, layer.salt - v * Math.min(takes, 0.9 * own));
		layer.litres -= v;
	}
	b.driest = Math.min(b.driest, (b.upper.litres + b.lower.litres) / b.capacityL);
}

/** One run: the upper layer fills, what is too much goes down, and out below. */
export function water(b: Bag, minutes: number, feedUsCm: number): void {
	const given = (minutes * DRIPPERS_A_BAG * DRIPPER_ML_MIN * b.dripper) / 1000;
	b.tray.given += given;
	const past = given * b.past * ((b.upper.litres + b.lower.litres) / b.capacityL) ** 4;
	b.tray.litres += past;
	b.tray.salt += past * feedUsCm;
	b.upper.litres += given - past;
	b.upper.salt += (given - past) * feedUsCm;
	const down = Math.max(0, b.upper.litres - 0.4 * b.capacityL);
	move(b.upper, b.lower, down);
	const out = Math.max(0, b.lower.litres - 0.6 * b.capacityL);
	const salt = (b.lower.salt * out) / Math.max(b.lower.litres, 1e-9);
	b.lower.litres -= out;
	b.lower.salt -= salt;
	b.tray.litres += out;
	b.tray.salt += salt;
}

function move(from: Layer, to: Layer, litres: number): void {
	const salt = (from.salt * litres) / Math.max(from.litres, 1e-9);
	from.litres -= litres;
	from.salt -= salt;
	to.litres += litres;
	to.salt += salt;
}

/** Much weak water at once, by hand. */
export function flush(w: BagWorld, litresABag: number, usCm: number): void {
	for (const b of w.bags) {
		const minutes = (litresABag * 1000) / (DRIPPERS_A_BAG * DRIPPER_ML_MIN);
		for (let i = 0; i < 5; i++) water(b, minutes / 5 / b.dripper, usCm);
	}
}

export interface LookedAt {
	/** mL in each cup of one run, and in each tray after it. */
	cups: number[];
	trays: number[];
	feedUsCm: number;
	drainUsCm: number;
	firstDrainMin: number | null;
}
/** The grower watches one run: cups under three drippers, trays under three bags, one meter; now and then something is misread. */
export function lookAt(w: BagWorld, c: Random): LookedAt {
	const bags = [0, 4, 8].map((i) => w.bags[i]!);
	for (const b of w.bags) b.tray = { litres: 0, salt: 0, given: 0 };
	for (const b of w.bags) water(b, w.minutes, w.feedUsCm);
	const cup = (ml: number) => Math.max(0, Math.round(ml * (1 + 0.06 * heavy(c))));
	const drained = bags.reduce((s, b) => s + b.tray.litres, 0);
	const salt = bags.reduce((s, b) => s + b.tray.salt, 0);
	const read = (us: number) => Math.round((us * (1 + w.meter) * (1 + 0.015 * heavy(c))) / 10) * 10;
	const share = drained / bags.reduce((s, b) => s + b.tray.given, 0);
	return {
		cups: bags.map((b) => cup(w.minutes * DRIPPER_ML_MIN * b.dripper)),
		trays: bags.map((b) => cup(1000 * b.tray.litres)),
		feedUsCm: read(w.feedUsCm),
		drainUsCm: read(drained > 0.01 ? salt / drained : bags[0]!.lower.salt / bags[0]!.lower.litres),
		firstDrainMin: share > 0.02 ? Number((w.minutes * (1 - share)).toFixed(1)) : null,
	};
}

/** How far the drain truly stands above the feed: what a run brings out now, of all bags, read without any error. */
export function trueDrainRise(w: BagWorld): number {
	const bags = structuredClone(w.bags) as Bag[];
	for (const b of bags) {
		b.tray = { litres: 0, salt: 0, given: 0 };
		water(b, w.minutes, w.feedUsCm);
	}
	const litres = bags.reduce((s, b) => s + b.tray.litres, 0);
	return litres < 0.01 ? trueRise(w) : bags.reduce((s, b) => s + b.tray.salt, 0) / litres - w.feedUsCm;
}

/** What nobody reads: how far the solution in the bags stands above the feed. */
export const trueRise = (w: BagWorld): number => {
	const litres = w.bags.reduce((s, b) => s + b.lower.litres, 0);
	return w.bags.reduce((s, b) => s + b.lower.salt, 0) / litres - w.feedUsCm;
};
/** The bags that went dry since this was last asked. */
export function drySince(w: BagWorld): number[] {
	const dry = w.bags.flatMap((b, i) => (b.driest < DRY ? [i] : []));
	for (const b of w.bags) b.driest = 1;
	return dry;
}
