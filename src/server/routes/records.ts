import { z } from 'zod';
import { unitNamed } from '@/core/quantity';
import { isZone } from '@/core/quantity/time';
import { eventsCsv } from '@/service/export';
import { enterEvent, saveInstrument, saveSite, saveStation, saveSystem } from '@/service/setup';
import { loadSite, requireSite } from '@/service/site';
import { listEvents } from '@/store/events';
import { announce } from '../changes';
import { finite, instant, instrument, name, newEvent, station, storedEvent, system } from '../contract';
import { csvResponse, wantsCsv } from '../csv-response';
import { operation } from '../operation';
import {
	eventToWire,
	instrumentFromWire,
	instrumentToWire,
	stationFromWire,
	stationToWire,
	systemToWire,
} from '../wire';

const site = z.strictObject({
	name,
	timezone: z.string().refine(isZone, 'is not a time zone such as Europe/Amsterdam'),
	units: z
		.strictObject({
			ec: z.enum(['mS/cm', 'uS/cm', 'ppm500', 'ppm700']).optional(),
			temp: z.enum(['C', 'F']).optional(),
			volume: z.enum(['L', 'gal']).optional(),
		})
		.optional(),
	settings: z
		.strictObject({
			waits: z
				.strictObject({
					ph: finite.min(1).max(3600),
					phLowMineral: finite.min(1).max(3600),
					ec: finite.min(1).max(3600),
				})
				.optional()
				.describe('seconds that readings want'),
			sensitivity: z.enum(['calm', 'usual', 'keen']).optional().describe('how readily the checks ask'),
		})
		.optional(),
});

export const records = [
	operation({
		method: 'GET',
		path: '/site',
		tag: 'Setup',
		summary: 'The site, or null before setup',
		response: z.object({ site: site.nullable() }),
		run: async ({ pool }) => {
			const context = await loadSite(pool());
			return {
				site: context && {
					name: context.site.name,
					timezone: context.site.timezone,
					units: context.site.units,
					settings: context.site.settings,
				},
			};
		},
	}),
	operation({
		method: 'PUT',
		path: '/site',
		tag: 'Setup',
		summary: 'Make the site or change its name, zone and units',
		body: site,
		response: z.object({ ok: z.literal(true) }),
		run: async ({ body, pool, who }) => {
			await saveSite(pool(), { ...body, units: body.units ?? {} }, who);
			return { ok: true };
		},
	}),
	operation({
		method: 'GET',
		path: '/systems',
		tag: 'Setup',
		summary: 'Systems: plants sharing one solution',
		response: z.object({ systems: z.array(system) }),
		run: async ({ pool }) => ({ systems: (await requireSite(pool())).systems.map(systemToWire) }),
	}),
	operation({
		method: 'POST',
		path: '/systems',
		tag: 'Setup',
		summary: 'Make a system, or change the one with this code',
		body: system,
		response: system,
		status: 201,
		run: async ({ body, pool, who }) =>
			systemToWire(
				await saveSystem(
					pool(),
					await requireSite(pool()),
					{
						code: body.code,
						name: body.name ?? body.code,
						kind: body.kind,
						volumeL: body.volume_l ?? null,
						medium: body.medium ?? '',
						crop: body.crop ?? '',
						stage: body.stage ?? '',
						aeration: body.aeration ?? null,
					},
					who,
				),
			),
	}),
	operation({
		method: 'GET',
		path: '/stations',
		tag: 'Setup',
		summary: 'Stations in the order the water runs',
		response: z.object({ stations: z.array(station) }),
		run: async ({ pool }) => ({ stations: (await requireSite(pool())).stations.map(stationToWire) }),
	}),
	operation({
		method: 'POST',
		path: '/stations',
		tag: 'Setup',
		summary: 'Make a station, or change the one with this code',
		body: station,
		response: station,
		status: 201,
		run: async ({ body, pool, who }) => {
			const context = await requireSite(pool());
			const last = Math.max(0, ...context.stations.map((s) => s.position));
			const saved = stationFromWire(
				body,
				context.stations.find((s) => s.code === body.code),
				last,
			);
			return stationToWire(await saveStation(pool(), context, saved, who));
		},
	}),
	operation({
		method: 'GET',
		path: '/instruments',
		tag: 'Setup',
		summary: 'Instruments: meters, pens, drop kits, sensor nodes',
		response: z.object({ instruments: z.array(instrument) }),
		run: async ({ pool }) => ({ instruments: (await requireSite(pool())).instruments.map(instrumentToWire) }),
	}),
	operation({
		method: 'POST',
		path: '/instruments',
		tag: 'Setup',
		summary: 'Make an instrument, or change the one with this code',
		body: instrument,
		response: instrument,
		status: 201,
		run: async ({ body, pool, who }) => {
			const context = await requireSite(pool());
			return instrumentToWire(
				await saveInstrument(
					pool(),
					context,
					instrumentFromWire(
						body,
						context.instruments.find((i) => i.code === body.code),
					),
					who,
				),
			);
		},
	}),
	operation({
		method: 'GET',
		path: '/events',
		tag: 'Records',
		summary: 'Events, oldest first; text/csv by Accept',
		query: z.strictObject({
			from: instant.optional(),
			to: instant.optional(),
			station: z.string().optional(),
			format: z.literal('csv').optional(),
			limit: z.coerce.number().int().min(1).max(5000).optional(),
		}),
		response: z.object({ events: z.array(storedEvent) }),
		alsoAnswers: ['text/csv'],
		run: async ({ query, pool, request }) => {
			const context = await requireSite(pool());
			if (wantsCsv(request)) return csvResponse(eventsCsv(pool(), context, query), 'events.csv');
			return {
				events: (await listEvents(pool(), context.site.id, { ...query, limit: query.limit ?? 1000 })).map(eventToWire),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/events',
		tag: 'Records',
		summary: 'Log something done to the water',
		body: newEvent,
		response: z.object({ id: z.number() }),
		status: 201,
		run: async ({ body, pool, now, who }) => {
			const id = await enterEvent(
				pool(),
				await requireSite(pool()),
				{
					at: body.time ?? now,
					station: body.station,
					kind: body.kind,
					amount: body.amount ?? null,
					unitText: body.unit ?? '',
					unit: unitNamed(body.unit ?? '') ?? null,
					product: body.product ?? '',
					note: body.note ?? '',
				},
				{ who, now },
			);
			announce({ kind: 'event', station: body.station, by: '' });
			return { id };
		},
	}),
];
