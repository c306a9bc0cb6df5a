import { episodes as resource } from '@/contract/episodes';
import { decideEpisode, reviewQueue } from '@/service/review';
import { handle } from '../dispatch';

export const episodes = handle(resource, {
	'GET /episodes': async ({ db, site }) => reviewQueue(db, await site()),
	'POST /episodes/:id/decision': async ({ params, body, db, site, who, now, announce }) => {
		const decided = await decideEpisode(db, await site(), params.id, body, { who, now });
		announce({ kind: 'decision', station: null, by: '' });
		return { decided };
	},
});
