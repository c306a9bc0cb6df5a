import type { Finding } from '../../reading/model';
import { fromWorking } from '../working-scale';
import { type Check, unexpected } from './check';

/** What clings to a probe is rinsed off or diluted within this time. */
const WITHIN_MS = 45 * 60_000;
const STRONGER = 3;
/** Water thin enough that a drop of storage solution shows, the most such a drop adds, and what begins a new round. */
const THIN_US_CM = 150;
const FROM_CAP_US_CM = 3000;
const ROUND_MS = 2 * 3_600_000;
/** With the rinse left out, a smaller excess already tells: standard deviations. */
const SKIPPED_LIMIT = 2.5;

/**
 * Carry-over: water of few salts reads too high right after the same instrument was in something much stronger, or
 * came out of its storage solution. The value then lies between what is expected here and what was there.
 */
export const carryOver: Check = {
	code: 'carry-over',
	title: 'Nothing carried over from the sample before',
	run(s): Finding | null {
		if (s.quantity !== 'ec' || s.missed <= 0 || !s.prediction) return null;
		const expected = fromWorking('ec', s.prediction.level);
		const unrinsed = s.reading.skipped?.includes('rinse') === true;
		const { before } = s;
		if (unrinsed && s.missed > SKIPPED_LIMIT)
			return {
				check: 'carry-over',
				flag: 3,
				cause: 'carry-over',
				suggested: null,
				said: {
					code: 'carry-over-unrinsed',
					value: s.reading.value,
					expected,
					from:
						before && before.station !== s.reading.station && s.reading.at - before.at < WITHIN_MS
							? before.station
							: null,
				},
				evidence: { expected_us_cm: Math.round(expected), skipped: 'rinse' },
				weight: 102,
			};
		if (!unexpected(s)) return null;
		// A combined meter's first dip of the round comes out of the storage cap.
		const combined = s.mates.some((m) => m.quantity === 'ph' && m.reading.instrument === s.reading.instrument);
		if (
			combined &&
			expected < THIN_US_CM &&
			(!before || s.reading.at - before.at > ROUND_MS) &&
			s.reading.value - expected < FROM_CAP_US_CM
		)
			return {
				check: 'carry-over',
				flag: 3,
				cause: 'carry-over',
				suggested: null,
				said: { code: 'carry-over-from-cap', value: s.reading.value, expected },
				evidence: { expected_us_cm: Math.round(expected), before: 'storage' },
				weight: 97,
			};
		if (!before) return null;
		if (s.reading.at - before.at > WITHIN_MS || before.station === s.reading.station) return null;
		if (before.ecUsCm < STRONGER * expected || s.reading.value <= expected || s.reading.value >= before.ecUsCm)
			return null;
		return {
			check: 'carry-over',
			flag: 3,
			cause: 'carry-over',
			suggested: null,
			said: { code: 'carry-over', value: s.reading.value, expected, before: before.ecUsCm },
			evidence: {
				expected_us_cm: Math.round(expected),
				before_us_cm: Math.round(before.ecUsCm),
				before_station: before.station,
			},
			weight: 101,
		};
	},
};
