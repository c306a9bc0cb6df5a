import { meters as resource } from '@/contract/meters';
import { fromWorking } from '@/core/judge/working-scale';
import { Judging } from '@/service/judgement';
import { Refusal } from '@/service/refusal';
import type { SiteContext } from '@/service/site';
import { changesAfter } from '../changes';
import { handle } from '../dispatch';
import type { MeterAdapter } from '../meters/adapter';
import { meterOf } from '../meters/registry';
import { serverSentEvents } from '../sse';

function meter(context: SiteContext, instrument: string): MeterAdapter {
	const row = context.instruments.find((i) => i.code === instrument);
	const adapter = row && meterOf(context.site.id, row.code, row.live);
	if (!adapter)
		throw new Refusal('no-live-meter', [
			{ path: 'code', message: `“${instrument}” does not read live; type what its display says.` },
		]);
	return adapter;
}

export const meters = handle(resource, {
	'GET /changes': ({ query, asker }) => changesAfter(asker.site?.id ?? null, query.after ?? -1),
	'GET /meters/:code/stream': async ({ request, params, site }) => {
		const adapter = meter(await site(), params.code);
		return serverSentEvents(request, async (send, signal) => {
			for await (const message of adapter.open(signal)) send(message);
		});
	},
	'POST /meters/:code/act': async ({ params, body, site, db, now }) => {
		const context = await site();
		const adapter = meter(context, params.code);
		if (!adapter.act)
			throw new Refusal('real-meter', [
				{ path: 'code', message: 'A real meter is dipped by hand; only a simulated one is told.' },
			]);
		if (body.do !== 'dip') adapter.act(body);
		else {
			if (!context.stations.some((s) => s.code === body.station))
				throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${body.station}”.` }]);
			// The water that this station is expected to hold, unless the caller says what it is.
			const { engine } = await Judging.present(db, context, now);
			const expected = (q: 'ph' | 'ec' | 'temp', otherwise: number) => {
				const p = engine.expect(body.station, q, now);
				return p ? fromWorking(q, p.level) : otherwise;
			};
			adapter.act({
				do: 'dip',
				water: {
					ph: body.water?.ph ?? expected('ph', 6.5),
					ecUsCm: body.water?.ecUsCm ?? expected('ec', 500),
					tempC: body.water?.tempC ?? expected('temp', 20),
				},
			});
		}
		return { ok: true };
	},
});
