import { believable } from './believable';
import { fillingProbe } from './filling-probe';
import type { Guard } from './guard';
import { lastAnswer } from './last-answer';
import { mixed } from './mixed';
import { spent } from './spent';
import { stepByStep } from './step-by-step';
import { thinWater } from './thin-water';
import { worstCase } from './worst-case';

/** All guards, those that refuse first. None may be left out; a test shows for each what happens without it. */
export const GUARDS: readonly Guard[] = [
	thinWater,
	believable,
	mixed,
	stepByStep,
	fillingProbe,
	lastAnswer,
	worstCase,
	spent,
];
