import { rounds as resource } from '@/contract/rounds';
import { roundView } from '@/service/round';
import { currentRound, dueAlongTheLine, endRound, startRound } from '@/service/rounds';
import { handle } from '../dispatch';

export const rounds = handle(resource, {
	'GET /rounds/line': async ({ db, site, now }) => roundView(db, await site(), now),
	'GET /rounds/today': async ({ db, site, now }) => {
		const context = await site();
		const round = await currentRound(db, context, now);
		const stations = await dueAlongTheLine(db, context, now, round);
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
	'POST /rounds': async ({ db, site, now, who }) => startRound(db, await site(), now, who),
	'POST /rounds/:id/finish': async ({ db, site, params, body, now, announce }) => {
		const done = await endRound(db, await site(), params.id, body.leftOut, now);
		announce({ kind: 'round', station: null, by: '' });
		return done;
	},
});
