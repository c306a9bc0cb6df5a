import { done, type Outcome, refused } from '../outcome';
import { ALPHA_PEN_PCT } from './conductivity';
import { FIRST_C, RAW_1413_US_CM } from './standard-1413';

/**
 * Buffers and conductivity standards by temperature. Linear between table points, refused outside.
 *
 * Primary buffers: pH(S), IUPAC Recommendations 2002 and NIST (from memory). Everyday buffers: typical bottle tables
 * (from memory); a lot's own table can be given instead. Conductivity: Standard Methods 2510 and ISO 7888 (from
 * memory); the 1413 standard by degree, the others by the coefficient of potassium chloride, 1.91 %/°C.
 */
export type StandardQuantity = 'ph' | 'ec';
export interface StandardDefinition {
	name: string;
	quantity: StandardQuantity;
	/** [°C, value] rising in temperature; pH, or µS/cm as it truly conducts at that temperature. */
	table: readonly (readonly [tempC: number, value: number])[];
	source: string;
}

const every = (first: number, step: number, values: readonly number[]): [number, number][] =>
	values.map((v, i) => [first + i * step, v]);
const PRIMARY_C = [0, 5, 10, 15, 20, 25, 30, 35, 40, 50];
const primary = (values: readonly number[]): [number, number][] => values.map((v, i) => [PRIMARY_C[i]!, v]);

const PHTHALATE = primary([4.0, 3.998, 3.997, 3.998, 4.0, 4.005, 4.011, 4.018, 4.027, 4.05]);
const PHOSPHATE = primary([6.984, 6.951, 6.923, 6.9, 6.881, 6.865, 6.853, 6.844, 6.838, 6.833]);
const BORAX = primary([9.464, 9.395, 9.332, 9.276, 9.225, 9.18, 9.139, 9.102, 9.068, 9.011]);
const CARBONATE = primary([10.317, 10.245, 10.179, 10.118, 10.062, 10.012, 9.966, 9.926, 9.889, 9.828]);
const SEVEN = [7.09, 7.06, 7.04, 7.02, 7.0, 6.99, 6.98, 6.97];

const KCL_ALPHA = 0.0191;
const kcl = (ec25: number): [number, number][] =>
	[5, 10, 15, 20, 25, 30, 35, 40].map((t) => [t, ec25 * (1 + KCL_ALPHA * (t - 25))]);

const IUPAC = 'IUPAC Recommendations 2002 / NIST, from memory';
const BOTTLE = 'typical bottle table, from memory; the lot’s own table comes first';
const SM2510 = 'Standard Methods 2510 / ISO 7888, from memory';

export const STANDARDS: readonly StandardDefinition[] = [
	{ name: 'phthalate 4.005', quantity: 'ph', table: PHTHALATE, source: IUPAC },
	{ name: 'phosphate 6.865', quantity: 'ph', table: PHOSPHATE, source: IUPAC },
	{ name: 'borax 9.180', quantity: 'ph', table: BORAX, source: IUPAC },
	{ name: 'carbonate 10.012', quantity: 'ph', table: CARBONATE, source: IUPAC },
	{
		name: 'pH 4.01',
		quantity: 'ph',
		table: [
			[5, 4],
			[20, 4],
			[25, 4.01],
			[30, 4.02],
			[35, 4.03],
			[40, 4.03],
		],
		source: BOTTLE,
	},
	{ name: 'pH 6.86', quantity: 'ph', table: PHOSPHATE, source: IUPAC },
	{ name: 'pH 7.00', quantity: 'ph', table: every(5, 5, SEVEN), source: BOTTLE },
	{
		name: 'pH 7.01',
		quantity: 'ph',
		table: every(
			5,
			5,
			SEVEN.map((v) => Math.round((v + 0.01) * 1000) / 1000),
		),
		source: BOTTLE,
	},
	{ name: 'pH 9.18', quantity: 'ph', table: BORAX, source: IUPAC },
	{
		name: 'pH 10.01',
		quantity: 'ph',
		table: every(5, 5, [10.25, 10.18, 10.12, 10.06, 10.01, 9.97, 9.93, 9.89]),
		source: BOTTLE,
	},
	{ name: 'KCl 84', quantity: 'ec', table: kcl(84), source: SM2510 },
	{
		name: 'KCl 1413',
		quantity: 'ec',
		table: every(FIRST_C, 1, RAW_1413_US_CM),
		source: SM2510,
	},
	{ name: 'KCl 2765', quantity: 'ec', table: kcl(2765), source: SM2510 },
	{ name: 'KCl 12880', quantity: 'ec', table: kcl(12880), source: SM2510 },
];

/**
 * A buffer or conductivity standard by its name.
 * @example standardNamed('KCl 1413').quantity // 'ec'
 */
export const standardNamed = (name: string): StandardDefinition | undefined => STANDARDS.find((s) => s.name === name);

/** A value of a standard, or the span of its table in °C where the temperature lies outside it. */
export type Nominal = Outcome<number, { code: 'outside-table'; low: number; high: number }>;

/** A table's value at a temperature. */
export function fromTable(table: StandardDefinition['table'], tempC: number): Nominal {
	const low = table[0]![0];
	const high = table[table.length - 1]![0];
	if (!(tempC >= low && tempC <= high)) return refused({ code: 'outside-table', low, high });
	let i = 0;
	while (i < table.length - 2 && tempC > table[i + 1]![0]) i++;
	const [t0, v0] = table[i]!;
	const [t1, v1] = table[i + 1]!;
	return done(v0 + ((tempC - t0) / (t1 - t0)) * (v1 - v0));
}

/**
 * What a meter should show in a standard at a temperature.
 *
 * A compensating conductivity meter shows the value brought to 25 °C with its own coefficient: κ(T)/(1 + α·(T − 25)).
 * The 1413 standard at 20 °C is right at 1420 on a pen with 2 %/°C, and at 1278 on one without compensation.
 */
export function nominalValue(
	standard: StandardDefinition,
	tempC: number,
	meter?: { compensates: boolean; alphaPctPerC?: number | undefined },
): Nominal {
	const raw = fromTable(standard.table, tempC);
	if (!raw.ok || standard.quantity === 'ph' || !meter?.compensates) return raw;
	return done(raw.value / (1 + ((meter.alphaPctPerC ?? ALPHA_PEN_PCT) / 100) * (tempC - 25)));
}

/**
 * The standard a found value most likely stands for, when it is not the one that was named: "reads 4.1: the 4.01 bottle?"
 * @param owned names of those that stand on the shelf: where one of them fits, no other is asked about
 */
export function likelyStandard(
	named: StandardDefinition,
	found: number,
	tempC: number,
	owned: readonly string[] = [],
): StandardDefinition | null {
	const distance = (s: StandardDefinition) => {
		const nominal = fromTable(s.table, Math.min(Math.max(tempC, s.table[0]![0]), s.table[s.table.length - 1]![0]));
		if (!nominal.ok) return Number.POSITIVE_INFINITY;
		return s.quantity === 'ph'
			? Math.abs(found - nominal.value)
			: Math.abs(Math.log(Math.max(found, 1e-9) / nominal.value)) * 4;
	};
	const own = distance(named);
	// A drifted probe may be a whole pH off; a wrong bottle is two or three.
	if (own < 1.2) return null;
	const others = STANDARDS.filter((s) => s.quantity === named.quantity && s !== named && distance(s) < own * 0.4);
	const onShelf = others.filter((s) => owned.includes(s.name));
	return (onShelf.length > 0 ? onShelf : others).reduce<StandardDefinition | null>(
		(best, s) => (best === null || distance(s) < distance(best) ? s : best),
		null,
	);
}
