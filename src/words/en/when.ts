import type { WhenProblem } from '@/core/quantity/when';

/** What to tell a person whose time was not understood. */
export function whenProblem(problem: WhenProblem): string {
	switch (problem) {
		case 'not-a-time':
			return 'Write the time as 7:30, yesterday 7:30, mon 18:05, -2h, or 2026-07-14 07:30.';
		case 'which-hour':
			return 'At what time of that day? Add it, as in yesterday 7:30.';
		case 'to-come':
			return 'That is still to come: log what was done.';
	}
}
