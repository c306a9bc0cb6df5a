/**
 * The chemistry of a simulated nutrient solution, on purpose by another road than the application's own (core/water,
 * core/chem): a full charge balance over carbonate, phosphate, ammonium, citrate, a chelate and silicate, with Davies
 * activities and calcium and magnesium pairs written out. Constants at 25 °C with their enthalpies (van ’t Hoff), from the
 * CRC Handbook and Stumm and Morgan, Aquatic Chemistry (from memory). Amounts in mmol/L, equivalents in meq/L.
 */
export interface Solution {
	/** Strong cations less strong anions, calcium and magnesium among them, meq/L. */
	strongMeqL: number;
	carbonMmolL: number;
	phosphateMmolL: number;
	ammoniumMmolL: number;
	citrateMmolL: number;
	/** A chelate that takes up one proton near pH 6, as several do. */
	chelateMmolL: number;
	silicateMmolL: number;
	calciumMmolL: number;
	magnesiumMmolL: number;
	ionicMolL: number;
	tempC: number;
}

const R_KJ = 8.314462618e-3;
const at = (pk25: number, enthalpyKj: number, tempC: number): number =>
	10 ** -pk25 * Math.exp((enthalpyKj / R_KJ) * (1 / 298.15 - 1 / (tempC + 273.15)));

interface Constants {
	gamma1: number;
	k1: number;
	k2: number;
	kw: number;
	kp1: number;
	kp2: number;
	kp3: number;
	kNh4: number;
	kCit: readonly [number, number, number];
	kChelate: number;
	kSi: number;
	pairCa: number;
	pairMg: number;
}

/** Constants for hydrogen as activity and everything else as concentration. */
function constantsAt(tempC: number, ionic: number): Constants {
	const root = Math.sqrt(ionic);
	const f = root / (1 + root) - 0.3 * ionic;
	const a = 0.509 * (1 + 0.0009 * (tempC - 25));
	const g = (z: number) => 10 ** (-a * z * z * f);
	const [g1, g2, g3] = [g(1), g(2), g(3)];
	return {
		gamma1: g1,
		k1: at(6.352, 9.1, tempC) / g1,
		k2: (at(10.329, 14.9, tempC) * g1) / g2,
		kw: at(13.995, 55.8, tempC) / g1,
		kp1: at(2.148, -8, tempC) / g1,
		kp2: (at(7.198, 3.6, tempC) * g1) / g2,
		kp3: (at(12.35, 16, tempC) * g2) / g3,
		kNh4: at(9.245, 52.1, tempC) * g1,
		kCit: [at(3.128, 4.1, tempC) / g1, (at(4.761, 2.2, tempC) * g1) / g2, (at(6.396, -3.4, tempC) * g2) / g3],
		kChelate: (at(6.1, 15, tempC) * g2) / g3,
		kSi: at(9.83, 25, tempC) / g1,
		pairCa: 10 ** 2.74 * g2 * g2,
		pairMg: 10 ** 2.91 * g2 * g2,
	};
}

const kept = new Map<string, Constants>();
function constants(s: Solution): Constants {
	const key = `${s.tempC.toFixed(1)}|${s.ionicMolL.toFixed(4)}`;
	let c = kept.get(key);
	if (!c) {
		if (kept.size > 500) kept.clear();
		c = constantsAt(s.tempC, s.ionicMolL);
		kept.set(key, c);
	}
	return c;
}

/** Negative charge of the weak acids less positive of the weak bases at a pH, meq/L: what the strong ions must balance. */
function weakCharge(s: Solution, c: Constants, ph: number): number {
	const h = 10 ** -ph;
	const carbonate = c.k1 / h / (1 + c.k1 / h + (c.k1 * c.k2) / (h * h));
	const two = carbonate * (c.k2 / h);
	// Calcium and magnesium hold HPO4 back: its share grows by the pairs, one for one (free metal ≈ all of it).
	const pairs = 1 + (c.pairCa * s.calciumMmolL + c.pairMg * s.magnesiumMmolL) / 1000;
	const p1 = c.kp1 / h;
	const p2 = p1 * (c.kp2 / h) * pairs;
	const p3 = p1 * (c.kp2 / h) * (c.kp3 / h);
	const phosphate = (p1 + 2 * p2 + 3 * p3) / (1 + p1 + p2 + p3);
	const [a, b, d] = c.kCit;
	const [c1, c2, c3] = [a / h, (a * b) / h ** 2, (a * b * d) / h ** 3];
	const citrate = (c1 + 2 * c2 + 3 * c3) / (1 + c1 + c2 + c3);
	return (
		s.carbonMmolL * (carbonate + 2 * two) +
		s.phosphateMmolL * phosphate +
		s.citrateMmolL * citrate +
		s.chelateMmolL * (2 + 1 / (1 + h / c.kChelate)) +
		s.silicateMmolL / (1 + h / c.kSi) -
		s.ammoniumMmolL / (1 + c.kNh4 / h) +
		1000 * (c.kw / h - h / c.gamma1)
	);
}

export function phOf(s: Solution): number {
	const c = constants(s);
	let [low, high] = [1, 13];
	for (let i = 0; i < 42; i++) {
		const middle = (low + high) / 2;
		if (weakCharge(s, c, middle) < s.strongMeqL) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}

/** Strong acid that the way to a pH takes with nothing leaving, meq/L; negative where it takes base. */
export const acidTo = (s: Solution, ph: number): number => s.strongMeqL - weakCharge(s, constants(s), ph);

/** Dissolved carbon dioxide, mmol/L. */
export function freeCarbonDioxide(s: Solution, ph: number): number {
	const c = constants(s);
	const h = 10 ** -ph;
	return s.carbonMmolL / (1 + c.k1 / h + (c.k1 * c.k2) / (h * h));
}

/** Carbon dioxide that a solution holds in balance with air of this much of it, mmol/L. */
export const carbonDioxideOfAir = (uatm: number, tempC: number): number => at(1.468, -19.5, tempC) * uatm * 1e-3;

/** A natural water of this alkalinity that stands at a pH before anything is added. */
export function naturalWater(alkalinityMeqL: number, ph: number, tempC: number): Solution {
	const s: Solution = {
		strongMeqL: alkalinityMeqL,
		carbonMmolL: 0,
		phosphateMmolL: 0,
		ammoniumMmolL: 0,
		citrateMmolL: 0,
		chelateMmolL: 0,
		silicateMmolL: 0,
		calciumMmolL: 0.35 * alkalinityMeqL,
		magnesiumMmolL: 0.12 * alkalinityMeqL,
		ionicMolL: 0.0016 * alkalinityMeqL + 0.0003,
		tempC,
	};
	let [low, high] = [0, 40];
	for (let i = 0; i < 50; i++) {
		const middle = (low + high) / 2;
		s.carbonMmolL = middle;
		if (phOf(s) > ph) low = middle;
		else high = middle;
	}
	return s;
}
