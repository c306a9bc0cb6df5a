import { z } from 'zod';
import type { Quantity } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import {
	correctReading,
	decide,
	type Entered,
	enterSamples,
	judgeSample,
	readingHistory,
	type TypedSample,
	undoLast,
} from '@/service/enter';
import { readingsCsv } from '@/service/export';
import { Refusal } from '@/service/refusal';
import { requireSite } from '@/service/site';
import { listDecisions, listReadings, type ReadingFilter } from '@/store/readings';
import { stationSeries } from '@/store/series';
import { announce } from '../changes';
import {
	correction,
	decision,
	instant,
	type newReading,
	newReadings,
	quantityText,
	readingQuery,
	storedReading,
	verdict,
} from '../contract';
import { csvResponse, wantsCsv } from '../csv-response';
import { operation } from '../operation';
import { readingToWire } from '../wire';

type NewReading = z.output<typeof newReading>;

const FLAGS = { sound: [1, 2], doubtful: [3], bad: [4, 9] } as const;

function filterOf(q: z.output<typeof readingQuery>): Omit<ReadingFilter, 'limit'> {
	let before: { at: number; id: number } | undefined;
	if (q.cursor !== undefined) {
		const m = /^(-?\d+)_(\d+)$/.exec(q.cursor);
		if (!m || Math.abs(Number(m[1])) > 8.64e15)
			throw new Refusal(400, 'bad-cursor', [{ path: 'cursor', message: 'Give the cursor exactly as it came.' }]);
		before = { at: Number(m[1]), id: Number(m[2]) };
	}
	return {
		from: q.from,
		to: q.to,
		station: q.station,
		instrument: q.instrument,
		quantity: q.quantity,
		flags: q.standing && FLAGS[q.standing],
		undecided: q.undecided === '1',
		all: q.all === '1',
		order: q.order,
		before,
	};
}

export function idOf(text: string | undefined): number {
	const id = Number(text);
	if (!/^\d{1,15}$/.test(text ?? '') || !Number.isSafeInteger(id))
		throw new Refusal(404, 'no-such-id', [{ path: 'id', message: 'There is nothing with this number.' }]);
	return id;
}

/** Readings of one station and time are one sample. */
export function asSamples(readings: readonly NewReading[], now: number): TypedSample[] {
	const samples = new Map<string, TypedSample>();
	for (const r of readings) {
		const at = r.time ?? now;
		const key = `${at}\u0000${r.station}`;
		let sample = samples.get(key);
		if (!sample) {
			sample = { at, station: r.station, readings: [] };
			samples.set(key, sample);
		}
		sample.readings.push({
			quantity: r.quantity as Quantity,
			value: String(r.value),
			unit: r.unit,
			instrument: r.instrument || null,
			typed: null,
			tempC: r.temp_c ?? null,
			waitS: r.wait_s ?? null,
			note: r.note ?? '',
			skipped: r.skipped,
		});
	}
	return [...samples.values()];
}

const verdictToWire = (v: import('@/core/reading/model').Verdict) => ({
	flag: v.flag,
	check: v.deciding?.check ?? '',
	cause: v.deciding?.cause ?? '',
	suggested: v.deciding?.suggested ?? null,
	message: v.deciding?.message ?? '',
	next_step: v.deciding?.nextStep ?? '',
});

const entered = z.object({
	samples: z.array(
		z.object({
			sample_id: z.number(),
			readings: z.array(verdict.extend({ id: z.number() })),
			round_finished_at: z.string().nullable().describe('when the round it was entered for had been finished before'),
			retests: z
				.array(z.object({ reading_id: z.number(), answered_before_at: z.string().nullable() }))
				.describe('requests to read again that this sample answers'),
		}),
	),
});

const enteredToWire = (s: Entered) => ({
	sample_id: s.sampleId,
	readings: s.readings.map((r) => ({ id: r.id, ...verdictToWire(r.verdict) })),
	round_finished_at: s.told.roundFinishedAt === null ? null : formatTime(s.told.roundFinishedAt),
	retests: s.told.retests.map((r) => ({
		reading_id: r.readingId,
		answered_before_at: r.answeredAt === null ? null : formatTime(r.answeredAt),
	})),
});

export const readings = [
	operation({
		method: 'GET',
		path: '/readings',
		tag: 'Records',
		summary: 'Readings with their standing, newest first; text/csv by Accept',
		query: readingQuery,
		response: z.object({ readings: z.array(storedReading), next_cursor: z.string().nullable() }),
		alsoAnswers: ['text/csv'],
		run: async ({ query, pool, request }) => {
			const context = await requireSite(pool());
			const filter = filterOf(query);
			if (wantsCsv(request)) return csvResponse(readingsCsv(pool(), context, filter), 'readings.csv');
			const limit = query.limit ?? 200;
			const rows = await listReadings(pool(), context.site.id, { ...filter, limit });
			const last = rows[rows.length - 1];
			return {
				readings: rows.map(readingToWire),
				next_cursor: rows.length === limit && last ? `${last.at}_${last.id}` : null,
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/readings',
		tag: 'Records',
		summary: 'Store one or more readings; those of one station and time are one sample',
		body: newReadings,
		query: z.strictObject({
			source: z.enum(['api', 'bench', 'quick', 'sheet']).optional(),
			round: z.coerce.number().int().positive().optional().describe('the round it is taken on'),
			page: z.string().max(60).optional().describe('names the page that entered it, for /changes'),
		}),
		response: entered,
		status: 201,
		run: async ({ body, pool, now, who, query }) => {
			const list = Array.isArray(body) ? body : 'readings' in body ? body.readings : [body];
			const context = await requireSite(pool());
			const samples = await enterSamples(pool(), context, asSamples(list, now), {
				source: query.source ?? 'api',
				who,
				now,
				round: query.round ?? null,
			});
			for (const s of samples)
				announce({
					kind: 'readings',
					station: s.readings[0]?.reading.station ?? null,
					by: query.page ?? '',
					readings: s.readings.map(({ reading: r, verdict: v }) => ({
						time: formatTime(r.at),
						quantity: r.quantity,
						value: r.digits,
						unit: r.unit,
						instrument: r.instrument || null,
						flag: v.flag,
					})),
				});
			return { samples: samples.map(enteredToWire) };
		},
	}),
	operation({
		method: 'GET',
		path: '/stations/:code/series',
		tag: 'Records',
		summary: 'One station and quantity over time, at most about 2,000 points with their extremes kept',
		query: z.strictObject({
			quantity: quantityText,
			from: instant,
			to: instant,
			points: z.coerce.number().int().min(10).max(2000).optional(),
		}),
		response: z.object({
			points: z.array(
				z.object({
					at: z.number(),
					value: z.number(),
					low: z.number(),
					high: z.number(),
					u: z.number(),
					count: z.number(),
					flag: z.number(),
					decision: z.string().nullable(),
					id: z.number().nullable(),
					message: z.string(),
					instrument: z.string().nullable(),
					was: z.number().nullable(),
				}),
			),
		}),
		run: async ({ params, query, pool }) => {
			const context = await requireSite(pool());
			if (!context.stations.some((s) => s.code === params.code))
				throw new Refusal(404, 'no-such-station', [{ path: 'code', message: 'There is no such station.' }]);
			return {
				points: await stationSeries(
					pool(),
					context.site.id,
					params.code!,
					query.quantity,
					query.from,
					query.to,
					query.points ?? 2000,
				),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/readings/judge',
		tag: 'Records',
		summary: 'What the checks would say of one sample, storing nothing',
		body: newReadings,
		response: z.object({ readings: z.array(verdict) }),
		run: async ({ body, pool, now }) => {
			const list = Array.isArray(body) ? body : 'readings' in body ? body.readings : [body];
			const samples = asSamples(list, now);
			if (samples.length > 1)
				throw new Refusal(422, 'one-sample', [{ path: '', message: 'Give the readings of one station and time.' }]);
			const context = await requireSite(pool());
			return { readings: (await judgeSample(pool(), context, samples[0]!, now)).map(verdictToWire) };
		},
	}),
	operation({
		method: 'POST',
		path: '/readings/undo',
		tag: 'Records',
		summary: 'Take back the newest typed sample; nothing is deleted',
		response: z.object({ undone: z.array(storedReading) }),
		run: async ({ pool, who, now }) => ({
			undone: (await undoLast(pool(), await requireSite(pool()), { who, now })).map(readingToWire),
		}),
	}),
	operation({
		method: 'GET',
		path: '/readings/:id/history',
		tag: 'Records',
		summary: 'A reading, everything it replaced or was replaced by, and the decisions',
		response: z.object({
			readings: z.array(storedReading),
			decisions: z.array(
				z.object({
					id: z.number(),
					reading_id: z.number(),
					kind: z.string(),
					reason: z.string(),
					who: z.string(),
					time: z.string(),
				}),
			),
		}),
		run: async ({ params, pool }) => {
			const context = await requireSite(pool());
			const chain = await readingHistory(pool(), context, idOf(params.id));
			if (chain.length === 0)
				throw new Refusal(404, 'no-such-reading', [{ path: 'id', message: 'There is no such reading.' }]);
			const decisions = await listDecisions(
				pool(),
				context.site.id,
				chain.map((r) => r.id),
			);
			return {
				readings: chain.map(readingToWire),
				decisions: decisions.map((d) => ({
					id: d.id,
					reading_id: d.readingId,
					kind: d.kind,
					reason: d.reason,
					who: d.who,
					time: formatTime(d.at),
				})),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/readings/:id/decision',
		tag: 'Records',
		summary: 'Keep, discard with a reason, undo, restore, or ask for a retest',
		body: decision,
		response: z.object({ ok: z.literal(true) }),
		run: async ({ params, body, pool, who, now }) => {
			await decide(pool(), await requireSite(pool()), idOf(params.id), body.kind, body.reason ?? '', { who, now });
			announce({ kind: 'decision', station: null, by: '' });
			return { ok: true };
		},
	}),
	operation({
		method: 'POST',
		path: '/readings/:id/correction',
		tag: 'Records',
		summary: 'Correct a reading: a new one that supersedes it; the original stays',
		body: correction,
		response: entered,
		status: 201,
		run: async ({ params, body, pool, who, now }) => {
			const s = await correctReading(
				pool(),
				await requireSite(pool()),
				idOf(params.id),
				{ value: String(body.value), unit: body.unit, station: body.station, reason: body.reason ?? '' },
				{ who, now },
			);
			announce({ kind: 'decision', station: s.readings[0]?.reading.station ?? null, by: '' });
			return { samples: [enteredToWire(s)] };
		},
	}),
];
