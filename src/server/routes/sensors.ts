import { sensors as resource } from '@/contract/sensors';
import { decideStretch, waitingEpisodes } from '@/service/sensors/episodes';
import { sensorsApart } from '@/service/sensors/neighbours';
import { newToken, nodesOf, revokeToken, saveNode } from '@/service/sensors/nodes';
import { database } from '../database';
import { handle } from '../dispatch';
import { ingest } from '../ingest/ingest';

export const sensors = handle(resource, {
	'GET /nodes': async ({ db, site }) => ({ nodes: await nodesOf(db, await site()) }),
	'POST /nodes': async ({ body, db, who }) => saveNode(db, body, who),
	'POST /nodes/:code/token': async ({ params, db, who }) => ({ token: await newToken(db, params.code, who) }),
	'DELETE /nodes/:code/token': async ({ params, db, who }) => {
		await revokeToken(db, params.code, who);
		return { ok: true };
	},
	'POST /ingest': ({ request, now }) => ingest(database(), request, now),
	'GET /sensors/apart': async ({ db, site, now }) => ({ apart: await sensorsApart(db, await site(), now) }),
	'GET /sensors/episodes': async ({ db, site }) => ({ episodes: await waitingEpisodes(db, await site()) }),
	'POST /sensors/episodes/:id/decision': async ({ params, body, db, site, who, now, announce }) => {
		await decideStretch(db, await site(), params.id, body, { who, now });
		announce({ kind: 'sensors', station: null, by: '', readings: [] });
		return { ok: true };
	},
});
