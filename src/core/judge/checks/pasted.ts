import type { Check, Subject } from './check';

const DAY = 86_400_000;
const MINUTE = 60_000;
/** Whether such days come by chance: of so many digits, and of the minute, one in so many is the same (common practice, no source). */
const ONE_IN = { 2: 5, 3: 20, 4: 100, minute: 100 } as const;
/** Less likely than this is no chance. */
const CHANCE = 2e-4;
const QUANTITIES = 2;

/** Pasted: the same digits of several quantities at the same minute of the day as some days before, where neither the digits nor the minute are what is usual here. */
export const pasted: Check = {
	code: 'pasted',
	title: 'Measured on its own day',
	run(s) {
		if (s.continuous || s.written.length === 0) return null;
		for (const { at, value } of s.written) {
			if (value !== s.reading.value || !sameMinute(at, s.reading.at)) continue;
			const sample = [s, ...s.mates.filter((m) => m.reading.instrument === s.reading.instrument)];
			const alike = sample.filter((m) => m.written.some((w) => w.at === at && w.value === m.reading.value));
			const quantities = new Set(alike.map((m) => m.reading.quantity)).size;
			const days = s.written.filter((w) => w.at !== at);
			const minute = share(days.filter((w) => sameMinute(w.at, s.reading.at)).length, days.length, ONE_IN.minute);
			const chance = alike.reduce((p, m) => p * byChance(m, at), s.written.length * minute);
			if (quantities < QUANTITIES || chance > CHANCE) continue;
			const ago = Math.round((s.reading.at - at) / DAY);
			return {
				check: 'pasted',
				flag: 3,
				cause: 'pasted',
				suggested: null,
				said: { code: 'pasted', days: ago },
				evidence: { days: ago, values_alike: quantities },
				weight: 57,
			};
		}
		return null;
	},
};

/** How often a value is met here: as it was, and never less than its digits allow. */
function byChance({ reading, written }: Subject, at: number): number {
	const others = written.filter((w) => w.at !== at);
	const digits = reading.digits.replace(/[.,-]/g, '').replace(/^0+/, '').length;
	const oneIn = digits < 2 ? 1 : ONE_IN[Math.min(digits, 4) as 2 | 3 | 4];
	return share(others.filter((w) => w.value === reading.value).length, others.length, oneIn);
}
const share = (same: number, of: number, oneIn: number): number => Math.max(of === 0 ? 0 : same / of, 1 / oneIn);
const sameMinute = (a: number, b: number): boolean => {
	const apart = Math.abs(b - a) % DAY;
	return Math.abs(b - a) > 0.5 * DAY && Math.min(apart, DAY - apart) < MINUTE;
};
