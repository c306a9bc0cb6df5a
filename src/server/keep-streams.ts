import { judgeDueStreams } from '@/service/sensors/due';
import { announce } from './changes';
import { database, isDatabaseDown } from './database';
import { log } from './log';

let looking = false;
let again = false;

/**
 * Has the streams judged again beside which something was written afterwards: an event, a hand reading, a decision. One at a time;
 * what becomes due meanwhile is done before the end.
 */
export async function keepStreams(): Promise<void> {
	if (looking) {
		again = true;
		return;
	}
	looking = true;
	try {
		do {
			again = false;
			for (const station of await judgeDueStreams(database()))
				announce({ kind: 'sensors', station, by: '', readings: [] });
		} while (again);
	} catch (error) {
		// It stays due; the next change looks again.
		if (!isDatabaseDown(error)) log.error({ error }, 'judging streams again');
	} finally {
		looking = false;
	}
}
