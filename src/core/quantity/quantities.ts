import type { Dimension, Unit } from './units';
import { UNITS } from './units';

/** What can be measured. The codes are those of the readings CSV. */
export const QUANTITIES = [
	'ph',
	'ec',
	'tds',
	'temp',
	'level',
	'volume',
	'do',
	'orp',
	'mv',
	'no3',
	'k',
	'ca',
	'alkalinity',
	'hardness',
	'air_temp',
	'humidity',
	'moisture',
	'substrate_ec',
	'flow',
] as const;
export type Quantity = (typeof QUANTITIES)[number];

export interface QuantityDefinition {
	name: string;
	/** Unit in which values are kept. */
	canonical: Unit;
	/** Dimensions a typed value may come in. */
	dimensions: readonly Dimension[];
	/** What any instrument for this quantity could show, in the canonical unit; beyond it the number is no reading. */
	span: readonly [number, number];
	/** Decimals shown by default, in the display unit. */
	decimals: number;
}

/** Spans are the widest of common field instruments (common practice, no source). */
export const QUANTITY: Record<Quantity, QuantityDefinition> = {
	ph: { name: 'pH', canonical: 'pH', dimensions: ['ph'], span: [0, 14], decimals: 2 },
	ec: { name: 'EC', canonical: 'uS/cm', dimensions: ['conductivity'], span: [0, 200_000], decimals: 2 },
	tds: { name: 'TDS', canonical: 'uS/cm', dimensions: ['conductivity'], span: [0, 200_000], decimals: 0 },
	temp: { name: 'Temperature', canonical: 'C', dimensions: ['temperature'], span: [-5, 60], decimals: 1 },
	level: { name: 'Level', canonical: 'mm', dimensions: ['length', 'fraction'], span: [0, 20_000], decimals: 0 },
	volume: { name: 'Volume', canonical: 'L', dimensions: ['volume'], span: [0, 1e7], decimals: 1 },
	do: {
		name: 'Dissolved oxygen',
		canonical: 'mg/L',
		dimensions: ['concentration', 'fraction'],
		span: [0, 500],
		decimals: 1,
	},
	orp: { name: 'ORP', canonical: 'mV', dimensions: ['voltage'], span: [-2000, 2000], decimals: 0 },
	mv: { name: 'Electrode mV', canonical: 'mV', dimensions: ['voltage'], span: [-2000, 2000], decimals: 1 },
	no3: { name: 'Nitrate', canonical: 'mg/L', dimensions: ['concentration'], span: [0, 100_000], decimals: 0 },
	k: { name: 'Potassium', canonical: 'mg/L', dimensions: ['concentration'], span: [0, 100_000], decimals: 0 },
	ca: { name: 'Calcium', canonical: 'mg/L', dimensions: ['concentration'], span: [0, 100_000], decimals: 0 },
	alkalinity: {
		name: 'Alkalinity',
		canonical: 'mg/L_CaCO3',
		dimensions: ['carbonate-equivalent', 'concentration'],
		span: [0, 10_000],
		decimals: 0,
	},
	hardness: {
		name: 'Hardness',
		canonical: 'mg/L_CaCO3',
		dimensions: ['carbonate-equivalent', 'concentration'],
		span: [0, 10_000],
		decimals: 0,
	},
	air_temp: { name: 'Air temperature', canonical: 'C', dimensions: ['temperature'], span: [-40, 70], decimals: 1 },
	humidity: { name: 'Relative humidity', canonical: '%', dimensions: ['fraction'], span: [0, 100], decimals: 0 },
	moisture: { name: 'Substrate moisture', canonical: '%', dimensions: ['fraction'], span: [0, 100], decimals: 0 },
	substrate_ec: {
		name: 'Substrate EC',
		canonical: 'uS/cm',
		dimensions: ['conductivity'],
		span: [0, 50_000],
		decimals: 2,
	},
	flow: { name: 'Flow', canonical: 'L/h', dimensions: ['flow'], span: [0, 1e6], decimals: 1 },
};

/**
 * Whether a text names a quantity.
 * @example isQuantity('constructor') // false
 */
export const isQuantity = (code: string): code is Quantity => Object.hasOwn(QUANTITY, code);

/** Whether a value of this quantity may be given in this unit. A `%` level or `%` oxygen keeps its own scale. */
export const unitFits = (quantity: Quantity, unit: Unit): boolean =>
	QUANTITY[quantity].dimensions.includes(UNITS[unit].dimension);

/** TDS of a meter is EC by another name; both are one series. */
export type SeriesQuantity = Exclude<Quantity, 'tds'>;
/** What has a history: TDS is EC by another name. */
export const SERIES_QUANTITIES = QUANTITIES.filter((q): q is SeriesQuantity => q !== 'tds');
/**
 * The history that a quantity belongs to.
 * @example seriesQuantity('tds') // 'ec'
 */
export const seriesQuantity = (quantity: Quantity): SeriesQuantity => (quantity === 'tds' ? 'ec' : quantity);
/**
 * What tells of a quantity, the other way round: of conductivity what a meter shows as TDS too.
 * @example quantitiesOf('ec') // ['ec', 'tds']
 */
export const quantitiesOf = (quantity: Quantity): readonly Quantity[] =>
	quantity === 'ec' ? ['ec', 'tds'] : [quantity];
