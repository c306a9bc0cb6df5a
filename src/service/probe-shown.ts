import type { ShownProbe, ShownProbeStory } from '@/contract/probes';
import type { Calibrated, CalibrationResult } from '@/core/probe/calibration';
import { dueWords } from '@/words/en/due';
import { findingWords } from '@/words/en/finding';
import { remarkWords } from '@/words/en/remark';
import type { ProbeStory, ProbeView } from './probes';
import { shownReading } from './reading-shown';

/** Where a trend never reaches the end, the last instant that can be written. */
const END_OF_TIME = 8e15;

const told = (r: CalibrationResult | null) =>
	r?.ok
		? { ...r.value, reasons: r.value.reasons.map(remarkWords) }
		: { verdict: null, reasons: [], offset: null, slopePct: null, cellFactor: null };

/** A probe as people and scripts are shown it: what it is, what its last calibration said, what a reading is worth today. */
export function shownProbe(v: ProbeView): ShownProbe {
	const last = told(v.lastResult);
	return {
		instrument: v.instrument.code,
		name: v.instrument.name,
		kind: v.instrument.kind,
		quantity: v.quantity,
		compensates: v.instrument.compensates,
		alphaPct: v.instrument.alphaPct,
		showsMv: v.instrument.showsMv,
		points: v.instrument.remembersPoints,
		storage: v.probe?.storage ?? null,
		inService: v.probe?.inService ?? null,
		storageRefilled: v.probe?.storageRefilled ?? null,
		renewalOverdueDays: v.renewalOverdueDays,
		serial: v.probe?.serial ?? '',
		lastAt: v.lastCalibration?.at ?? null,
		verdict: last.verdict,
		reasons: last.reasons,
		lastOffset: last.offset,
		lastSlopePct: last.slopePct,
		lastCellFactor: last.cellFactor,
		sigmaPerRootDay: v.drift.sigmaPerRootDay,
		ratePerDay: v.drift.ratePerDay,
		learnedFrom: v.drift.from,
		intervalDays: v.intervalDays,
		intervalReason: dueWords(v.intervalReason),
		dueAt: v.dueAt,
		dueReason: dueWords(v.dueReason),
		uToday: v.uToday,
		errorToday: v.today.error,
		errorU: v.today.u,
		errorTold: v.today.told,
		life: v.life.known
			? {
					nowPct: v.life.now,
					perYearPct: v.life.perYearPct,
					earliest: v.life.earliest,
					latest: v.life.latest === null ? null : Math.min(v.life.latest, END_OF_TIME),
				}
			: null,
	};
}

/** A probe's page speaks of the readings it touched in number, and shows those that turned a decision. */
export function shownOnPage(story: ProbeStory): ShownProbeStory {
	const turned = new Set(story.turned.map((t) => t.id));
	return {
		...shownStory({ ...story, touched: story.touched.filter((r) => turned.has(r.id)) }),
		touchedCount: story.touched.length,
	};
}

export const shownStory = (story: ProbeStory): ShownProbeStory => ({
	...shownProbe(story),
	calibrations: story.calibrations.map((c) => ({ ...c, ...told(c.result) })),
	events: story.events,
	curve: story.curve.map(({ at, error, u }) => ({ time: at, error, u })),
	met: story.met.map(({ at, ...m }) => ({ time: at, ...m })),
	touched: story.touched.map(shownReading),
	touchedCount: story.touched.length,
	rejected: story.rejected,
	turned: story.turned,
	note:
		story.farAtC === null
			? ''
			: Object.values(
					findingWords({
						code: 'temperature-far',
						tempC: story.farAtC,
						calibratedAtC: story.lastCalibration!.tempC!,
					}),
				).join(' '),
});

/** What a calibration came to, with its reasons in words. */
export const shownCalibration = <T extends { result: Calibrated }>(outcome: T) => ({
	...outcome,
	result: {
		...outcome.result,
		reasons: outcome.result.reasons.map((r) => ({ code: r.code, grade: r.grade, message: remarkWords(r) })),
	},
});
