import type { Finding } from '../reading/model';
import type { Subject } from './checks/check';
import { fromWorking } from './working-scale';

/**
 * A sensor's value left its level with nothing logged and stayed: an addition when conductivity moved, a calibration or
 * a dose when pH moved alone. Asked for, not failed.
 */
export function newLevelFinding(s: Subject, conductivityMoved: boolean): Finding {
	const addition = conductivityMoved && s.quantity !== 'temp';
	return {
		check: 'new-level',
		flag: 3,
		cause: addition ? 'unlogged-addition' : s.quantity === 'ph' ? 'calibration-step' : 'unexpected-change',
		suggested: null,
		said: {
			code: 'new-level',
			quantity: s.quantity,
			value: s.reading.value,
			from: fromWorking(s.quantity, s.prediction!.level),
			by: addition ? 'addition' : s.quantity === 'ph' ? 'probe' : 'surroundings',
		},
		evidence: { value: s.reading.value },
		weight: 107,
	};
}
