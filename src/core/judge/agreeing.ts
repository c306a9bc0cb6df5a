import type { Subject } from './checks/check';
import type { History, Prediction } from './history';

/** So far apart two values that were not believed say the same: working units. */
export const agreesWithin = (prediction: Prediction, uWorking: number): number =>
	3 * Math.hypot(Math.min(prediction.spread, 0.3), uWorking);

/** Readings before that were not believed and say what this one says: how many, and since when; null where there are none. */
export function agreeingBefore(
	{ pending }: Readonly<History>,
	{ reading, level, prediction, uWorking }: Subject,
): Subject['agreeing'] {
	if (pending === null || prediction === null || reading.at <= pending.at) return null;
	const alike = Math.abs(level - pending.level) <= agreesWithin(prediction, uWorking);
	return alike ? { times: pending.agreed + 1, since: pending.at } : null;
}
