import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { BaseKind } from '@/core/chem/acids';

/** Reference values: tests/reference/make_mixing.py (scipy), by full speciation and general solvers. */
export const reference = JSON.parse(readFileSync(join(import.meta.dirname, '../reference/mixing.json'), 'utf8')) as {
	bases: {
		kind: BaseKind;
		temp_c: number;
		alkalinity: number;
		ph: number;
		target: number;
		mmol: number;
		g_1000_l: number;
	}[];
	feeds: {
		temp_c: number;
		ec_us_cm: number;
		phosphate: number;
		carbonate: number;
		ph: number;
		to: number;
		takes: number;
	}[];
	degassing: { temp_c: number; alkalinity: number; ph: number; per_hour: number; hours: number; after: number }[];
	top_up: {
		ec_us_cm: number;
		volume: number;
		ph: number;
		phosphate: number;
		add: number;
		water_ph: number;
		water_alkalinity: number;
		water_ec_us_cm: number;
		after: number;
	}[];
};
/** mg/L of CaCO3 for each meq/L, as handbooks have it. */
export const MEQ = 50.04;
