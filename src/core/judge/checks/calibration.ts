import type { Check } from './check';

const DAY = 86_400_000;
/** Overdue is twice the interval: a few days late widens the smear, it does not spoil the reading. */
const TIMES = 2;
/** Away from the temperature of the calibration by more than this, slope and buffers are no longer the same (common practice). */
const FAR_C = { ph: 10, ec: 15 } as const;

/** Calibration: the probe failed its last one, is long overdue, or is used far from the temperature of the standards. */
export const calibration: Check = {
	code: 'calibration',
	title: 'A probe that was checked lately and passed',
	run({ probe, reading, quantity, mates }) {
		if (probe === null || (quantity !== 'ph' && quantity !== 'ec')) return null;
		const finding = (
			cause: string,
			message: string,
			nextStep: string,
			weight: number,
			evidence: Record<string, number>,
		) => ({ check: 'calibration', flag: 3 as const, cause, suggested: null, message, nextStep, evidence, weight });
		const days = (reading.at - probe.at) / DAY;
		if (probe.verdict === 'fail')
			return finding(
				'calibration-failed',
				'This probe failed its last calibration.',
				'Clean and rehydrate it and calibrate again, or use another one.',
				35,
				{ days: Math.round(days) },
			);
		if (days > TIMES * probe.intervalDays)
			return finding(
				'calibration-overdue',
				`This probe was last in a standard ${Math.round(days)} days ago; it wants one every ${Math.round(probe.intervalDays)}.`,
				'Dip it in one standard before trusting the last digit.',
				20,
				{ days: Math.round(days), interval_days: probe.intervalDays },
			);
		const tempC = reading.tempC ?? mates.find((m) => m.quantity === 'temp')?.reading.value ?? null;
		if (tempC !== null && probe.tempC !== null && Math.abs(tempC - probe.tempC) > FAR_C[quantity])
			return finding(
				'temperature-far',
				`This water has ${tempC} °C; the probe was calibrated at ${probe.tempC} °C.`,
				'Let sample and standard come to the same temperature, or calibrate at this one.',
				15,
				{ temp_c: tempC, calibrated_at_c: probe.tempC },
			);
		return null;
	},
};
