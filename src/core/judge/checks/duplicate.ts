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
			said: { code: same ? 'duplicate-same' : 'duplicate-other' },
			evidence: { earlier_value: twin },
			weight: 80,
		};
	},
};
