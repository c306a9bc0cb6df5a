import { ION_KEYS, IONS, type IonKey, type Ions, meqOf } from '../../water/ions';

/**
 * Conductivity of a feed from its ions, where the method for natural waters reads low. Each ion loses mobility by the field of the
 * others: λ = λ° − (30.1·|z| + 0.7815·w·λ°)·√I/(1 + 1.5·√I), Debye, Hückel and Onsager’s law with a finite size of ions
 * (Robinson and Stokes, Electrolyte Solutions, ch. 7; constants for water at 25 °C, from memory), w by the ions around it.
 * Calcium and magnesium pair with sulfate (log K 2.30 and 2.25, from memory) and the pairs carry nothing. For I up to about
 * 0.15 mol/L, EC to about 12 mS/cm; within 5 % for single salts.
 */
const ELECTROPHORETIC = 30.1;
const RELAXATION = 0.7815;
const SIZE = 1.5;
const DAVIES_A = 0.511;
const PAIRS: readonly (readonly [IonKey, number])[] = [
	['ca_mg_l', 10 ** 2.3],
	['mg_mg_l', 10 ** 2.25],
];
/** An ion that a label does not name is taken to carry as much as most of a feed’s do, S·cm²/eq. */
const UNNAMED_LAMBDA = 72;

interface Carrier {
	charge: number;
	lambda: number;
	/** meq/L. */
	meqL: number;
}

export interface FeedEc {
	ecUsCm: number;
	/** Of what was named, cations less anions, meq/L: what a label leaves out. */
	unnamedMeqL: number;
	/** Share of all charge that was not named. */
	unnamedShare: number;
}

/**
 * EC at 25 °C, µS/cm, of what is dissolved, mg/L. Charge that nothing balances is there all the same, and counted as a common ion.
 * @example feedEc({ k_mg_l: 390.98, cl_mg_l: 354.53 }).ecUsCm.toFixed(0) // '1417'; 0.01 mol/L of potassium chloride shows 1413
 */
export function feedEc(ions: Ions): FeedEc {
	const meq = Object.fromEntries(ION_KEYS.map((k) => [k, meqOf(k, ions[k] ?? 0)])) as Record<IonKey, number>;
	const named = ION_KEYS.reduce((sum, k) => sum + Math.sign(IONS[k].charge) * meq[k], 0);
	const all = ION_KEYS.reduce((sum, k) => sum + meq[k], 0);
	const carriers = (free: Record<IonKey, number>): Carrier[] => [
		...ION_KEYS.map((k) => ({ charge: IONS[k].charge as number, lambda: IONS[k].lambda as number, meqL: free[k] })),
		{ charge: named > 0 ? -1 : 1, lambda: UNNAMED_LAMBDA, meqL: Math.abs(named) },
	];
	let free = meq;
	let list = carriers(free);
	for (let i = 0; i < PAIRING_STEPS; i++) {
		free = paired(meq, free, ionicStrengthOf(list));
		list = carriers(free);
	}
	return {
		ecUsCm: conductance(list),
		unnamedMeqL: named,
		unnamedShare: all === 0 ? 0 : Math.abs(named) / (all + Math.abs(named)),
	};
}
const PAIRING_STEPS = 30;

/** mol/L. */
const ionicStrengthOf = (list: readonly Carrier[]): number =>
	list.reduce((sum, c) => sum + (0.5 * Math.abs(c.charge) * c.meqL) / 1000, 0);

/** One step towards what is left of calcium, magnesium and sulfate beside their pairs, meq/L. */
function paired(all: Record<IonKey, number>, free: Record<IonKey, number>, strength: number): Record<IonKey, number> {
	const root = Math.sqrt(strength);
	const gamma2 = 10 ** (-4 * DAVIES_A * (root / (1 + root) - 0.3 * strength));
	const next = { ...free };
	let taken = 0;
	for (const [key, k] of PAIRS) {
		// Moles: half the equivalents. K·γ²·[Me]·[SO4] pairs, with what is free now.
		const bound = k * gamma2 * gamma2 * (free.so4_mg_l / 2000);
		next[key] = (free[key] + all[key] / (1 + bound)) / 2;
		taken += all[key] - next[key];
	}
	next.so4_mg_l = Math.max(all.so4_mg_l - taken, 0);
	return next;
}

function conductance(list: readonly Carrier[]): number {
	const strength = ionicStrengthOf(list);
	const field = Math.sqrt(strength) / (1 + SIZE * Math.sqrt(strength));
	let ecUsCm = 0;
	for (const c of list) {
		if (!(c.meqL > 0)) continue;
		const around = list.filter((o) => Math.sign(o.charge) !== Math.sign(c.charge) && o.meqL > 0);
		const total = around.reduce((sum, o) => sum + o.meqL, 0);
		const w = around.reduce((sum, o) => sum + (o.meqL / total) * relaxing(c, o), 0);
		const loss = (ELECTROPHORETIC * Math.abs(c.charge) + RELAXATION * w * c.lambda) * field;
		ecUsCm += Math.max(c.lambda - loss, 0) * c.meqL;
	}
	return ecUsCm;
}

/** |z₁z₂|·q/(1 + √q), with Onsager’s q of the two. */
function relaxing(a: Carrier, b: Carrier): number {
	const [za, zb] = [Math.abs(a.charge), Math.abs(b.charge)];
	const q = (((za * zb) / (za + zb)) * (a.lambda + b.lambda)) / (zb * a.lambda + za * b.lambda);
	return (za * zb * q) / (1 + Math.sqrt(q));
}
