import { fromTable, STANDARDS } from '../../probe/standards';
import type { FindingSaid } from '../said';
import { fromWorking } from '../working-scale';
import { type Check, type Subject, unexpected } from './check';

/** EC below this share of the expectation, and below this, is a probe out of the water. */
const AIR_SHARE = 0.08;
const AIR_US_CM = 60;
/** Less than this a water may have by itself. */
const WET_US_CM = 300;
/** The buffers that probes stand in, storage solution being as acid as the first; and how near and how far off is telling: pH. */
const BUFFERS = STANDARDS.filter((s) => s.quantity === 'ph').flatMap(({ table }) => {
	const at25 = fromTable(table, 25);
	return at25.ok ? [at25.value] : [];
});
const NEAR_PH = 0.12;
const FAR_PH = 0.8;
/** Potassium chloride in a storage cap conducts far more than any feed. */
const STORAGE_US_CM = 20_000;

/**
 * What a jump of a continuous sensor is: out of the water, in its storage cap, still mixing after something was added,
 * or a spike. A sensor makes no typing slips, so those are not asked of it.
 */
export const sensor: Check = {
	code: 'sensor',
	title: 'A sensor moves as water can',
	run(s) {
		if (!s.continuous) return null;
		if (s.quantity === 'ec') {
			const expected = s.prediction ? fromWorking('ec', s.prediction.level) : null;
			if (isInAir(s)) return finding(s, 4, { code: 'probe-in-air', seen: 'conductivity' }, 110);
			if (s.reading.value > STORAGE_US_CM && (expected === null || expected < STORAGE_US_CM / 3))
				return finding(s, 4, { code: 'probe-in-storage', seen: 'conductivity' }, 110);
		}
		// A probe that one channel shows out of the water is out of it with all, whatever they show.
		if (s.quantity === 'ph' && s.mates.some((m) => m.reading.instrument === s.reading.instrument && isInAir(m)))
			return finding(s, 4, { code: 'probe-in-air', seen: 'beside' }, 110);
		if (!unexpected(s)) return null;
		// What the conductivity beside it shows explains the pH too.
		if (s.mates.some((m) => m.quantity === 'ec' && m.reading.value > STORAGE_US_CM))
			return finding(s, 4, { code: 'probe-in-storage', seen: 'beside' }, 110);
		if (s.mates.some(isInAir)) return finding(s, 4, { code: 'probe-in-air', seen: 'beside' }, 110);
		if (isInBuffer(s)) return finding(s, 4, { code: 'probe-in-storage', seen: 'buffer' }, 109);
		if (s.mixing) return finding(s, 2, { code: 'mixing' }, 106);
		return finding(
			s,
			3,
			{
				code: 'spike',
				quantity: s.quantity,
				value: s.reading.value,
				expected: fromWorking(s.quantity, s.prediction!.level),
			},
			106,
		);
	},
};

/** Far less than any water here conducts. */
function isInAir(s: Subject): boolean {
	if (s.quantity !== 'ec' || s.prediction === null) return false;
	const expected = fromWorking('ec', s.prediction.level);
	return expected > WET_US_CM && s.reading.value < Math.max(AIR_SHARE * expected, AIR_US_CM);
}

/** Far off, and at what buffers and storage solutions have, while the conductivity shows water as usual. */
function isInBuffer(s: Subject): boolean {
	// One value may be a spike that happens to lie there; a second says it.
	if (s.quantity !== 'ph' || s.mixing || s.prediction === null || s.agreeing === null) return false;
	if (Math.abs(s.reading.value - s.prediction.level) < FAR_PH) return false;
	if (!BUFFERS.some((b) => Math.abs(s.reading.value - b) <= NEAR_PH)) return false;
	const own = s.mates.filter((m) => m.quantity === 'ec' && m.reading.instrument === s.reading.instrument);
	return own.every((m) => !unexpected(m));
}

function finding(s: Subject, flag: 2 | 3 | 4, said: FindingSaid, weight: number) {
	return {
		check: 'sensor',
		flag,
		cause: said.code,
		suggested: null,
		said,
		evidence: { missed_sd: Math.round(s.missed * 10) / 10, value: s.reading.value },
		weight,
	};
}
