import { carryOver } from './carry-over';
import type { Check } from './check';
import { clock } from './clock';
import { disagreement } from './disagreement';
import { duplicate } from './duplicate';
import { ecAgainstPpm } from './ec-against-ppm';
import { lowIonicStrength } from './low-ionic-strength';
import { noCompensation } from './no-compensation';
import { notSettled } from './not-settled';
import { prediction } from './prediction';
import { sensor } from './sensor';
import { slip } from './slip';
import { span } from './span';
import { stuck } from './stuck';
import { swapped } from './swapped';
import { userRange } from './user-range';
import { wrongStation } from './wrong-station';

/** Every check of an entry, in the order a person would think of them. Adding one is adding a line here. */
export const CHECKS: readonly Check[] = [
	clock,
	duplicate,
	span,
	sensor,
	stuck,
	swapped,
	wrongStation,
	ecAgainstPpm,
	carryOver,
	noCompensation,
	disagreement,
	slip,
	userRange,
	prediction,
	notSettled,
	lowIonicStrength,
];
