import { z } from 'zod';
import { HIGHEST_M, LOWEST_M } from '../core/chem/oxygen';
import { isZone } from '../core/quantity/time';
import { type InstrumentInfo, STATION_KINDS, type StationInfo } from '../core/reading/model';

/** The checker's CONFIG.json; every part is optional (docs/formats.md, section 4). */
const range = z.tuple([z.number(), z.number()]).refine(([low, high]) => low < high, 'the lower end comes first');

/** Metres above the sea. */
const altitude = z.number().min(LOWEST_M).max(HIGHEST_M);

const stationConfig = z.object({
	kind: z.enum(STATION_KINDS).optional(),
	system: z.string().nullish(),
	volume_l: z.number().positive().nullish(),
	range: z.record(z.string(), range).optional(),
});

const instrumentConfig = z.object({
	quantities: z
		.record(
			z.string(),
			z.object({
				resolution: z.number().positive().optional(),
				accuracy: z.number().nonnegative().optional(),
				accuracy_pct: z.number().nonnegative().optional(),
			}),
		)
		.optional(),
	ppm_scale: z.union([z.literal(500), z.literal(640), z.literal(700)]).nullish(),
	compensates: z.boolean().optional(),
	alpha_pct_per_c: z.number().min(0).max(3).optional(),
	continuous: z.boolean().optional(),
	calibrate_days: z.number().positive().max(3650).optional(),
});

export const checkConfig = z.object({
	sensitivity: z.enum(['calm', 'usual', 'keen']).optional(),
	altitude_m: altitude.optional(),
	timezone: z.string().refine(isZone, 'is not a time zone such as Europe/Amsterdam').optional(),
	stations: z.record(z.string(), stationConfig).optional(),
	instruments: z.record(z.string(), instrumentConfig).optional(),
});
export type CheckConfig = z.infer<typeof checkConfig>;

export function stationsOf(config: CheckConfig): Map<string, StationInfo> {
	return new Map(
		Object.entries(config.stations ?? {}).map(([code, s]) => [
			code,
			{
				code,
				kind: s.kind ?? 'reservoir',
				system: s.system ?? null,
				volumeL: s.volume_l ?? null,
				ranges: Object.fromEntries(Object.entries(s.range ?? {}).map(([q, [low, high]]) => [q, { low, high }])),
			},
		]),
	);
}

export function instrumentsOf(config: CheckConfig): Map<string, InstrumentInfo> {
	return new Map(
		Object.entries(config.instruments ?? {}).map(([code, i]) => [
			code,
			{
				code,
				quantities: Object.fromEntries(
					Object.entries(i.quantities ?? {}).map(([q, d]) => [
						q,
						{ resolution: d.resolution, accuracy: d.accuracy, accuracyPct: d.accuracy_pct },
					]),
				),
				ppmScale: i.ppm_scale ?? null,
				compensates: i.compensates ?? true,
				alphaPctPerC: i.alpha_pct_per_c ?? 2,
				continuous: i.continuous ?? false,
			},
		]),
	);
}
