import { wantedWait } from '../waits';
import { type Check, unexpected } from './check';

/** A little less than the usual wait is no fault. */
const SHARE = 0.7;
/** More than any bare miss, less than a slip that fits. */
const EXPLAINS = 96;

/** Not settled: written down sooner than this water and this quantity want. Only where the wait was noted. */
export const notSettled: Check = {
	code: 'not-settled',
	title: 'Waited until it settled',
	run(s) {
		const { reading, quantity, ecHereUsCm, waits } = s;
		const wanted = wantedWait(quantity, ecHereUsCm, waits);
		if (wanted === null || reading.waitS === null || reading.waitS >= SHARE * wanted) return null;
		return {
			check: 'not-settled',
			flag: 3,
			cause: 'not-settled',
			suggested: null,
			said: { code: 'not-settled', waitS: reading.waitS, wantedS: wanted },
			evidence: { wait_s: reading.waitS, wanted_s: wanted },
			// What was seen to be left out explains a value that is off better than that it is off.
			weight: unexpected(s) ? EXPLAINS : 45,
		};
	},
};
