import { CONSTANTS, HCO3_PER_CACO3, MG_L_CACO3_PER_MEQ } from '../chem/constants';
import { done, type Outcome, refused } from '../outcome';
/**
 * Every unit Cordwain reads or writes, with its factor to the canonical unit of its dimension.
 *
 * canonical = typed · factor + offset. Exact factors where a definition exists (gallons, teaspoons: US customary and
 * imperial definitions in litres, NIST Handbook 44 appendix C); water-analysis factors from equivalent masses
 * (Standard Methods 2320, 2340: CaCO3 50.04 mg/meq, HCO3 61.02 mg/meq).
 */

export type Dimension =
	| 'ph'
	| 'conductivity'
	| 'temperature'
	| 'volume'
	| 'length'
	| 'fraction'
	| 'concentration'
	| 'carbonate-equivalent'
	| 'voltage'
	| 'flow';

export interface UnitDefinition {
	dimension: Dimension;
	/** Canonical units per one of this unit. */
	factor: number;
	/** Added after the factor; only Fahrenheit has one. */
	offset: number;
	source: string;
}

const linear = (dimension: Dimension, factor: number, source: string): UnitDefinition => ({
	dimension,
	factor,
	offset: 0,
	source,
});

const meterFactor = 'the meter scale’s definition: ppm = EC in µS/cm × factor';

/** Canonical units: pH, µS/cm at 25 °C, °C, L, mm, %, mg/L, mg/L CaCO3, mV, L/h. */
export const UNITS = {
	pH: linear('ph', 1, 'canonical'),
	'uS/cm': linear('conductivity', 1, 'canonical'),
	'mS/cm': linear('conductivity', 1000, 'SI prefixes'),
	'dS/m': linear('conductivity', 1000, 'SI prefixes'),
	CF: linear('conductivity', 100, 'conductivity factor: mS/cm × 10'),
	ppm500: linear('conductivity', 1 / 0.5, meterFactor),
	ppm640: linear('conductivity', 1 / 0.64, meterFactor),
	ppm700: linear('conductivity', 1 / 0.7, meterFactor),
	C: linear('temperature', 1, 'canonical'),
	F: { dimension: 'temperature', factor: 5 / 9, offset: -160 / 9, source: 'definition of the Fahrenheit scale' },
	L: linear('volume', 1, 'canonical'),
	mL: linear('volume', 0.001, 'SI prefixes'),
	gal: linear('volume', 3.785411784, 'US liquid gallon, NIST Handbook 44'),
	imp_gal: linear('volume', 4.54609, 'imperial gallon, UK Weights and Measures Act 1985'),
	tsp: linear('volume', 0.00492892159375, 'US teaspoon, 1/768 US gallon'),
	tsp_metric: linear('volume', 0.005, 'metric teaspoon'),
	tbsp: linear('volume', 0.01478676478125, 'US tablespoon, 1/256 US gallon'),
	floz: linear('volume', 0.0295735295625, 'US fluid ounce, 1/128 US gallon'),
	cup: linear('volume', 0.2365882365, 'US cup, 1/16 US gallon'),
	mm: linear('length', 1, 'canonical'),
	'%': linear('fraction', 1, 'canonical'),
	'mg/L': linear('concentration', 1, 'canonical'),
	ppm: linear('concentration', 1, 'mg per litre of an ion in dilute water'),
	'mg/L_CaCO3': linear('carbonate-equivalent', 1, 'canonical'),
	'meq/L': linear('carbonate-equivalent', MG_L_CACO3_PER_MEQ, 'Standard Methods 2320'),
	'mg/L_HCO3': linear('carbonate-equivalent', 1 / HCO3_PER_CACO3, 'Standard Methods 2320'),
	dKH: linear('carbonate-equivalent', MG_L_CACO3_PER_MEQ / 2.804, 'German degree of carbonate hardness'),
	dGH: linear('carbonate-equivalent', 17.85, 'German degree of hardness, 10 mg/L CaO'),
	gpg: linear('carbonate-equivalent', 17.12, 'grain per US gallon'),
	mV: linear('voltage', 1, 'canonical'),
	'L/h': linear('flow', 1, 'canonical'),
	'L/min': linear('flow', 60, 'SI prefixes and 60 minutes to the hour'),
	'mL/min': linear('flow', 0.06, 'SI prefixes and 60 minutes to the hour'),
	'gal/h': linear('flow', 3.785411784, 'US liquid gallon, NIST Handbook 44'),
} as const satisfies Record<string, UnitDefinition>;

export type Unit = keyof typeof UNITS;

const SPELLINGS: Record<string, Unit> = { 'µS/cm': 'uS/cm', 'μS/cm': 'uS/cm' };

/** The unit a file or request names, or undefined. Both micro signs are read as `u`. */
export function unitNamed(name: string): Unit | undefined {
	if (Object.hasOwn(UNITS, name)) return name as Unit;
	return Object.hasOwn(SPELLINGS, name) ? SPELLINGS[name] : undefined;
}

export type ConversionProblem =
	| 'different-kinds' // the units measure different things
	| 'not-finite' // the value, or its conversion, is not a finite number
	| 'impossible'; // negative where nothing negative exists, or pH outside 0–14, or below absolute zero

export type Conversion = Outcome<number, ConversionProblem>;

const ABSOLUTE_ZERO_C = -CONSTANTS.zeroCelsius.value;

function possible(dimension: Dimension, canonical: number): boolean {
	if (dimension === 'temperature') return canonical >= ABSOLUTE_ZERO_C;
	if (dimension === 'ph') return canonical >= 0 && canonical <= 14;
	return dimension === 'voltage' || canonical >= 0;
}

/** The canonical value, without judging whether it is possible. */
export function toCanonical(value: number, unit: Unit): number {
	const u = UNITS[unit];
	return value * u.factor + u.offset;
}

/**
 * A canonical value in another unit of its kind.
 * @example fromCanonical(1413, 'ppm500') // 706.5
 */
export function fromCanonical(value: number, unit: Unit): number {
	const u = UNITS[unit];
	return (value - u.offset) / u.factor;
}

/**
 * Converts a value between two units of one dimension.
 *
 * A conductivity is taken to be at 25 °C already, as Cordwain keeps it. `ppm` and `mg/L` are a weighed concentration
 * of an ion and never become a conductivity.
 * @example convert(1.413, 'mS/cm', 'ppm500') // { ok: true, value: 706.5 }
 */
export function convert(value: number, from: Unit, to: Unit): Conversion {
	if (UNITS[from].dimension !== UNITS[to].dimension) return refused('different-kinds');
	if (!Number.isFinite(value)) return refused('not-finite');
	const canonical = toCanonical(value, from);
	if (!possible(UNITS[from].dimension, canonical)) return refused('impossible');
	// The same unit back must be the same number, not a rounding away from it.
	// Fifteen significant digits are all that two roundings leave: 100 °C is 212 °F, not 211.99999999999997.
	const result = from === to ? value : Number(fromCanonical(canonical, to).toPrecision(15));
	return Number.isFinite(result) ? done(result) : refused('not-finite');
}

/** The meter scale of a ppm unit, as the number growers call it. */
export type PpmScale = 500 | 640 | 700;
export const PPM_SCALES: readonly PpmScale[] = [500, 640, 700];
/**
 * The unit of a meter scale.
 * @example ppmUnit(500) // 'ppm500'
 */
export const ppmUnit = (scale: PpmScale): 'ppm500' | 'ppm640' | 'ppm700' => `ppm${scale}`;
/**
 * The meter scale of a ppm unit, by the number growers call it; undefined for any other unit.
 * @example ppmScaleOf('ppm700') // 700
 */
export const ppmScaleOf = (unit: Unit): PpmScale | undefined =>
	unit === 'ppm500' ? 500 : unit === 'ppm640' ? 640 : unit === 'ppm700' ? 700 : undefined;
