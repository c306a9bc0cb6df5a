import { formatTime } from '@/core/quantity/time';
import type { DoseAdviceView, PastDoseView } from '@/service/dose';
import { doseWords, REBOUND_ENDS } from '@/words/en/dosing';
import type { DoseAnswer } from './contract-dose';

const past = (d: PastDoseView) => ({
	time: formatTime(d.at),
	ml: d.ml,
	ph_before: d.phBefore,
	ph_after: d.phAfter,
	answered: d.answered,
	other_water: d.otherWater,
	jug: d.jug,
	litres: d.litres,
});

/** pH that climbs by less than this by itself is not worth a plan against it. */
const CLIMBS = 0.3;

export function doseToWire(v: DoseAdviceView): DoseAnswer {
	const a = v.advice;
	const said = a.do === 'dose' ? a.said : [a.said];
	const climbs = a.do === 'dose' && a.rebound.later.some((l) => l.ph - a.predictedPh > CLIMBS);
	return {
		do: a.do,
		code: said[0]!.code,
		message: said.map(doseWords).join(' '),
		ph: v.ph,
		ph_time: v.phAt === null ? null : formatTime(v.phAt),
		volume_l: v.volumeL,
		strength_meq_per_ml: v.strengthMeqMl,
		changed_factor: v.changed,
		past: v.past.map(past),
		same_start: v.sameStart && {
			time: formatTime(v.sameStart.at),
			ml: v.sameStart.ml,
			ph_after: v.sameStart.phAfter,
		},
		curve: v.curve.map((c) => ({ ml_per_l: c.mlPerL, ph: c.ph, low_ph: c.low, high_ph: c.high })),
		...(a.do === 'wait' ? { wait_minutes: a.minutes } : {}),
		...(a.do === 'dose'
			? {
					wait_minutes: a.waitMinutes,
					meq_per_l: a.meqL,
					ml: a.ml,
					ml_to_target: a.mlToTarget,
					predicted_ph: a.predictedPh,
					low_ph: a.low,
					high_ph: a.high,
					part: a.part,
					alkalinity_left_meq_l: {
						value: a.rebound.alkalinityLeft.meqL,
						low: a.rebound.alkalinityLeft.low,
						high: a.rebound.alkalinityLeft.high,
					},
					rebound: v.later.map((l, i) => {
						const r = a.rebound.later[i]!;
						return { time: formatTime(l.at), when: l.when, ph: r.ph, low_ph: r.low, high_ph: r.high };
					}),
					...(climbs ? { rebound_ends: REBOUND_ENDS } : {}),
				}
			: {}),
	};
}
