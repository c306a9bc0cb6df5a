import { readings as resource, type TypedReading } from '@/contract/readings';
import { correctReading, correctReadings } from '@/service/correct';
import { decide, readingHistory, undoLast } from '@/service/decide';
import { type Entered, enterSamples, judgeSample, type TypedSample } from '@/service/enter';
import { readingEvidence } from '@/service/errors';
import { readingsCsv } from '@/service/export';
import { shownReading, shownVerdict } from '@/service/reading-shown';
import { Refusal } from '@/service/refusal';
import { listDecisions, listReadings } from '@/store/readings';
import { sampleEntered } from '../changes';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

const FLAGS = { sound: [1, 2], doubtful: [3], bad: [4, 9] } as const;

/** Readings of one station and time are one sample. */
function asSamples(readings: readonly TypedReading[], now: number): TypedSample[] {
	const samples = new Map<string, TypedSample>();
	for (const { at = now, station, ...typed } of readings) {
		const key = `${at}\u0000${station}`;
		const sample = samples.get(key) ?? { at, station, readings: [] };
		samples.set(key, sample);
		sample.readings.push({ ...typed, instrument: typed.instrument || null });
	}
	return [...samples.values()];
}
const listed = (body: TypedReading | TypedReading[] | { readings: TypedReading[] }): TypedReading[] =>
	Array.isArray(body) ? body : 'readings' in body ? body.readings : [body];

const shownSample = (s: Entered) => ({
	sampleId: s.sampleId,
	readings: s.readings.map((r) => ({ id: r.id, ...shownVerdict(r.verdict) })),
	roundFinishedAt: s.told.roundFinishedAt,
	retests: s.told.retests.map((r) => ({ readingId: r.readingId, answeredBeforeAt: r.answeredAt })),
});

export const readings = handle(resource, {
	'GET /readings': async ({ query, db, site, request }) => {
		const context = await site();
		const { standing, cursor, limit = 200, ...rest } = query;
		const filter = { ...rest, flags: standing && FLAGS[standing], before: cursor };
		if (wantsCsv(request)) return csvResponse(readingsCsv(db, context, filter), 'readings.csv');
		const rows = await listReadings(db, context.site.id, { ...filter, limit });
		return { readings: rows.map(shownReading), nextCursor: (rows.length === limit && rows.at(-1)) || null };
	},
	'POST /readings': async ({ body, db, site, now, who, query, announce }) => {
		const context = await site();
		const samples = await enterSamples(db, context, asSamples(listed(body), now), {
			source: query.source ?? 'api',
			who,
			now,
			round: query.round ?? null,
		});
		for (const s of samples) announce(sampleEntered(s, query.page ?? ''));
		return { samples: samples.map(shownSample) };
	},
	'POST /readings/judge': async ({ body, db, site, now }) => {
		const [sample, more] = asSamples(listed(body), now);
		if (!sample || more)
			throw new Refusal('one-sample', [{ path: '', message: 'Give the readings of one station and time.' }]);
		return { readings: (await judgeSample(db, await site(), sample, now)).map(shownVerdict) };
	},
	'POST /readings/undo': async ({ db, site, who, now }) => ({
		undone: (await undoLast(db, await site(), { who, now })).map(shownReading),
	}),
	'GET /readings/:id/history': async ({ params, db, site }) => {
		const context = await site();
		const chain = await readingHistory(db, context, params.id);
		if (chain.length === 0)
			throw new Refusal('no-such-reading', [{ path: 'id', message: 'There is no such reading.' }]);
		return {
			readings: chain.map(shownReading),
			decisions: await listDecisions(
				db,
				context.site.id,
				chain.map((r) => r.id),
			),
			evidence: await readingEvidence(db, context, chain.find((r) => r.id === params.id)!),
		};
	},
	'POST /readings/:id/decision': async ({ params, body, db, site, who, now, announce }) => {
		await decide(db, await site(), [{ id: params.id, after: body.after }], body, { who, now });
		announce({ kind: 'decision', station: null, by: '' });
		return { ok: true };
	},
	'POST /readings/decisions': async ({ body, db, site, who, now, announce }) => {
		await decide(db, await site(), body.readings, body, { who, now });
		announce({ kind: 'decision', station: null, by: '' });
		return { ok: true };
	},
	'POST /readings/corrections': async ({ body, db, site, who, now, announce }) => {
		const { ids, ...change } = body;
		const made = await correctReadings(db, await site(), ids, change, { who, now });
		announce({ kind: 'decision', station: null, by: '' });
		return { samples: made.map(shownSample) };
	},
	'POST /readings/:id/correction': async ({ params, body, db, site, who, now, announce }) => {
		const s = await correctReading(db, await site(), params.id, body, { who, now });
		announce({ kind: 'decision', station: s.readings[0]?.reading.station ?? null, by: '' });
		return { samples: [shownSample(s)] };
	},
});
