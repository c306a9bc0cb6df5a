import { againstEvent } from './against-event';
import { calibration } from './calibration';
import { carryOver } from './carry-over';
import type { Check } from './check';
import { clock } from './clock';
import { disagreement } from './disagreement';
import { drifting } from './drifting';
import { duplicate } from './duplicate';
import { ecAgainstPpm } from './ec-against-ppm';
import { gap } from './gap';
import { lowIonicStrength } from './low-ionic-strength';
import { noCompensation } from './no-compensation';
import { notSettled } from './not-settled';
import { pasted } from './pasted';
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
	pasted,
	span,
	sensor,
	stuck,
	swapped,
	wrongStation,
	ecAgainstPpm,
	carryOver,
	noCompensation,
	disagreement,
	drifting,
	againstEvent,
	slip,
	userRange,
	prediction,
	notSettled,
	lowIonicStrength,
	calibration,
	gap,
];
