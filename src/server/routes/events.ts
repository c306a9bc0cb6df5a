import { events as resource } from '@/contract/events';
import { eventsCsv } from '@/service/export';
import { enterEvent } from '@/service/setup';
import { requireSite } from '@/service/site';
import { listEvents } from '@/store/events';
import { announce } from '../changes';
import { csvResponse, wantsCsv } from '../csv-response';
import { handle } from '../dispatch';

export const events = handle(resource, {
	'GET /events': async ({ query, pool, request }) => {
		const context = await requireSite(pool());
		if (wantsCsv(request)) return csvResponse(eventsCsv(pool(), context, query), 'events.csv');
		return { events: await listEvents(pool(), context.site.id, { ...query, limit: query.limit ?? 1000 }) };
	},
	'POST /events': async ({ body, pool, now, who }) => {
		const id = await enterEvent(pool(), await requireSite(pool()), { ...body, at: body.at ?? now }, { who, now });
		announce({ kind: 'event', station: body.station, by: '' });
		return { id };
	},
});
