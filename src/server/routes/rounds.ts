import { rounds as resource } from '@/contract/rounds';
import { currentRound, dueAlongTheLine, endRound, startRound } from '@/service/rounds';
import { requireSite } from '@/service/site';
import { announce } from '../changes';
import { handle } from '../dispatch';

export const rounds = handle(resource, {
	'GET /rounds/today': async ({ pool, now }) => {
		const context = await requireSite(pool());
		const round = await currentRound(pool(), context, now);
		const stations = await dueAlongTheLine(pool(), context, now, round);
		return {
			round,
			stations: stations.map((s) => ({
				station: s.code,
				due: s.due.map(({ quantity, rhythm, due }) => ({
					quantity,
					rhythm,
					due: due.due,
					days: due.due ? due.sinceDays : due.inDays,
				})),
				retests: s.retests,
			})),
		};
	},
	'POST /rounds': async ({ pool, now, who }) => startRound(pool(), await requireSite(pool()), now, who),
	'POST /rounds/:id/finish': async ({ pool, params, body, now }) => {
		const done = await endRound(pool(), await requireSite(pool()), params.id, body.leftOut, now);
		announce({ kind: 'round', station: null, by: '' });
		return done;
	},
});
