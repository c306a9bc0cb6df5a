import type { ProbeCalibration, ProbeJump } from '@/core/probe/error-curve/visit';
import { provisionalCalibrations } from '@/core/probe/provisional';
import { THRESHOLDS } from '@/core/probe/timeline';
import { ppmScaleOf, ppmUnit, toCanonical, type Unit } from '@/core/quantity';
import type { InstrumentInfo } from '@/core/reading/model';
import {
	type CalibrationRow,
	type LotRow,
	listCalibrations,
	listLots,
	listProbeEvents,
	listProbes,
	type ProbeEventRow,
	type ProbeRow,
} from '@/store/calibrations';
import { type Db, homeOf } from '@/store/pool';
import type { SiteContext } from './site';

/** What was found of the probes of a site, as the error curve takes it. */

/** Tolerance of a bottle where nobody typed it (common practice): ±0.02 pH, ±1 %. */
const BOTTLE = { ph: 0.02, ecPct: 1 } as const;
/** Calibrations that wait for a second bottle: two meters erred alike in one. */
export const provisionalOf = (all: readonly CalibrationRow[]): Set<number> =>
	provisionalCalibrations(
		all.flatMap((c) =>
			c.points.flatMap((p) =>
				p.asFound === null
					? []
					: [
							{
								calibration: c.id,
								instrument: c.instrument,
								quantity: c.quantity,
								at: c.at,
								lot: p.lot,
								error: c.quantity === 'ph' ? p.asFound - p.nominal : (100 * (p.asFound - p.nominal)) / p.nominal,
							},
						],
			),
		),
		{ ph: THRESHOLDS.ph.leaveAlone, ec: THRESHOLDS.ec.leaveAlone },
	);

export function timelineCalibrations(
	rows: readonly CalibrationRow[],
	all: readonly CalibrationRow[],
	lots: readonly LotRow[],
): ProbeCalibration[] {
	const provisional = provisionalOf(all);
	return rows.map((c) => ({
		id: c.id,
		at: c.at,
		kind: c.kind,
		provisional: provisional.has(c.id),
		points: c.points.map((p) => {
			const tolerance =
				lots.find((l) => l.name === p.lot)?.tolerance ??
				(c.quantity === 'ph' ? BOTTLE.ph : (BOTTLE.ecPct / 100) * p.nominal);
			return { nominal: p.nominal, asFound: p.asFound, asLeft: p.asLeft, u: tolerance / Math.sqrt(3) };
		}),
	}));
}

export const timelineJumps = (events: readonly ProbeEventRow[], quantity: 'ph' | 'ec'): ProbeJump[] =>
	events
		.filter((e) => e.quantity === quantity)
		.map((e) => ({ at: e.at, kind: e.kind, before: e.before, after: e.after }));

/** Re-reads a ppm of a meter whose scale is known better now. */
export function onScale(value: number, unit: Unit, instrument: Pick<InstrumentInfo, 'ppmScale'> | undefined): number {
	const scale = ppmScaleOf(unit);
	const known = instrument?.ppmScale ?? null;
	if (scale === undefined || known === null || known === scale) return value;
	return toCanonical(value * (scale / 1000), ppmUnit(known));
}

/** Everything that was found of the probes of a site. */
export interface ProbeRecord {
	/** Those that were not withdrawn, oldest first. */
	calibrations: CalibrationRow[];
	events: ProbeEventRow[];
	lots: LotRow[];
	probes: ProbeRow[];
}
/** What was read of each database last, by the version that the site names. */
const records = new WeakMap<object, { version: number; record: ProbeRecord }>();

/** The record of the probes as the request found it; what it stored itself since is not in it. */
export async function probeRecord(db: Db, { site }: SiteContext): Promise<ProbeRecord> {
	const kept = records.get(homeOf(db));
	if (kept?.version === site.probeVersion) return kept.record;
	const record = await freshRecord(db, site.id);
	records.set(homeOf(db), { version: site.probeVersion, record });
	return record;
}
export const freshRecord = async (db: Db, siteId: number): Promise<ProbeRecord> => ({
	calibrations: await listCalibrations(db, siteId),
	events: await listProbeEvents(db, siteId),
	lots: await listLots(db, siteId),
	probes: await listProbes(db, siteId),
});
