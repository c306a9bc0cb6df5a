import type { FindingSaid } from '../said';
import type { Check } from './check';

const DAY = 86_400_000;
/** Overdue is twice the interval: a few days late widens the smear, it does not spoil the reading. */
const TIMES = 2;

/** Calibration: the probe failed its last one, or is long overdue. */
export const calibration: Check = {
	code: 'calibration',
	title: 'A probe that was checked lately and passed',
	run({ probe, reading, quantity }) {
		if (probe === null || (quantity !== 'ph' && quantity !== 'ec')) return null;
		const finding = (said: FindingSaid, weight: number, evidence: Record<string, number>) => ({
			check: 'calibration',
			flag: 3 as const,
			cause: said.code,
			suggested: null,
			said,
			evidence,
			weight,
		});
		const days = (reading.at - probe.at) / DAY;
		if (probe.verdict === 'fail') return finding({ code: 'calibration-failed' }, 35, { days: Math.round(days) });
		if (days > TIMES * probe.intervalDays)
			return finding({ code: 'calibration-overdue', days, intervalDays: probe.intervalDays }, 20, {
				days: Math.round(days),
				interval_days: probe.intervalDays,
			});
		return null;
	},
};
