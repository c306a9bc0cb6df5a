import type { Check } from './check';

/** Flat line (QARTOD): a continuous sensor repeats one value for longer than chance explains, judged by how it usually repeats itself. */
export const stuck: Check = {
	code: 'stuck',
	title: 'A sensor that still moves',
	run({ continuous, repeats, reading, mates }) {
		if (!continuous || repeats === null || repeats.length < 2) return null;
		// A node that hangs repeats everything at once: what one of its values proves holds for the others.
		const node = mates.find(
			(m) =>
				m.reading.instrument === reading.instrument &&
				m.quantity !== 'temp' &&
				m.repeats !== null &&
				m.repeats.length >= m.repeats.improbableFrom,
		);
		if (repeats.length < repeats.improbableFrom && !(node && repeats.length >= node.repeats!.length)) return null;
		return {
			check: 'stuck',
			flag: 3,
			cause: 'stuck',
			suggested: null,
			message: `The same value ${repeats.length} times in a row; by chance this sensor repeats itself less than ${repeats.improbableFrom} times.`,
			nextStep: 'Look at the sensor and its cable; dip it in a standard.',
			evidence: { repeats: repeats.length, improbable_from: repeats.improbableFrom, value: reading.value },
			weight: 58,
		};
	},
};
