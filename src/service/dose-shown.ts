import type { AdviceShown } from '@/contract/doses';
import { doseWords, REBOUND_ENDS } from '@/words/en/dosing';
import type { DoseAdviceView } from './dose';

/** pH that climbs by less than this by itself is not worth a plan against it. */
const CLIMBS = 0.3;

/** Advice as people and scripts are shown it. */
export function shownAdvice(v: DoseAdviceView): AdviceShown {
	const a = v.advice;
	const said = a.do === 'dose' ? a.said : [a.said];
	const shown = {
		...v,
		do: a.do,
		code: said[0]!.code,
		message: said.map(doseWords).join(' '),
	};
	if (a.do === 'wait') return { ...shown, waitMinutes: a.minutes };
	if (a.do !== 'dose') return shown;
	const climbs = a.rebound.later.some((l) => l.ph - a.predictedPh > CLIMBS);
	return {
		...shown,
		...a,
		alkalinityLeft: a.rebound.alkalinityLeft,
		rebound: v.later.map((l, i) => {
			const { ph, low, high } = a.rebound.later[i]!;
			return { ...l, ph, lowPh: low, highPh: high };
		}),
		...(climbs ? { reboundEnds: REBOUND_ENDS } : {}),
	};
}
