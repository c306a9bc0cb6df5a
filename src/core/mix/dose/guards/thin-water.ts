import { say } from '../record';
import type { Guard } from './guard';

/** Nothing in it holds the pH: a drop goes a whole unit, and the reading itself hardly means anything (common practice). */
const LEAST_US_CM = 100;

export const thinWater: Guard = {
	name: 'thin-water',
	check: ({ ecUsCm }) =>
		ecUsCm !== null && ecUsCm < LEAST_US_CM
			? { say: 'refuse', said: say('thin-water', { ec: ecUsCm, least: LEAST_US_CM }) }
			: null,
};
