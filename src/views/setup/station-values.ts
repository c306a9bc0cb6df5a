import type { Station } from '@/contract/site';
import { readRange, showRange } from '../ui/range';
import { readNumber, showNumber } from './numbers';

/** The fields of a station's form, as they are typed. */
export const stationValues = (s: Station) => ({
	name: s.name ?? s.code,
	kind: s.kind as string,
	system: s.system ?? '',
	volume: showNumber(s.volume_l),
	shape: s.shape ?? '',
	ph: showRange(s.ranges?.ph, 1),
	ec: showRange(s.ranges?.ec, 1000),
	fed_by: s.fed_by ?? [],
	rhythm: s.rhythm ?? null,
	protocol: s.protocol ?? null,
	aeration: s.aeration ?? '',
	mix_minutes: showNumber(s.mix_minutes),
	least_ph: showNumber(s.least_ph),
	most_ph: showNumber(s.most_ph),
});
export type StationValues = ReturnType<typeof stationValues>;

/** Where what is sent stands in the form, where it is not called the same. */
export const STATION_FIELDS = { volume_l: 'volume', 'ranges.ph': 'ph', 'ranges.ec': 'ec' } as const;

/** The station as its checked form says it; what the form does not show stays. */
export function readStation(s: Station, v: StationValues): Station {
	const { ph: _p, ec: _e, ...ranges } = s.ranges ?? {};
	const [ph, ec] = [readRange(v.ph, 1), readRange(v.ec, 1000)];
	return {
		...s,
		name: v.name.trim() || s.name || s.code,
		kind: v.kind as Station['kind'],
		system: v.system || null,
		volume_l: readNumber(v.volume),
		shape: v.shape,
		ranges: { ...ranges, ...(ph && { ph }), ...(ec && { ec }) },
		fed_by: v.fed_by,
		rhythm: v.rhythm,
		protocol: v.protocol,
		aeration: (v.aeration || null) as Station['aeration'],
		mix_minutes: readNumber(v.mix_minutes),
		least_ph: readNumber(v.least_ph),
		most_ph: readNumber(v.most_ph),
	};
}
