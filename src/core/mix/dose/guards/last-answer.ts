import { say } from '../record';
import { firstStep, type Guard, largestGood } from './guard';

/**
 * A dose that answered the wrong way, hardly, too strongly, or was only read before it could mix, is not built on: the next is
 * at most as large as the last that did what was expected, and after too strong an answer half of the one that gave it.
 */
export const lastAnswer: Guard = {
	name: 'last-answer',
	check: (g) => {
		const first = firstStep(g);
		const last = g.doses.at(-1);
		const good = largestGood(g.doses.slice(-6)) ?? first;
		if (g.b.followed.unanswered.length > 0)
			return { say: 'at most', meqL: good, said: say('not-answered-yet', { meqL: good }) };
		if (!last || last.answered === 'as expected')
			return g.b.followed.tooEarly > 0 && g.doses.length === 0
				? { say: 'at most', meqL: first, said: say('read-too-early', { meqL: first }) }
				: null;
		if (last.answered === 'stronger') {
			const meqL = Math.abs(last.meqL) / 2;
			return {
				say: 'at most',
				meqL,
				said: say('answered-stronger', { meqL, expected: last.expected, got: last.phAfter }),
			};
		}
		const code = last.answered === 'weaker' ? 'answered-weaker' : 'answered-wrong-way';
		return { say: 'at most', meqL: good, said: say(code, { meqL: good, expected: last.expected, got: last.phAfter }) };
	},
};
