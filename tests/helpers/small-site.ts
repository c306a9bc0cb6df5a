import type { JudgeContext } from '@/core/judge/context';
import { Engine } from '@/core/judge/engine';
import { type Quantity, toCanonical, type Unit } from '@/core/quantity';
import type { InstrumentInfo, Reading, StationInfo } from '@/core/reading/model';

/** A small site for the tests of the checks: a pond and an RO tap with twelve mornings behind them. */
export const DAY = 86_400_000;
export const MINUTE = 60_000;
export const START = Date.UTC(2026, 2, 1, 7);

export const stationOf = (code: string, kind: StationInfo['kind'] = 'reservoir'): [string, StationInfo] => [
	code,
	{ code, kind, system: null, volumeL: 600, ranges: {} },
];
export const pen = (code: string, more: Partial<InstrumentInfo> = {}): [string, InstrumentInfo] => [
	code,
	{
		code,
		quantities: { ph: { resolution: 0.01, accuracy: 0.05 }, ec: { resolution: 1, accuracyPct: 2 } },
		ppmScale: null,
		compensates: true,
		alphaPctPerC: 2,
		continuous: false,
		...more,
	},
];
export const reading = (
	at: number,
	station: string,
	quantity: Quantity,
	digits: string,
	unit: Unit,
	more: Partial<Reading> = {},
): Reading => ({
	at,
	station,
	instrument: 'plum',
	quantity,
	unit,
	digits,
	value: toCanonical(Number(digits), unit),
	halfWidth: 0,
	tempC: null,
	waitS: null,
	...more,
});

/** Twelve mornings: RO at 24–27 µS/cm, a pond at pH 5.9 and 1800 µS/cm. */
export function practised(site: Partial<JudgeContext> = {}): Engine {
	const e = new Engine(
		{
			stations: new Map([stationOf('pond', 'reservoir'), stationOf('ro', 'source')]),
			instruments: new Map([
				pen('plum'),
				pen('brass'),
				pen('old', { compensates: false }),
				pen('post', { continuous: true }),
			]),
			...site,
		},
		() => START + 400 * DAY,
	);
	for (let d = 0; d < 12; d++) {
		e.take([reading(START + d * DAY, 'ro', 'ec', String(24 + (d % 4)), 'uS/cm')]);
		e.take([
			reading(START + d * DAY + 30 * MINUTE, 'pond', 'ph', (5.88 + (d % 4) / 50).toFixed(2), 'pH'),
			reading(START + d * DAY + 30 * MINUTE, 'pond', 'ec', String(1790 + (d % 4) * 10), 'uS/cm'),
		]);
	}
	return e;
}
/** The morning after. */
export const NEXT = START + 12 * DAY;
