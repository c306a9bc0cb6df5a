import type { StationInfo } from './model';

/**
 * A station as it was set up at a time (ms since 1970, UTC): what was changed since is as it was then. Beyond the last change, and where
 * nothing was ever changed, it is as it is.
 * @example stationAt({ code: 'pond', kind: 'reservoir', system: null, volumeL: 80, ranges: {}, before: [{ until: 1000, kind: 'mix', system: null, volumeL: 60, ranges: {} }] }, 999).volumeL // 60
 */
export function stationAt(station: StationInfo, at: number): StationInfo {
	const then = station.before?.find((v) => at < v.until);
	if (!then) return station;
	const { until: _, ...was } = then;
	return { ...station, ...was };
}
