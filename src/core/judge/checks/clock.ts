import { exchangedDate, wallTime } from '../../quantity/time';
import type { Finding } from '../../reading/model';
import type { FindingSaid } from '../said';
import { aheadOf } from '../trace';
import type { Check, Subject } from './check';

const MINUTE = 60_000;
const DAY = 86_400_000;
/** Clocks of phones and sensor nodes differ by minutes; more than this ahead is a mistake. */
const AHEAD = 10 * MINUTE;
/** No reading of this kind was logged before; a node that lost its clock starts in 1970. */
const FIRST_BELIEVABLE = Date.UTC(2000, 0, 1);
/** With day and month exchanged it would follow the reading before within this, or three times the usual while. */
const FOLLOWS = { ms: 3 * DAY, times: 3 } as const;

/**
 * Clock: a time in the future, before 2000, before the reading ahead of it in the same series, with day and month exchanged, or more
 * than half a year after it (a wrong year). Weeks without a reading are no mistake. QARTOD's timing test, test 1, widened for people
 * who type dates.
 */
export const clock: Check = {
	code: 'clock',
	title: 'Time makes sense',
	run(s) {
		const { reading, previous, now } = s;
		if (reading.at > now + AHEAD)
			return finding(4, exchanged(s) ?? { code: 'clock-ahead' }, {
				ahead_min: Math.round((reading.at - now) / MINUTE),
			});
		if (reading.at < FIRST_BELIEVABLE) return finding(4, { code: 'clock-never-set' }, {});
		if (!previous) return null;
		if (reading.at < previous.at)
			return finding(3, exchanged(s) ?? { code: 'clock-back' }, {
				back_min: Math.round((previous.at - reading.at) / MINUTE),
			});
		const gap = reading.at - previous.at;
		const other = aheadOf(previous.usualGapMs, gap) ? exchanged(s) : null;
		// It says nothing of when anything was: the next line must not be held against it.
		if (other) return finding(4, other, { gap_days: Math.round(gap / DAY) });
		if (gap > 180 * DAY) return finding(3, { code: 'clock-wrong-year' }, { gap_days: Math.round(gap / DAY) });
		return null;
	},
};

const finding = (flag: 3 | 4, of: FindingSaid, evidence: Record<string, number>): Finding => ({
	check: 'clock',
	flag,
	cause: 'clock',
	suggested: null,
	said: of,
	evidence,
	weight: 90,
});

/** That day and month were exchanged, where the other date follows the reading before. */
function exchanged({ reading, previous, zone, now }: Subject): FindingSaid | null {
	const other = exchangedDate(reading.at, zone);
	if (other === null || !previous || other <= previous.at || other > now + AHEAD) return null;
	if (other - previous.at > Math.max(FOLLOWS.ms, FOLLOWS.times * (previous.usualGapMs ?? 0))) return null;
	const wall = new Date(wallTime(other, zone));
	return { code: 'clock-day-month', day: wall.getUTCDate(), month: wall.getUTCMonth() + 1 };
}
