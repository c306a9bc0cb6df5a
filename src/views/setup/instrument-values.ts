import type { Instrument } from '@/contract/site';
import { readNumber, showNumber } from './numbers';

const LEAFLET = [
	['phSteps', 'ph', 'resolution'],
	['phRight', 'ph', 'accuracy'],
	['ecSteps', 'ec', 'resolution'],
	['ecRight', 'ec', 'accuracyPct'],
] as const;

/** The fields of an instrument's form, as they are typed. */
export const instrumentValues = (i: Instrument) => ({
	name: i.name ?? i.code,
	kind: i.kind as string,
	ppm_scale: showNumber(i.ppm_scale),
	compensates: i.compensates ?? true,
	phSteps: showNumber(i.quantities?.ph?.resolution),
	phRight: showNumber(i.quantities?.ph?.accuracy),
	ecSteps: showNumber(i.quantities?.ec?.resolution),
	ecRight: showNumber(i.quantities?.ec?.accuracyPct),
	alpha: showNumber(i.alpha_pct_per_c ?? 2),
	calibrate_by: i.calibrate_by ?? 'learned',
	maker_days: showNumber(i.maker_days),
	remembers: showNumber(i.remembers_points ?? 2),
	shows_mv: i.shows_mv ?? false,
	live: i.live ?? 'none',
	locks: i.locks ?? false,
});
export type InstrumentValues = ReturnType<typeof instrumentValues>;

/** Where what is sent stands in the form, where it is not called the same. */
export const INSTRUMENT_FIELDS = {
	alpha_pct_per_c: 'alpha',
	remembers_points: 'remembers',
	'quantities.ph.resolution': 'phSteps',
	'quantities.ph.accuracy': 'phRight',
	'quantities.ec.resolution': 'ecSteps',
	'quantities.ec.accuracyPct': 'ecRight',
} as const;

/** The instrument as its checked form says it; what the form does not show stays. */
export function readInstrument(i: Instrument, v: InstrumentValues): Instrument {
	const quantities = { ...i.quantities };
	for (const [field, quantity, key] of LEAFLET) {
		const { [key]: _, ...others } = quantities[quantity] ?? {};
		const value = readNumber(v[field]);
		if (value !== null) quantities[quantity] = { ...others, [key]: value };
		else if (quantities[quantity]) quantities[quantity] = others;
	}
	return {
		...i,
		name: v.name.trim() || i.name || i.code,
		kind: v.kind as Instrument['kind'],
		ppm_scale: v.ppm_scale === '' ? null : (Number(v.ppm_scale) as 500),
		compensates: v.compensates,
		...(Object.keys(quantities).length > 0 && { quantities }),
		alpha_pct_per_c: readNumber(v.alpha) ?? 2,
		calibrate_by: v.calibrate_by,
		maker_days: readNumber(v.maker_days),
		remembers_points: Number(v.remembers),
		shows_mv: v.shows_mv,
		live: v.live,
		locks: v.locks,
	};
}
