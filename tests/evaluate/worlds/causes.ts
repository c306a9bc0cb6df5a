import { AERATION, type Aeration } from '@/core/chem/degassing';
import { freeShare, heldAt, mediumOf, phOfHeld } from '@/core/chem/solution';
import type { Act, Beside, Book, Seen } from '@/core/explain/book';
import type { Random } from '@/sim/random';

/**
 * Tanks and bags in which one thing moves pH or EC, and what somebody wrote down of them. Written before the explanations that are tried
 * on them: a solution with carbonate and phosphate in balance of charge, carbon dioxide that leaves by the hour, plants that drink by day
 * and weather, pens with heavy tails, growers who forget, round, log late, or say nothing at all.
 */
export const TRUE_CAUSES = [
	'nitrate',
	'ammonium',
	'alkaline_water',
	'degassing',
	'roots',
	'salts',
	'hungry',
	'diluted',
	'feed_wrong',
	'probe',
	'temperature',
	'nothing',
] as const;
export type TrueCause = (typeof TRUE_CAUSES)[number];

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const START = Date.UTC(2026, 4, 1);

export interface World {
	cause: TrueCause;
	book: Book;
	/** How much the cause moved what was shown, over the weeks: in pH, or as a share of EC. */
	moved: number;
	/** Too little was written down for anybody to tell. */
	thin: boolean;
}

interface Tank {
	volumeL: number;
	fullL: number;
	salt: number;
	held: number;
	carbon: number;
	phosphate: number;
	ph: number;
	temp: number;
}

/** How this grower keeps a book. */
function habits(c: Random, thin: boolean) {
	return {
		perDay: thin ? c.between(0.1, 0.25) : c.pick([0.6, 1, 1, 2, 3]),
		hour: c.between(6, 10),
		late: c.chance(0.4) ? c.between(0.2, 2.5) : 0,
		forgets: c.between(0, 0.12),
		noLitres: c.between(0, 0.3),
		temps: c.chance(thin ? 0.3 : 0.8),
		oxygen: c.chance(0.2),
		pairsEvery: c.chance(thin ? 0 : 0.4) ? c.between(3, 8) : 0,
		knowsWater: c.chance(thin ? 0.3 : 0.8),
		knowsFeed: c.chance(thin ? 0.3 : 0.75),
		saysAeration: c.chance(0.6),
		calibrates: c.chance(thin ? 0.2 : 0.75) ? c.between(5, 21) : 0,
		toppedEvery: c.between(1.5, 6),
		actsAbovePh: c.between(6.2, 6.9),
	};
}

/** One tank over some weeks. */
export function tankWorld(cause: TrueCause, c: Random): World {
	const thin = c.chance(0.12);
	const h = habits(c, thin);
	const days = Math.round(c.between(14, 35));
	const is = (k: TrueCause) => cause === k;
	const quantity: 'ph' | 'ec' =
		is('probe') || is('nothing') ? c.pick(['ph', 'ec']) : EC_CAUSES.has(cause) ? 'ec' : 'ph';
	const aeration = c.pick(Object.keys(AERATION) as Aeration[]);
	const loss = AERATION[aeration].perHour * Math.exp(0.4 * c.normal());
	const fullL = c.pick([40, 120, 600, 2400]);
	const fedAt = c.between(1200, 2400);
	const phosphate = c.between(0.8, 2);
	// Hard water moves pH whatever else does: only where it is the cause, or where EC is asked about.
	const hard = is('alkaline_water') || is('degassing') || (c.chance(0.25) && quantity === 'ec');
	const waterAlk = is('alkaline_water') ? c.between(2, 5) : hard ? c.between(1, 3) : c.between(0.02, 0.4);
	const waterEc = hard ? 150 + waterAlk * c.between(90, 130) : c.between(10, 150);
	const drinks = fullL * (is('alkaline_water') ? c.between(0.03, 0.06) : c.between(0.015, 0.045));
	// Base given off for each litre drunk, meq: nitrate for the most part, or acid with ammonium.
	const base = is('nitrate')
		? c.between(0.6, 2)
		: is('ammonium')
			? -c.between(0.6, 1.8)
			: is('alkaline_water') || is('degassing')
				? -c.between(0, 0.2)
				: c.between(-0.1, 0.15);
	// Salt taken against what it stands in.
	const takes = is('salts')
		? c.between(0.1, 0.5)
		: is('hungry')
			? c.between(1.6, 2.4)
			: is('nitrate') || is('ammonium')
				? c.between(0.8, 1.5)
				: c.between(0.85, 1.15);
	const ammonium = is('ammonium') ? c.between(0.12, 0.3) : is('nitrate') ? c.between(0, 0.06) : c.between(0, 0.12);
	const sick = is('roots') ? START + days * DAY * c.between(0.15, 0.45) : Number.POSITIVE_INFINITY;
	const acidOut = c.between(0.03, 0.12);
	const warm = is('roots') && c.chance(0.7) ? c.between(24, 28) : c.between(17, 23);
	const tempSlope = is('temperature') ? (c.chance(0.5) ? 1 : -1) * c.between(0.25, 0.6) : c.between(-0.06, 0.06);
	const compensates = is('temperature') ? false : !c.chance(0.15);
	const drift = is('probe')
		? (c.chance(0.5) ? 1 : -1) * (quantity === 'ph' ? c.between(0.015, 0.05) : c.between(0.006, 0.02))
		: 0.15 * c.normal() * (quantity === 'ph' ? 0.02 : 0.006);
	const dilutes = is('diluted');
	const t: Tank = {
		volumeL: fullL,
		fullL,
		salt: fedAt * fullL,
		held: 0,
		carbon: 0,
		phosphate,
		ph: c.between(5.6, 6),
		temp: warm,
	};
	const medium = () => mediumOf(t.temp, t.salt / t.volumeL);
	t.carbon = medium().airMmolL / freeShare(t.ph, medium());
	t.held = heldAt(t.ph, t.carbon, t.phosphate, medium());

	const readings: Seen[] = [];
	const other: Beside[] = [];
	const temps: Beside[] = [];
	const oxygen: Beside[] = [];
	const pairs: Beside[] = [];
	const acts: Act[] = [];
	const calibrated: number[] = [];
	let [weather, gain, knownFrom] = [0, 0, START - c.between(0, 10) * DAY];
	let [toppedAt, pairAt, sampled] = [START, START, START];
	let acidAt = is('degassing') ? START + c.between(0.5, 2) * DAY : Number.POSITIVE_INFINITY;
	let wrongAt = is('feed_wrong') ? START + days * DAY * c.between(0.3, 0.75) : Number.POSITIVE_INFINITY;
	const wrongBy = c.pick([-1, 1]) * c.between(0.2, 0.45);
	let [moved, dosed] = [0, 0];
	const log = (at: number, kind: Act['kind'], amount: number | null) => {
		if (c.chance(h.forgets)) return;
		const said =
			amount === null || c.chance(h.noLitres) ? null : Number((amount * (1 + 0.05 * c.normal())).toPrecision(2));
		acts.push({ at: at + h.late * HOUR * c.next(), kind, litres: said });
	};
	const add = (amount: number, ec: number, alk: number, ph: number) => {
		const total = t.volumeL + amount;
		const m = mediumOf(t.temp, ec);
		// Water of a tap brings about three times the carbon dioxide that air leaves it.
		const brought = alk > 0.5 ? alk / Math.max(0.05, 1 - freeShare(ph, m)) : 0.02;
		t.salt += ec * amount;
		t.held = (t.held * t.volumeL + alk * amount) / total;
		t.carbon = (t.carbon * t.volumeL + brought * amount) / total;
		t.phosphate = (t.phosphate * t.volumeL + (ec > waterEc + 200 ? phosphate : 0) * amount) / total;
		t.volumeL = total;
	};
	const value = () => (quantity === 'ph' ? t.ph : t.salt / t.volumeL);
	const share = (change: number) => (quantity === 'ph' ? change : change / fedAt);
	const heavy = () => (c.chance(0.04) ? 4 : 1) * c.normal();
	const noise = quantity === 'ph' ? c.between(0.01, 0.035) : c.between(0.005, 0.015);

	for (let at = START; at < START + days * DAY; at += HOUR) {
		const before = value();
		const hour = (at / HOUR) % 24;
		const light = Math.max(0, Math.sin((Math.PI * (hour - 6)) / 14));
		if (hour === 0) weather = 0.6 * weather + 0.3 * c.normal();
		const well = at < sick ? 1 : Math.max(0.1, 1 - (at - sick) / (12 * DAY));
		t.temp =
			warm + (tempSlope * (at - START)) / DAY + 1.2 * Math.sin((2 * Math.PI * (hour - 9)) / 24) + 0.05 * c.normal();
		const drunk = Math.min(0.02 * t.volumeL, (drinks / 24) * 2.6 * light * Math.exp(weather) * well);
		const saltTaken = drunk * (t.salt / t.volumeL) * (1 + (takes - 1) * well);
		t.held = (t.held * t.volumeL + base * drunk * (is('roots') ? 0.3 : 1)) / (t.volumeL - drunk);
		t.carbon = (t.carbon * t.volumeL) / (t.volumeL - drunk);
		t.phosphate = (t.phosphate * (t.volumeL - drunk * 0.95)) / (t.volumeL - drunk);
		// What the plants leave of held base with the water they drink belongs to the salts they take.
		t.held *= (t.volumeL - drunk) / t.volumeL;
		t.salt = Math.max(0.05 * fedAt * t.volumeL, t.salt - saltTaken);
		t.volumeL -= drunk;
		if (at > sick) t.held -= (acidOut / 24) * Math.min(1.6, (at - sick) / (5 * DAY));
		const m = medium();
		t.carbon = Math.max(0.005, t.carbon - loss * (t.carbon * freeShare(t.ph, m) - m.airMmolL));
		t.ph = phOfHeld(t.held, t.carbon, t.phosphate, m, t.ph);
		if (BY_THE_HOUR.has(cause)) moved += share(value() - before);

		// What is done to it, between seven and eight in the evening or when it comes to pass.
		if (hour === 19 && at - toppedAt > h.toppedEvery * DAY * c.between(0.6, 1.4)) {
			const was = value();
			const amount = fullL - t.volumeL;
			if (amount > 0.005 * fullL) {
				const pure = is('alkaline_water') || dilutes || is('hungry') ? 1 : c.next();
				const asWater = (pure > 0.5 || dilutes) && !is('degassing');
				if (dilutes) {
					// Nobody feeds: half again as much as was drunk goes through.
					const out = Math.min(0.3 * t.volumeL, amount * c.between(0.5, 1.5));
					t.salt *= 1 - out / t.volumeL;
					t.volumeL -= out;
				}
				const fill = fullL - t.volumeL;
				if (asWater && !is('salts')) {
					add(fill, waterEc, waterAlk, 7.8);
					log(at, 'water', fill);
					// Who keeps it on target brings what was drunk of salt along.
					if (!dilutes && !is('hungry') && t.salt / t.volumeL < 0.97 * fedAt) {
						t.salt = fedAt * t.volumeL * (1 + 0.02 * c.normal());
						log(at + 0.2 * HOUR, 'feed', null);
					}
				} else {
					const strength = is('salts') ? fedAt : (fedAt * fullL - t.salt) / Math.max(fill, 1e-6);
					add(fill, Math.max(0, Math.min(strength, 2 * fedAt)), is('alkaline_water') ? waterAlk : 0.1, 6);
					log(at, 'feed', fill);
				}
				toppedAt = at;
			}
			t.ph = phOfHeld(t.held, t.carbon, t.phosphate, medium(), t.ph);
			if (is('alkaline_water') || is('salts') || dilutes) moved += share(value() - was);
		}
		if (at >= acidAt) {
			// Hard water poured in with acid right after: carbonic acid is what is left of its alkalinity.
			const out = c.between(0.25, 0.6) * t.volumeL;
			const ec = t.salt / t.volumeL;
			t.salt -= out * ec;
			t.volumeL -= out;
			add(out, ec, waterAlk, 7.6);
			log(at, 'feed', out);
			const to = c.between(5.5, 5.8);
			t.held = heldAt(to, t.carbon, t.phosphate, medium());
			t.ph = to;
			log(at + 0.5 * HOUR, 'acid', null);
			dosed++;
			acidAt = at + c.between(2.5, 6) * DAY;
		}
		if (at >= wrongAt) {
			t.salt *= 1 + wrongBy;
			log(at, c.chance(0.7) ? 'feed' : 'changed', c.chance(0.5) ? fullL : null);
			wrongAt = Number.POSITIVE_INFINITY;
			moved += wrongBy;
		}
		if (quantity === 'ph' && hour === 8 && t.ph > h.actsAbovePh && !is('degassing') && !is('probe')) {
			const to = c.between(5.6, 5.9);
			t.held = heldAt(to, t.carbon, t.phosphate, medium());
			t.ph = to;
			log(at, 'acid', null);
		}

		// What is written down of it.
		if (h.calibrates > 0 && at - knownFrom > h.calibrates * DAY) {
			calibrated.push(at);
			const off = gain + (quantity === 'ph' ? 0.01 : 0.005) * c.normal();
			for (const r of readings)
				if (r.at > knownFrom) {
					const share = (r.at - knownFrom) / (at - knownFrom);
					r.off = off * share * (quantity === 'ph' ? 1 : r.value);
				}
			gain = 0;
			knownFrom = at;
		}
		gain += (drift + (quantity === 'ph' ? 0.006 : 0.002) * c.normal() * 0.5) / 24;
		const due =
			h.perDay >= 1
				? [0, 7, 13].slice(0, Math.round(h.perDay)).some((x) => Math.round(h.hour + x) % 24 === hour)
				: Math.round(h.hour) === hour && c.chance(h.perDay);
		if (due && !c.chance(0.08) && at > sampled) {
			sampled = at;
			const moment = at + c.between(0, 0.9) * HOUR;
			const warped = quantity === 'ec' && !compensates ? 1 + 0.02 * (t.temp - 25) : 1;
			const shown =
				quantity === 'ph' ? value() + gain + noise * heavy() : value() * warped * (1 + gain + noise * heavy());
			const v = quantity === 'ph' ? Math.round(shown * 100) / 100 : Math.round(shown / 10) * 10;
			readings.push({ at: moment, value: v, off: 0 });
			const ec = t.salt / t.volumeL;
			other.push({
				at: moment,
				value:
					quantity === 'ph'
						? Math.round((ec * (1 + 0.012 * heavy())) / 10) * 10
						: Math.round(100 * (t.ph + 0.03 * heavy())) / 100,
			});
			if (h.temps && !c.chance(0.1))
				temps.push({ at: moment, value: Math.round(10 * (t.temp + 0.2 * c.normal())) / 10 });
			if (h.oxygen && c.chance(0.5))
				oxygen.push({ at: moment, value: Math.round(10 * (is('roots') ? c.between(3, 6) : c.between(6, 8.5))) / 10 });
			if (h.pairsEvery > 0 && at - pairAt > h.pairsEvery * DAY) {
				pairAt = at;
				const second =
					quantity === 'ph' ? value() + 0.05 + noise * heavy() : value() * warped * (1.01 + noise * heavy());
				pairs.push({ at: moment, value: v - second });
			}
		}
	}
	if (is('probe')) moved = drift * Math.min(days, h.calibrates || days);
	// What it climbs after each dose is what anybody sees.
	if (is('degassing')) moved /= Math.max(1, dosed);
	if (is('temperature')) moved = 0.02 * tempSlope * days;
	// Neither buffer nor second pen, no thermometer: nobody could tell.
	const blind = (is('probe') && calibrated.length === 0 && pairs.length < 3) || (is('temperature') && temps.length < 4);
	return {
		cause,
		thin: thin || blind,
		moved,
		book: {
			quantity,
			kind: 'tank',
			readings,
			other,
			temps,
			oxygen,
			acts: acts.sort((a, b) => a.at - b.at),
			shares: [],
			feed: [],
			pairs,
			calibrated,
			volumeL: c.chance(0.9) ? fullL : null,
			aeration: h.saysAeration ? aeration : null,
			water: {
				alkalinityMeqL: h.knowsWater ? waterAlk * (1 + 0.1 * c.normal()) : null,
				ecUsCm: h.knowsWater ? waterEc : null,
			},
			ammoniumShare: h.knowsFeed ? ammonium : null,
			compensates: c.chance(0.9) ? compensates : null,
		},
	};
}

/** Causes that work by the hour; the others at what is done, or in the pen. */
const BY_THE_HOUR: ReadonlySet<TrueCause> = new Set(['nitrate', 'ammonium', 'degassing', 'roots', 'hungry', 'salts']);
const EC_CAUSES: ReadonlySet<TrueCause> = new Set(['salts', 'hungry', 'diluted', 'feed_wrong', 'temperature']);

/** Bags that run off: salt that builds up as too little runs off, or a root zone washed out as too much does. */
export function bagWorld(cause: 'salts' | 'diluted' | 'nothing' | 'feed_wrong', c: Random): World {
	const thin = c.chance(0.12);
	const h = habits(c, thin);
	const days = Math.round(c.between(14, 35));
	const bagL = c.between(6, 14);
	const perDay = c.between(1.2, 3);
	const turns = START + days * DAY * c.between(0.1, 0.4);
	let feedEc = c.between(1400, 2400);
	const takes = c.between(0.4, 0.8) * feedEc;
	const usual = c.between(0.2, 0.35);
	const then = cause === 'salts' ? c.between(0.03, 0.1) : cause === 'diluted' ? c.between(0.55, 0.8) : usual;
	let bag = (feedEc - (1 - usual) * takes) / usual;
	const first = bag;
	const readings: Seen[] = [];
	const other: Beside[] = [];
	const feed: Beside[] = [];
	const shares: Beside[] = [];
	const acts: Act[] = [];
	const calibrated: number[] = [];
	const noise = c.between(0.01, 0.03);
	const heavy = () => (c.chance(0.04) ? 4 : 1) * c.normal();
	const wrongBy = c.pick([-1, 1]) * c.between(0.2, 0.45);
	for (let day = 0; day < days; day++) {
		const at = START + day * DAY + h.hour * HOUR;
		if (cause === 'feed_wrong' && at > turns && acts.length === 0) {
			feedEc *= 1 + wrongBy;
			acts.push({ at, kind: 'feed', litres: null });
		}
		const aimed = at > turns ? then : usual;
		const share = Math.min(0.9, Math.max(0.01, aimed * Math.exp(0.2 * c.normal())));
		const given = perDay * Math.exp(0.1 * c.normal());
		const drunk = (1 - share) * given;
		// Four runs a day, each mixed with what the bag holds.
		for (let run = 0; run < 4; run++)
			bag += ((feedEc * given - bag * share * given - takes * drunk) / 4 / bagL) * c.between(0.9, 1.1);
		bag = Math.max(200, bag);
		if (h.calibrates > 0 && day > 0 && day % Math.round(h.calibrates) === 0) calibrated.push(at);
		const seen = thin ? c.chance(0.2) : c.chance(0.75);
		if (!seen) continue;
		const drain = bag * (1 + noise * heavy());
		readings.push({ at, value: Math.round(drain / 10) * 10, off: 0 });
		other.push({ at, value: Math.round(100 * (6 - 0.0001 * (bag - first) + 0.05 * heavy())) / 100 });
		if (!c.chance(0.2)) feed.push({ at: at - HOUR, value: Math.round((feedEc * (1 + 0.012 * heavy())) / 10) * 10 });
		if (c.chance(thin ? 0.2 : 0.6)) shares.push({ at, value: Math.max(0, share * (1 + 0.1 * c.normal())) });
	}
	return {
		cause,
		thin,
		moved: (bag - first) / first,
		book: {
			quantity: 'ec',
			kind: 'drain',
			readings,
			other,
			temps: [],
			oxygen: [],
			acts,
			shares,
			feed,
			pairs: [],
			calibrated,
			volumeL: null,
			aeration: null,
			water: { alkalinityMeqL: null, ecUsCm: null },
			ammoniumShare: null,
			compensates: true,
		},
	};
}
