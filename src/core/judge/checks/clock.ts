import type { Check } from './check';

const MINUTE = 60_000;
const DAY = 86_400_000;
/** Clocks of phones and sensor nodes differ by minutes; more than this ahead is a mistake. */
const AHEAD = 10 * MINUTE;
/** No reading of this kind was logged before; a node that lost its clock starts in 1970. */
const FIRST_BELIEVABLE = Date.UTC(2000, 0, 1);

type ClockCode = 'clock-ahead' | 'clock-never-set' | 'clock-back' | 'clock-wrong-year';

/**
 * Clock: a time in the future, before 2000, before the reading ahead of it in the same series, or more than half a
 * year after it (a wrong year). QARTOD's timing test, test 1, widened for people who type dates.
 */
export const clock: Check = {
	code: 'clock',
	title: 'Time makes sense',
	run({ reading, previous, now }) {
		const finding = (flag: 3 | 4, code: ClockCode, evidence: Record<string, number | string>) => ({
			check: 'clock',
			flag,
			cause: 'clock',
			suggested: null,
			said: { code },
			evidence,
			weight: 90,
		});
		if (reading.at > now + AHEAD)
			return finding(4, 'clock-ahead', { ahead_min: Math.round((reading.at - now) / MINUTE) });
		if (reading.at < FIRST_BELIEVABLE) return finding(4, 'clock-never-set', {});
		if (previous && reading.at < previous.at)
			return finding(3, 'clock-back', {
				back_min: Math.round((previous.at - reading.at) / MINUTE),
			});
		if (previous && reading.at - previous.at > 180 * DAY)
			return finding(3, 'clock-wrong-year', {
				gap_days: Math.round((reading.at - previous.at) / DAY),
			});
		return null;
	},
};
