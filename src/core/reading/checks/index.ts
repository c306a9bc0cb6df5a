import type { Check } from './check';
import { clock } from './clock';
import { duplicate } from './duplicate';
import { ecAgainstPpm } from './ec-against-ppm';
import { lowIonicStrength } from './low-ionic-strength';
import { prediction } from './prediction';
import { slip } from './slip';
import { span } from './span';
import { swapped } from './swapped';
import { userRange } from './user-range';
import { wrongStation } from './wrong-station';

/** Every check of an entry, in the order a person would think of them. Adding one is adding a line here. */
export const CHECKS: readonly Check[] = [
	clock,
	duplicate,
	span,
	swapped,
	wrongStation,
	ecAgainstPpm,
	slip,
	userRange,
	prediction,
	lowIonicStrength,
];
