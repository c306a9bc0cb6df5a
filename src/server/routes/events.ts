import { events as resource } from '@/contract/events';
import { eventsCsv } from '@/service/export';
import { enterEvent } from '@/service/setup';
import { listEvents } from '@/store/events';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const events = handle(resource, {
	'GET /events': async ({ query, db, site, request }) => {
		const context = await site();
		if (wantsCsv(request)) return csvResponse(eventsCsv(db, context, query), 'events.csv');
		return { events: await listEvents(db, context.site.id, { ...query, limit: query.limit ?? 1000 }) };
	},
	'POST /events': async ({ body, db, site, now, who, announce }) => {
		const id = await enterEvent(db, await site(), { ...body, at: body.at ?? now }, { who, now });
		announce({ kind: 'event', station: body.station, by: '' });
		return { id };
	},
});
