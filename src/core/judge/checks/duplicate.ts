import type { Check } from './check';

/** Duplicate: the same instrument, station, quantity and time a second time. */
export const duplicate: Check = {
	code: 'duplicate',
	title: 'Entered once',
	run({ twin, reading }) {
		if (twin === null) return null;
		const same = twin === reading.value;
		return {
			check: 'duplicate',
			flag: 3,
			cause: 'duplicate',
			suggested: null,
			message: same
				? 'The same reading is already there: same time, station, instrument and value.'
				: 'Another value is already there for this time, station and instrument.',
			nextStep: same ? 'Discard one of the two.' : 'Say which of the two is right, or correct the time of one.',
			evidence: { earlier_value: twin },
			weight: 80,
		};
	},
};
