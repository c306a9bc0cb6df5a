import type { ShownReading } from '@/contract/readings';
import { QUANTITY } from '@/core/quantity';
import type { Verdict } from '@/core/reading/model';
import { permits } from '@/core/trust/trust';
import type { JudgedReading } from '@/store/readings';
import type { SeriesRow } from '@/store/series';
import { findingWords } from '@/words/en/finding';

/** A reading that no check has looked at counts as one that was not evaluated (IOC flag 2). */
const NOT_EVALUATED = 2;

/** A stored reading as people and scripts are shown it. */
export const shownReading = (r: JudgedReading): ShownReading => ({
	...r,
	...findingWords(r.said),
	flag: (r.flag ?? NOT_EVALUATED) as ShownReading['flag'],
	canonicalUnit: QUANTITY[r.quantity].canonical,
	restatedProvisional: r.restatedProvisional ?? false,
	restatedPartial: r.restatedPartial ?? false,
	uncertaintyParts:
		r.uInstrument === null ? null : { instrument: r.uInstrument, standards: r.uStandards ?? 0, drift: r.uDrift ?? 0 },
});

/** A verdict in the words of its deciding finding. */
export const shownVerdict = (v: Verdict) => ({
	flag: v.flag,
	check: v.deciding?.check ?? '',
	cause: v.deciding?.cause ?? '',
	suggested: v.deciding?.suggested ?? null,
	...findingWords(v.deciding?.said),
});

/** A point of a chart, with what was found of it in words. */
export const shownPoint = ({ said, ...point }: SeriesRow) => ({
	...point,
	believed: permits({ flag: point.flag, decision: point.decision }, 'history') ? 1 : 0,
	message: findingWords(said).message,
});
