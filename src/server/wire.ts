import { QUANTITY } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import type { EventRecord } from '@/store/events';
import type { InstrumentRow, StationRow, SystemRow } from '@/store/line';
import type { JudgedReading } from '@/store/readings';
import type { InstrumentBody, StationBody, StoredReading } from './contract';

/** From rows to what goes over the wire. */
export const readingToWire = (r: JudgedReading): StoredReading => ({
	id: r.id,
	sample_id: r.sampleId,
	time: formatTime(r.at),
	station: r.station,
	instrument: r.instrument,
	quantity: r.quantity,
	value: r.digits,
	unit: r.unitText,
	canonical_value: r.value,
	canonical_unit: QUANTITY[r.quantity].canonical,
	uncertainty: r.u,
	temp_c: r.tempC,
	wait_s: r.waitS,
	note: r.note,
	flag: (r.flag ?? 2) as StoredReading['flag'],
	check: r.check,
	cause: r.cause,
	suggested: r.suggested,
	message: r.message,
	next_step: r.nextStep,
	decision: r.decision,
	reason: r.reason,
	supersedes: r.supersedes,
	superseded: r.superseded,
	restated: r.restated,
	restated_status: r.restatedStatus,
	restated_provisional: r.restatedProvisional ?? false,
	restated_partial: r.restatedPartial ?? false,
	from_calibration: r.fromCalibration,
	to_calibration: r.toCalibration,
	uncertainty_parts:
		r.uInstrument === null ? null : { instrument: r.uInstrument, standards: r.uStandards ?? 0, drift: r.uDrift ?? 0 },
	entered_at: formatTime(r.enteredAt),
	entered_by: r.enteredBy,
});

export const eventToWire = (e: EventRecord) => ({
	id: e.id,
	time: formatTime(e.at),
	station: e.station,
	kind: e.kind,
	amount: e.amount,
	unit: e.unitText,
	product: e.product,
	note: e.note,
});

export const stationToWire = (s: StationRow) => ({
	code: s.code,
	name: s.name,
	kind: s.kind,
	system: s.system,
	position: s.position,
	fed_by: s.fedBy,
	volume_l: s.volumeL,
	ranges: s.ranges,
	note: s.note,
	protocol: s.protocol,
	rhythm: s.rhythm,
	aeration: s.aeration,
	mix_minutes: s.mixMinutes,
	least_ph: s.leastPh,
	most_ph: s.mostPh,
});

export const stationFromWire = (
	b: StationBody,
	before: StationRow | undefined,
	lastPosition: number,
): Omit<StationRow, 'id'> => ({
	code: b.code,
	name: b.name ?? before?.name ?? b.code,
	kind: b.kind,
	system: b.system === undefined ? (before?.system ?? null) : b.system,
	position: b.position ?? before?.position ?? lastPosition + 1,
	fedBy: b.fed_by ?? before?.fedBy ?? [],
	volumeL: b.volume_l === undefined ? (before?.volumeL ?? null) : b.volume_l,
	ranges: b.ranges ?? before?.ranges ?? {},
	note: b.note ?? before?.note ?? '',
	protocol: b.protocol === undefined ? (before?.protocol ?? null) : b.protocol,
	rhythm: b.rhythm === undefined ? (before?.rhythm ?? null) : b.rhythm,
	aeration: b.aeration === undefined ? (before?.aeration ?? null) : b.aeration,
	mixMinutes: b.mix_minutes === undefined ? (before?.mixMinutes ?? null) : b.mix_minutes,
	leastPh: b.least_ph === undefined ? (before?.leastPh ?? null) : b.least_ph,
	mostPh: b.most_ph === undefined ? (before?.mostPh ?? null) : b.most_ph,
});

export const instrumentToWire = (i: InstrumentRow) => ({
	code: i.code,
	name: i.name,
	kind: i.kind,
	quantities: i.quantities,
	ppm_scale: i.ppmScale,
	compensates: i.compensates,
	alpha_pct_per_c: i.alphaPct,
	continuous: i.continuous,
	calibrate_by: i.calibrateBy,
	maker_days: i.makerDays,
	remembers_points: i.remembersPoints,
	shows_mv: i.showsMv,
	locks: i.locks,
	live: (i.details.live === 'simulated' ? 'simulated' : 'none') as 'none' | 'simulated',
	printed_ph: (i.details.printed as number[] | undefined) ?? null,
});

export const instrumentFromWire = (
	b: InstrumentBody,
	before: InstrumentRow | undefined,
): Omit<InstrumentRow, 'id'> => ({
	code: b.code,
	name: b.name ?? before?.name ?? b.code,
	kind: b.kind,
	quantities: b.quantities ?? before?.quantities ?? {},
	ppmScale: b.ppm_scale === undefined ? (before?.ppmScale ?? null) : b.ppm_scale,
	compensates: b.compensates ?? before?.compensates ?? true,
	alphaPct: b.alpha_pct_per_c ?? before?.alphaPct ?? 2,
	continuous: b.continuous ?? before?.continuous ?? false,
	details: {
		...before?.details,
		...(b.live ? { live: b.live } : {}),
		...(b.printed_ph ? { printed: b.printed_ph } : {}),
	},
	calibrateBy: b.calibrate_by ?? before?.calibrateBy ?? 'learned',
	makerDays: b.maker_days === undefined ? (before?.makerDays ?? null) : b.maker_days,
	remembersPoints: b.remembers_points ?? before?.remembersPoints ?? 2,
	showsMv: b.shows_mv ?? before?.showsMv ?? false,
	locks: b.locks ?? before?.locks ?? false,
});

export const systemToWire = (s: SystemRow) => ({
	code: s.code,
	name: s.name,
	kind: s.kind,
	volume_l: s.volumeL,
	medium: s.medium,
	crop: s.crop,
	stage: s.stage,
	aeration: s.aeration,
});
