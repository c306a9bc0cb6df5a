import { z } from 'zod';
import { fromWorking } from '@/core/judge/working-scale';
import { Judging } from '@/service/judging';
import { Refusal } from '@/service/refusal';
import { requireSite, type SiteContext } from '@/service/site';
import { changesAfter } from '../changes';
import { change, code, finite, notNegative, ph, tempC } from '../contract';
import type { MeterAdapter } from '../meters/adapter';
import { type LiveKind, meterOf } from '../meters/registry';
import { operation } from '../operation';
import { serverSentEvents } from '../sse';

const water = z.strictObject({
	ph: ph.optional(),
	ec_us_cm: notNegative.max(200_000).optional(),
	temp_c: tempC.optional(),
});
const action = z.discriminatedUnion('do', [
	z.strictObject({ do: z.enum(['rinse', 'swirl', 'store', 'lift']) }),
	z.strictObject({ do: z.literal('dip'), station: code, water: water.optional() }),
	z.strictObject({
		do: z.literal('set'),
		compensates: z.boolean().optional(),
		speed: finite.min(1).max(60).optional(),
	}),
]);

function meter(context: SiteContext, instrument: string): MeterAdapter {
	const row = context.instruments.find((i) => i.code === instrument);
	const adapter = row && meterOf(row.code, (row.details.live as LiveKind | undefined) ?? 'none');
	if (!adapter)
		throw new Refusal(404, 'no-live-meter', [
			{ path: 'code', message: `“${instrument}” does not read live; type what its display says.` },
		]);
	return adapter;
}

export const live = [
	operation({
		method: 'GET',
		path: '/changes',
		tag: 'Live',
		summary: 'What anybody entered after a change that was seen; without `after`, only the number to go on from',
		query: z.strictObject({ after: z.coerce.number().int().optional() }),
		response: z.object({ last: z.number(), changes: z.array(change) }),
		run: ({ query }) => changesAfter(query.after ?? -1),
	}),
	operation({
		method: 'GET',
		path: '/meters/:code/stream',
		tag: 'Live',
		summary: 'What a live meter shows, several times a second, as server-sent events',
		alsoAnswers: ['text/event-stream'],
		run: async ({ request, params, pool }) => {
			const adapter = meter(await requireSite(pool()), params.code!);
			return serverSentEvents(request, async (send, signal) => {
				for await (const message of adapter.open(signal)) send(message);
			});
		},
	}),
	operation({
		method: 'POST',
		path: '/meters/:code/act',
		tag: 'Live',
		summary: 'Rinse, dip, swirl, lift or store a simulated meter, or set its compensation and speed',
		body: action,
		response: z.object({ ok: z.literal(true) }),
		run: async ({ params, body, pool, now }) => {
			const context = await requireSite(pool());
			const adapter = meter(context, params.code!);
			if (!adapter.act)
				throw new Refusal(409, 'real-meter', [
					{ path: 'code', message: 'A real meter is dipped by hand; only a simulated one is told.' },
				]);
			if (body.do !== 'dip') adapter.act(body);
			else {
				if (!context.stations.some((s) => s.code === body.station))
					throw new Refusal(422, 'unknown-station', [
						{ path: 'station', message: `There is no station “${body.station}”.` },
					]);
				// The water that this station is expected to hold, unless the caller says what it is.
				const { engine } = await Judging.asOf(pool(), context, now, now);
				const expected = (q: 'ph' | 'ec' | 'temp', otherwise: number) => {
					const p = engine.expect(body.station, q, now);
					return p ? fromWorking(q, p.level) : otherwise;
				};
				adapter.act({
					do: 'dip',
					water: {
						ph: body.water?.ph ?? expected('ph', 6.5),
						ecUsCm: body.water?.ec_us_cm ?? expected('ec', 500),
						tempC: body.water?.temp_c ?? expected('temp', 20),
					},
				});
			}
			return { ok: true };
		},
	}),
];
