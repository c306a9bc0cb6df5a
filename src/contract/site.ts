import { z } from 'zod';
import { HIGHEST_M, LOWEST_M } from '@/core/chem/oxygen';
import type { EngineSnapshot } from '@/core/judge/memory';
import { type Quantity, UNITS, type Unit } from '@/core/quantity';
import { isZone } from '@/core/quantity/time';
import { dropResolution } from '@/core/reading/drops';
import { STATION_KINDS, SYSTEM_KINDS } from '@/core/reading/model';
import { INSTRUMENT_KINDS, LIVE_KINDS } from '@/core/reading/protocol';
import { EC_UNITS, VOLUME_UNITS } from '@/core/reading/site-view';
import { RHYTHMS } from '@/core/rhythm/due';
import { watering } from './drains';
import {
	aeration,
	alpha,
	code,
	done,
	finite,
	growingPh,
	instant,
	litres,
	name,
	note,
	notNegative,
	ph,
	positive,
	quantity,
	shortText,
} from './fields';
import { resource } from './operation';
import { withSeen } from './seen';
import { wire } from './wire';

const seconds = finite.min(1).max(3600);
export const zone = z.string().refine(isZone, 'is not a time zone such as Europe/Amsterdam');
export const site = z.strictObject({
	name,
	timezone: zone,
	units: z
		.strictObject({
			ec: z.enum(EC_UNITS).optional(),
			temp: z.enum(['C', 'F']).optional(),
			volume: z.enum(VOLUME_UNITS).optional(),
		})
		.optional(),
	settings: z
		.strictObject({
			waits: z
				.strictObject({ ph: seconds, phLowMineral: seconds, ec: seconds })
				.optional()
				.describe('seconds that readings want'),
			sensitivity: z.enum(['calm', 'usual', 'keen']).optional().describe('how readily the checks ask'),
			altitudeM: z
				.number()
				.min(LOWEST_M)
				.max(HIGHEST_M)
				.optional()
				.describe('metres above the sea: what 100 % of oxygen is; 0 unless said'),
			latitude: z
				.number()
				.min(-90)
				.max(90)
				.nullish()
				.describe('degrees, north of the equator; with the longitude it says when the sun is down; null: nobody says'),
			longitude: z.number().min(-180).max(180).nullish().describe('degrees, east of Greenwich'),
		})
		.refine((s) => (s.latitude == null) === (s.longitude == null), {
			path: ['longitude'],
			message: 'say both latitude and longitude, or neither',
		})
		.optional(),
});
export type Site = z.input<typeof site>;

const systemShape = {
	code,
	name: name.optional(),
	kind: z.enum(SYSTEM_KINDS),
	volume_l: litres.nullish(),
	medium: shortText.optional(),
	crop: shortText.optional(),
	stage: shortText.optional(),
	aeration: aeration.nullish().describe('how its water is moved; null: as its kind usually is'),
	watering: watering.nullish().describe('drippers, bags, limits of the drain'),
	retired: z.boolean().optional().describe('no longer used: lists forget it, its history stays'),
};
export const system = wire(systemShape);
export type System = z.input<typeof system>;

const rangePair = z.tuple([finite, finite]).refine(([low, high]) => low < high, 'the lower end comes first');
/** In the order of the line; those beyond it share it. */
export const LAST_POSITION = 10_000;
const stationShape = {
	code,
	name: name.optional(),
	kind: z.enum(STATION_KINDS),
	system: z.string().nullish(),
	position: z.number().int().min(0).max(LAST_POSITION).optional(),
	fed_by: z.array(code).max(50).optional(),
	volume_l: litres.nullish(),
	ranges: z.partialRecord(quantity, rangePair).optional().describe('target range by quantity, in canonical units'),
	note: note.optional(),
	protocol: z
		.array(z.strictObject({ code: z.string().regex(/^[a-z0-9-]{1,40}$/), text: z.string().trim().min(1).max(200) }))
		.max(40)
		.nullish()
		.describe('own steps of measuring here; null takes the usual ones'),
	rhythm: z.partialRecord(quantity, z.enum(RHYTHMS)).nullish().describe('how often what is measured here'),
	aeration: aeration.nullish().describe('how its water is moved; null: as its system'),
	mix_minutes: notNegative.max(1440).nullish().describe('wait after pouring; null: the usual of its size and movement'),
	retired: z.boolean().optional().describe('no longer used: lists forget it, its history stays'),
	least_ph: growingPh.nullish().describe('acid is not advised below it; null: the usual limit'),
	shape: z
		.string()
		.max(1000)
		.optional()
		.describe('how a height becomes litres: 60 x 40 (cm), round 50, or a table of cm and litres: 10 38; 20 81'),
	most_ph: growingPh.nullish().describe('base is not advised above it; null: the usual limit'),
};
export const station = wire(stationShape);
export type Station = z.input<typeof station>;

const perDrop = z
	.partialRecord(
		quantity,
		z.strictObject({ value: positive.max(1e4), unit: z.enum(Object.keys(UNITS) as [Unit, ...Unit[]]) }),
	)
	.refine((all) => Object.entries(all).every(([q, per]) => dropResolution(q as Quantity, per!) !== null), {
		message: 'in a unit of that quantity',
	});
const instrumentShape = {
	code,
	name: name.optional(),
	kind: z.enum(INSTRUMENT_KINDS),
	quantities: z
		.partialRecord(
			quantity,
			z.strictObject({
				resolution: positive.optional(),
				accuracy: notNegative.optional(),
				accuracyPct: notNegative.optional(),
			}),
		)
		.optional(),
	ppm_scale: z.union([z.literal(500), z.literal(640), z.literal(700)]).nullish(),
	compensates: z.boolean().optional(),
	alpha_pct_per_c: alpha.optional(),
	continuous: z.boolean().optional(),
	calibrate_by: z.enum(['learned', 'weekly', 'before_use', 'monthly', 'maker']).optional(),
	maker_days: positive.max(3650).nullish(),
	remembers_points: z.number().int().min(0).max(5).optional(),
	shows_mv: z.boolean().optional(),
	locks: z.boolean().optional(),
	live: z.enum(LIVE_KINDS).optional().describe('how it speaks by itself'),
	printed_ph: z.array(ph).min(2).max(30).nullish().describe('values printed on the card of a drop kit'),
	retired: z.boolean().optional().describe('no longer used: lists forget it, its history stays'),
	per_drop: perDrop.nullish().describe('what one drop stands for, of a kit that counts drops'),
};
export const INSTRUMENT_NAMES = { alpha_pct_per_c: 'alphaPct' } as const;
export const instrument = wire(instrumentShape, INSTRUMENT_NAMES);
export type Instrument = z.input<typeof instrument>;

const changeOfSystem = wire(withSeen(systemShape));
const changeOfStation = wire(withSeen(stationShape));
const changeOfInstrument = wire(withSeen(instrumentShape, INSTRUMENT_NAMES), INSTRUMENT_NAMES);
export type ChangeOfSystem = z.output<typeof changeOfSystem>;
export type ChangeOfStation = z.output<typeof changeOfStation>;
export type ChangeOfInstrument = z.output<typeof changeOfInstrument>;

const since = z
	.union([z.enum(['now', 'always']), instant])
	.optional()
	.describe(
		'from when on the change holds; a time that is past: what was read since is judged again; always: it was never otherwise, and all is judged again',
	);

/** As the checks keep it. */
const memory = z.custom<EngineSnapshot>((m) => typeof m === 'object' && m !== null && 'stations' in m);
const codes = z.codec(z.string().max(100_000), z.array(z.string()), {
	decode: (text, context) => {
		try {
			const list: unknown = JSON.parse(text);
			if (Array.isArray(list) && list.every((c) => typeof c === 'string')) return list;
		} catch {
			// Said below.
		}
		context.issues.push({ code: 'custom', input: text, message: 'a list of codes as JSON, as ["pond","ro"]' });
		return z.NEVER;
	},
	encode: (list) => JSON.stringify(list),
});

export const setup = resource('Setup', {
	'GET /site': { summary: 'The site, or null before setup', answer: z.object({ site: site.nullable() }) },
	'PUT /site': { summary: 'Make the site or change its name, zone and units', body: site, answer: done },
	'POST /sample': {
		summary: 'Fill an empty installation with an invented yard to look at',
		answer: done,
		status: 201,
		problems: ['not-empty'],
	},
	'DELETE /sample': {
		summary: 'Throw the sample away with everything that was entered into it; no other site can be thrown away',
		answer: done,
		problems: ['no-sample'],
	},
	'GET /memory': {
		summary:
			'What the checks remember of stations, for judging elsewhere as here; of all stations unless some are named',
		query: z.strictObject({ stations: codes.optional() }),
		answer: z.object({ memory }),
	},
	'GET /systems': {
		summary: 'Systems: plants sharing one solution',
		answer: z.object({ systems: z.array(system) }),
	},
	'POST /systems': {
		summary: 'Make a system, or change the one with this code',
		query: wire({ since }),
		body: changeOfSystem,
		answer: system,
		status: 201,
		problems: ['changed-meanwhile'],
	},
	'GET /stations': {
		summary: 'Stations in the order the water runs',
		answer: z.object({ stations: z.array(station) }),
	},
	'POST /stations': {
		summary: 'Make a station, or change the one with this code',
		body: changeOfStation.refine((s) => s.leastPh == null || s.mostPh == null || s.leastPh < s.mostPh, {
			path: ['least_ph'],
			message: 'must lie below the highest pH',
		}),
		query: wire({ since }),
		answer: station,
		status: 201,
		problems: ['unknown-system', 'bad-shape', 'changed-meanwhile'],
	},
	'POST /stations/order': {
		summary: 'The order in which the water runs: every station named, once',
		body: z.strictObject({ codes: z.array(code).min(1).max(LAST_POSITION) }),
		answer: done,
		problems: ['unknown-station'],
	},
	'GET /instruments': {
		summary: 'Instruments: meters, pens, drop kits, sensor nodes',
		answer: z.object({ instruments: z.array(instrument) }),
	},
	'POST /instruments': {
		summary: 'Make an instrument, or change the one with this code',
		query: wire({ since }),
		body: changeOfInstrument,
		answer: instrument,
		status: 201,
		problems: ['changed-meanwhile'],
	},
});
