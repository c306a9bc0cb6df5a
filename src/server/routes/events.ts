import { events as resource } from '@/contract/events';
import { correctEvent, enterEvent, eventStory, withdrawEvent } from '@/service/events';
import { eventsCsv } from '@/service/export';
import { listEvents } from '@/store/events';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const events = handle(resource, {
	'GET /events': async ({ query, db, site, request }) => {
		const context = await site();
		const { kind, ...asked } = query;
		const filter = { ...asked, kinds: kind && [kind] };
		if (wantsCsv(request)) return csvResponse(eventsCsv(db, context, filter), 'events.csv');
		return { events: await listEvents(db, context.site.id, { ...filter, limit: query.limit ?? 1000 }) };
	},
	'POST /events': async ({ body, db, site, now, who, announce }) => {
		const at = body.at ?? now;
		const id = await enterEvent(db, await site(), { ...body, at }, { who, now });
		announce({ kind: 'event', station: body.station, what: body.kind, at, by: '' });
		return { id };
	},
	'GET /events/:id/history': async ({ params, db, site }) => ({
		events: await eventStory(db, await site(), params.id),
	}),
	'POST /events/:id/correction': async ({ params, body, db, site, now, who, announce }) => {
		const id = await correctEvent(db, await site(), params.id, body, { who, now });
		announce({ kind: 'event', station: body.station ?? null, by: '' });
		return { id };
	},
	'POST /events/:id/withdrawal': async ({ params, body, db, site, now, who, announce }) => {
		await withdrawEvent(db, await site(), params.id, body, { who, now });
		announce({ kind: 'event', station: null, by: '' });
		return { ok: true };
	},
});
