import { z } from 'zod';
import { formatTime } from '@/core/quantity/time';
import { currentRound, dueAlongTheLine, endRound, startRound } from '@/service/rounds';
import { requireSite } from '@/service/site';
import type { RoundRow } from '@/store/rounds';
import { announce } from '../changes';
import { code, quantity } from '../contract';
import { operation } from '../operation';
import { idOf } from './readings';

const round = z.object({
	id: z.number(),
	started_at: z.string(),
	finished_at: z.string().nullable(),
	left_out: z.array(z.object({ station: z.string(), reason: z.string() })),
});
const roundToWire = (r: RoundRow): z.output<typeof round> => ({
	id: r.id,
	started_at: formatTime(r.startedAt),
	finished_at: r.finishedAt === null ? null : formatTime(r.finishedAt),
	left_out: r.leftOut,
});

export const rounds = [
	operation({
		method: 'GET',
		path: '/rounds/today',
		tag: 'Rounds',
		summary: 'The round of the last half day, and what is due along the line now',
		response: z.object({
			round: round.nullable(),
			stations: z.array(
				z.object({
					station: z.string(),
					due: z.array(z.object({ quantity, rhythm: z.string(), due: z.boolean(), days: z.number().nullable() })),
					retests: z.array(z.object({ reading_id: z.number(), quantity: z.string() })),
				}),
			),
		}),
		run: async ({ pool, now }) => {
			const context = await requireSite(pool());
			const r = await currentRound(pool(), context, now);
			const stations = await dueAlongTheLine(pool(), context, now, r);
			return {
				round: r && roundToWire(r),
				stations: stations.map((s) => ({
					station: s.code,
					due: s.due.map((d) => ({
						quantity: d.quantity,
						rhythm: d.rhythm,
						due: d.due.due,
						days: d.due.due ? d.due.sinceDays : d.due.inDays,
					})),
					retests: s.retests.map((t) => ({ reading_id: t.readingId, quantity: t.quantity })),
				})),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/rounds',
		tag: 'Rounds',
		summary: 'Begin a round, or go on with the one that is under way',
		response: round,
		status: 201,
		run: async ({ pool, now, who }) => roundToWire(await startRound(pool(), await requireSite(pool()), now, who)),
	}),
	operation({
		method: 'POST',
		path: '/rounds/:id/finish',
		tag: 'Rounds',
		summary: 'Finish a round, with what was left out and why; finishing twice changes nothing',
		body: z.strictObject({
			left_out: z
				.array(z.strictObject({ station: code, reason: z.string().max(500) }))
				.max(500)
				.optional(),
		}),
		response: round,
		run: async ({ pool, params, body, now }) => {
			const done = await endRound(pool(), await requireSite(pool()), idOf(params.id), body.left_out ?? [], now);
			announce({ kind: 'round', station: null, by: '' });
			return roundToWire(done);
		},
	}),
];
