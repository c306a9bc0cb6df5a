import { z } from 'zod';
import type { Aeration } from '@/core/chem/degassing';
import type { Quantity } from '@/core/quantity';
import type { PerDrop } from '@/core/reading/drops';
import { STATION_KINDS, SYSTEM_KINDS } from '@/core/reading/model';
import type { LiveKind } from '@/core/reading/protocol';
import { INSTRUMENT_KINDS } from '@/core/reading/protocol';
import type { Rhythms } from '@/core/rhythm/due';
import type { Watering } from '@/core/rootzone/watering';
import type { Db } from './pool';
import { idRow, json, read } from './read';

const systemRow = z.strictObject({
	id: z.number(),
	code: z.string(),
	name: z.string(),
	kind: z.enum(SYSTEM_KINDS),
	volumeL: z.number().nullable(),
	medium: z.string(),
	crop: z.string(),
	stage: z.string(),
	/** How its water is moved; null: as its kind usually is. */
	aeration: json<Aeration>().nullable(),
	/** Drippers, bags, limits of the drain; null where nobody said. */
	watering: json<Watering>().nullable(),
	/** No longer used. */
	retired: z.boolean(),
});
export type SystemRow = z.output<typeof systemRow>;

const stationRow = z.strictObject({
	id: z.number(),
	code: z.string(),
	name: z.string(),
	kind: z.enum(STATION_KINDS),
	system: z.string().nullable(),
	position: z.number(),
	fedBy: z.array(z.string()),
	volumeL: z.number().nullable(),
	ranges: json<Partial<Record<Quantity, [number, number]>>>(),
	note: z.string(),
	/** Own steps of measuring here; null takes the usual ones. */
	protocol: z.array(z.strictObject({ code: z.string(), text: z.string() })).nullable(),
	/** How often what is measured here; null takes the usual. */
	rhythm: json<Rhythms>().nullable(),
	/** Null: as its system. */
	aeration: json<Aeration>().nullable(),
	/** Minutes that a dose wants to mix; null: the usual of its size and movement. */
	mixMinutes: z.number().nullable(),
	/** pH that acid, and base, must not pass here; null: the usual. */
	leastPh: z.number().nullable(),
	mostPh: z.number().nullable(),
	/** How a height becomes litres, as it was typed; empty: nobody said. */
	shape: z.string(),
	/** No longer used. */
	retired: z.boolean(),
});
export type StationRow = z.output<typeof stationRow>;

const instrumentRow = z.strictObject({
	id: z.number(),
	code: z.string(),
	name: z.string(),
	kind: z.enum(INSTRUMENT_KINDS),
	quantities:
		json<
			Partial<
				Record<
					Quantity,
					{ resolution?: number | undefined; accuracy?: number | undefined; accuracyPct?: number | undefined }
				>
			>
		>(),
	ppmScale: z.union([z.literal(500), z.literal(640), z.literal(700)]).nullable(),
	compensates: z.boolean(),
	alphaPct: z.number(),
	continuous: z.boolean(),
	/** How it speaks by itself. */
	live: json<LiveKind>(),
	/** Values printed on the card of a drop kit; null: the usual ones. */
	printedPh: z.array(z.number()).nullable(),
	/** What one drop stands for, of a kit that counts drops. */
	perDrop: json<Partial<Record<Quantity, PerDrop>>>().nullable(),
	calibrateBy: z.enum(['learned', 'weekly', 'before_use', 'monthly', 'maker']),
	makerDays: z.number().nullable(),
	remembersPoints: z.number(),
	showsMv: z.boolean(),
	locks: z.boolean(),
	/** No longer used. */
	retired: z.boolean(),
});
export type InstrumentRow = z.output<typeof instrumentRow>;

const SYSTEM =
	'id, code, name, kind, volume_l AS "volumeL", medium, crop, stage, aeration, watering, retired_at IS NOT NULL AS retired';

export async function listSystems(db: Db, siteId: number): Promise<SystemRow[]> {
	return read(db, systemRow, `SELECT ${SYSTEM} FROM system WHERE site_id = $1 ORDER BY id`, [siteId]);
}

/** What is taken of a system until somebody says otherwise. */
export const PLAIN_SYSTEM = {
	volumeL: null,
	medium: '',
	crop: '',
	stage: '',
	aeration: null,
	watering: null,
	retired: false,
} as const;
/** What is taken of an instrument until somebody says otherwise. */
export const PLAIN_INSTRUMENT = {
	ppmScale: null,
	compensates: true,
	alphaPct: 2,
	continuous: false,
	live: 'none',
	printedPh: null,
	perDrop: null,
	calibrateBy: 'learned',
	makerDays: null,
	remembersPoints: 2,
	showsMv: false,
	locks: false,
	retired: false,
} as const;

/** When something was retired: now, where it is; a second saying does not move it. */
const since = (parameter: number) => `CASE WHEN $${parameter}::boolean THEN now() END`;
const stillSince = (table: string) =>
	`CASE WHEN EXCLUDED.retired_at IS NOT NULL THEN coalesce(${table}.retired_at, EXCLUDED.retired_at) END`;

/** Puts stations into an order: the first gets the first place. */
export async function orderStations(db: Db, siteId: number, codes: readonly string[]): Promise<void> {
	await db.query(
		`UPDATE station s SET position = o.place FROM unnest($2::text[]) WITH ORDINALITY AS o(code, place)
		WHERE s.site_id = $1 AND s.code = o.code AND s.position <> o.place`,
		[siteId, codes],
	);
}

/** Makes a system or brings the one with this code to the given state. */
export async function putSystem(db: Db, siteId: number, s: Omit<SystemRow, 'id'>): Promise<SystemRow> {
	const rows = await read(
		db,
		systemRow,
		`INSERT INTO system (site_id, code, name, kind, volume_l, medium, crop, stage, aeration, watering, retired_at)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10, ${since(11)})
		ON CONFLICT (site_id, code) DO UPDATE SET name = EXCLUDED.name, kind = EXCLUDED.kind, volume_l = EXCLUDED.volume_l,
			medium = EXCLUDED.medium, crop = EXCLUDED.crop, stage = EXCLUDED.stage, aeration = EXCLUDED.aeration,
			watering = EXCLUDED.watering, retired_at = ${stillSince('system')}
		RETURNING ${SYSTEM}`,
		[siteId, s.code, s.name, s.kind, s.volumeL, s.medium, s.crop, s.stage, s.aeration, s.watering, s.retired],
	);
	return rows[0]!;
}

export async function listStations(db: Db, siteId: number): Promise<StationRow[]> {
	const rows = await read(
		db,
		stationRow,
		`SELECT s.id, s.code, s.name, s.kind, y.code AS system, s.position, s.fed_by AS "fedBy", s.volume_l AS "volumeL", s.ranges, s.note, s.protocol, s.rhythm,
			s.aeration, s.mix_minutes AS "mixMinutes", s.least_ph AS "leastPh", s.most_ph AS "mostPh", s.shape,
			s.retired_at IS NOT NULL AS retired
		FROM station s LEFT JOIN system y ON y.site_id = s.site_id AND y.id = s.system_id
		WHERE s.site_id = $1 ORDER BY s.position, s.id`,
		[siteId],
	);
	return rows;
}

export async function putStation(db: Db, siteId: number, s: Omit<StationRow, 'id'>): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO station (site_id, code, name, kind, system_id, position, fed_by, volume_l, ranges, note, protocol, rhythm,
			aeration, mix_minutes, least_ph, most_ph, shape, retired_at)
		VALUES ($1,$2,$3,$4,(SELECT id FROM system WHERE site_id = $1 AND code = $5),$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17, ${since(18)})
		ON CONFLICT (site_id, code) DO UPDATE SET name = EXCLUDED.name, kind = EXCLUDED.kind, system_id = EXCLUDED.system_id,
			position = EXCLUDED.position, fed_by = EXCLUDED.fed_by, volume_l = EXCLUDED.volume_l, ranges = EXCLUDED.ranges, note = EXCLUDED.note,
			protocol = EXCLUDED.protocol, rhythm = EXCLUDED.rhythm, aeration = EXCLUDED.aeration, mix_minutes = EXCLUDED.mix_minutes,
			least_ph = EXCLUDED.least_ph, most_ph = EXCLUDED.most_ph, shape = EXCLUDED.shape,
			retired_at = ${stillSince('station')}
		RETURNING id`,
		[
			siteId,
			s.code,
			s.name,
			s.kind,
			s.system,
			s.position,
			s.fedBy,
			s.volumeL,
			s.ranges,
			s.note,
			s.protocol && JSON.stringify(s.protocol),
			s.rhythm,
			s.aeration,
			s.mixMinutes,
			s.leastPh,
			s.mostPh,
			s.shape,
			s.retired,
		],
	);
	return rows[0]!.id;
}

/** What is taken of a station until somebody says otherwise. */
export const PLAIN_STATION = {
	system: null,
	fedBy: [],
	volumeL: null,
	ranges: {},
	note: '',
	protocol: null,
	rhythm: null,
	aeration: null,
	mixMinutes: null,
	leastPh: null,
	mostPh: null,
	shape: '',
	retired: false,
};

export async function listInstruments(db: Db, siteId: number): Promise<InstrumentRow[]> {
	const rows = await read(
		db,
		instrumentRow,
		`SELECT id, code, name, kind, quantities, ppm_scale AS "ppmScale", compensates, alpha_pct AS "alphaPct", continuous, coalesce(details->>'live', 'none') AS live,
			details->'printed' AS "printedPh", details->'per_drop' AS "perDrop", calibrate_by AS "calibrateBy",
			maker_days AS "makerDays", remembers_points AS "remembersPoints", shows_mv AS "showsMv", locks,
			retired_at IS NOT NULL AS retired
		FROM instrument WHERE site_id = $1 ORDER BY id`,
		[siteId],
	);
	return rows;
}

export async function putInstrument(db: Db, siteId: number, i: Omit<InstrumentRow, 'id'>): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO instrument (site_id, code, name, kind, quantities, ppm_scale, compensates, alpha_pct, continuous, details,
			calibrate_by, maker_days, remembers_points, shows_mv, locks, retired_at)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15, ${since(16)})
		ON CONFLICT (site_id, code) DO UPDATE SET name = EXCLUDED.name, kind = EXCLUDED.kind, quantities = EXCLUDED.quantities,
			ppm_scale = EXCLUDED.ppm_scale, compensates = EXCLUDED.compensates, alpha_pct = EXCLUDED.alpha_pct,
			continuous = EXCLUDED.continuous, details = EXCLUDED.details, calibrate_by = EXCLUDED.calibrate_by, maker_days = EXCLUDED.maker_days,
			remembers_points = EXCLUDED.remembers_points, shows_mv = EXCLUDED.shows_mv, locks = EXCLUDED.locks,
			retired_at = ${stillSince('instrument')}
		RETURNING id`,
		[
			siteId,
			i.code,
			i.name,
			i.kind,
			i.quantities,
			i.ppmScale,
			i.compensates,
			i.alphaPct,
			i.continuous,
			{
				live: i.live,
				...(i.printedPh ? { printed: i.printedPh } : {}),
				...(i.perDrop ? { per_drop: i.perDrop } : {}),
			},
			i.calibrateBy,
			i.makerDays,
			i.remembersPoints,
			i.showsMv,
			i.locks,
			i.retired,
		],
	);
	return rows[0]!.id;
}
