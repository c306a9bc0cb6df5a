import type { Finding } from '../reading/model';
import type { Subject } from './checks/check';
import { displayValue } from './slips';
import { fromWorking } from './working-scale';

/**
 * A sensor's value left its level with nothing logged and stayed: an addition when conductivity moved, a calibration or
 * a dose when pH moved alone. Asked for, not failed.
 */
export function newLevelFinding(s: Subject, conductivityMoved: boolean): Finding {
	const addition = conductivityMoved && s.quantity !== 'temp';
	const from = displayValue(s.quantity, fromWorking(s.quantity, s.prediction!.level));
	return {
		check: 'new-level',
		flag: 3,
		cause: addition ? 'unlogged-addition' : s.quantity === 'ph' ? 'calibration-step' : 'unexpected-change',
		suggested: null,
		message: `It went from ${from} to ${displayValue(s.quantity, s.reading.value)} and stayed, with nothing logged: ${addition ? 'something was added or changed' : s.quantity === 'ph' ? 'a calibration, or a dose' : 'the surroundings changed'}.`,
		nextStep: addition
			? 'Log what was added; the readings then count as they are.'
			: 'Log the calibration or the dose; if there was none, dip the probe in a buffer.',
		evidence: { value: s.reading.value },
		weight: 107,
	};
}
