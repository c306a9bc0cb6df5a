import { instrumentAt } from '../reading/instrument-at';
import type { InstrumentInfo, ProbeState, StationInfo } from '../reading/model';
import { stationAt } from '../reading/station-at';
import type { Waits } from './waits';

/**
 * What a judgement needs to know beside the reading itself and what the station showed before. Assembled in one place for
 * everything that is stored (service/judging), and by the headless checker from files.
 */
export interface JudgeContext {
	stations: ReadonlyMap<string, StationInfo>;
	instruments: ReadonlyMap<string, InstrumentInfo>;
	/** Multiplies every limit: 1 as usual, more asks less often (see SENSITIVITY). */
	tolerance?: number | undefined;
	/** By whose calendar people write dates; UTC where nobody says. */
	zone?: string | undefined;
	waits?: Waits | undefined;
	/** How its calibrations had left a probe at a time, as far as they were known then. */
	probe?: ((instrument: string, quantity: 'ph' | 'ec', at: number) => ProbeState | null) | undefined;
}

/** How readily the checks ask, by what a grower chooses: the factor on every limit. */
export const SENSITIVITY = { calm: 1.3, usual: 1, keen: 0.8 } as const;
export type Sensitivity = keyof typeof SENSITIVITY;

/**
 * A station as it was set up at a time (ms since 1970, UTC); one that nobody has set up is taken for a reservoir without target ranges.
 * @example stationThen({ stations: new Map(), instruments: new Map() }, 'pond', 0).kind // 'reservoir'
 */
export function stationThen(site: Pick<JudgeContext, 'stations'>, code: string, at: number): StationInfo {
	const station = site.stations.get(code);
	return station ? stationAt(station, at) : unknownStation(code);
}

/**
 * An instrument as it was set up at a time (ms since 1970, UTC); undefined for one that nobody has set up.
 * @example instrumentThen({ stations: new Map(), instruments: new Map() }, 'plum', 0) // undefined
 */
export function instrumentThen(
	site: Pick<JudgeContext, 'instruments'>,
	code: string,
	at: number,
): InstrumentInfo | undefined {
	const instrument = site.instruments.get(code);
	return instrument?.before ? instrumentAt(instrument, at) : instrument;
}

const unknownStation = (code: string): StationInfo => ({
	code,
	kind: 'reservoir',
	system: null,
	volumeL: null,
	ranges: {},
});
