import { say } from '../record';
import type { Guard } from './guard';

/** A reading taken before what was poured has reached the whole tank says nothing of it: how long still to wait. */
export const mixed: Guard = {
	name: 'mixed',
	check: ({ q, b, phAt }) => {
		const poured = b.filling.happenings.findLast((h) => h.does !== 'nothing');
		if (!poured) return null;
		const wait = b.mixMinutes * 60_000;
		const since = poured.at < phAt ? phAt : q.now;
		if (since - poured.at >= wait) return null;
		// Where the time is over already only a new reading is wanted.
		const minutes = Math.max(Math.ceil((poured.at + wait - q.now) / 60_000), 0);
		return {
			say: 'wait',
			minutes,
			said: say(minutes > 0 ? 'wait-to-mix' : 'read-again-mixed', { minutes, whole: b.mixMinutes }),
		};
	},
};
