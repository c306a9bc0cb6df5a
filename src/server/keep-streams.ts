import { judgeDueStreams } from '@/service/sensors/due';
import { announce } from './changes';
import { database, isDatabaseDown } from './database';
import { log } from './log';
import { oneAtATime } from './one-at-a-time';

/**
 * Has the streams judged again beside which something was written afterwards: an event, a hand reading, a decision. What becomes due
 * meanwhile is done before the end; what fails stays due.
 */
export const keepStreams = oneAtATime(
	async () => {
		for (const station of await judgeDueStreams(database()))
			announce({ kind: 'sensors', station, by: '', readings: [] });
	},
	(error) => {
		if (!isDatabaseDown(error)) log.error({ error }, 'judging streams again');
	},
);
