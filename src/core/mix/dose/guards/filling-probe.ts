import { median } from '../../../series/robust';
import { say } from '../record';
import { alikeFillings, bareFeed, firstStep, type Guard } from './guard';

/** Of what earlier fillings took in all. */
const SHARE = 1 / 3;
/** Fillings that are looked back on. */
const LAST = 3;

/**
 * The first dose of a filling asks a question: at most a third of what earlier fillings of this water took to come to their
 * target, and its answer decides the rest. A source that changed without a word, a fresh bottle after a weak one, or half the
 * litres show themselves before they harm.
 */
export const fillingProbe: Guard = {
	name: 'filling-probe',
	check: (g) => {
		if (g.doses.length > 0) return null;
		const alike = alikeFillings(g);
		if (alike.length === 0) return null;
		const last = alike.slice(-LAST);
		const took = Math.min(
			median(last.map((e) => Math.abs(e.meqL))),
			1.5 * Math.min(...last.map((e) => Math.abs(e.meqL))),
		);
		// From nearer to the target less is wanted.
		const way = median(last.map((e) => Math.abs(e.phStart - e.phEnd)));
		const share = way > 0 ? Math.min(Math.abs(g.ph - g.q.targetPh) / way, 1.25) : 1;
		const meqL = Math.max(Math.min(SHARE * took * Math.max(share, 0.25), bareFeed(g)), firstStep(g));
		return { say: 'at most', meqL, said: say('filling-probe', { meqL, took, fillings: last.length }) };
	},
};
