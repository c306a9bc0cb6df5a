import { COARSE_RUN } from '../repeats';
import type { Check, Subject } from './check';

/** Flat line (QARTOD): a continuous sensor repeats one value for longer than chance explains, judged by how it usually repeats itself. */
export const stuck: Check = {
	code: 'stuck',
	title: 'A sensor that still moves',
	run({ continuous, repeats, reading, mates }) {
		if (!continuous || repeats === null || repeats.length < 2) return null;
		const node = hangingMate(reading.instrument, mates);
		if (repeats.length < repeats.improbableFrom && !(node && repeats.length >= node.repeats!.length)) return null;
		return {
			check: 'stuck',
			flag: 3,
			cause: 'stuck',
			suggested: null,
			said: { code: 'stuck', times: repeats.length, improbableFrom: repeats.improbableFrom },
			evidence: { repeats: repeats.length, improbable_from: repeats.improbableFrom, value: reading.value },
			weight: 58,
		};
	},
};

const hangs = (s: Subject): boolean => s.repeats !== null && s.repeats.length >= s.repeats.improbableFrom;

/** A node that hangs repeats everything at once: what one of its values proves holds for the others. */
const hangingMate = (instrument: string, mates: readonly Subject[]): Subject | undefined =>
	mates.find((m) => m.reading.instrument === instrument && m.quantity !== 'temp' && hangs(m));

/**
 * From when on the value has been standing, at the reading that makes it sure; undefined at the others. A coarse
 * display rests honestly for hours, so of its own run nothing is said backwards.
 */
export function stuckSince(s: Subject): number | undefined {
	if (s.repeats === null || s.repeatedSince === null) return undefined;
	const node = hangingMate(s.reading.instrument, s.mates);
	if (node && node.repeats!.length === node.repeats!.improbableFrom)
		return Math.max(node.repeatedSince ?? s.reading.at, s.repeatedSince);
	const { length, improbableFrom } = s.repeats;
	return length === improbableFrom && improbableFrom < COARSE_RUN ? s.repeatedSince : undefined;
}
