import { wallTime } from '@/core/quantity/time';
import { isQuiet } from '@/core/watch/condition';
import { type Client, type Pool, transaction } from '@/store/pool';
import {
	type AlertRow,
	alertTold,
	type ConditionRow,
	endAlert,
	insertAlert,
	insertDelivery,
	listConditions,
	untoldAlerts,
	type WatchSettings,
	watchAlone,
	watchSettings,
} from '@/store/watch';
import { loadSite, type SiteContext } from '../site';
import { Watching } from './evaluate';

/** Puts a message into the queue, in the transaction that made it. */
export type Send = (client: Client, delivery: { siteId: number; id: number }) => Promise<void>;

/**
 * Looks at every condition, notes what begins and what is over, and has it told: one message for a beginning and one for its end, held
 * back in quiet hours and while it is snoozed.
 * @returns whether anything began, ended or was told
 */
export async function watch(pool: Pool, now: number, send: Send): Promise<boolean> {
	return transaction(pool, async (client) => {
		await watchAlone(client);
		const context = await loadSite(client);
		if (!context) return false;
		const siteId = context.site.id;
		const conditions = await listConditions(client, siteId);
		if (conditions.length === 0) return false;
		let moved = false;
		const open = (await untoldAlerts(client, siteId)).filter((a) => a.endedAt === null);
		const watching = new Watching(client, context, now);
		for (const c of conditions) {
			const alert = open.find((a) => a.conditionId === c.id);
			if (c.off) {
				if (alert) await endAlert(client, siteId, alert.id, now);
				continue;
			}
			const { state, expectedAt } = await watching.look(c, alert !== undefined);
			// What nobody can tell leaves it as it was.
			if (state === null) continue;
			if (state.holds && !alert)
				await insertAlert(client, siteId, {
					conditionId: c.id,
					since: state.since,
					value: state.value,
					limit: state.limit,
					expectedAt,
					now,
				});
			else if (!state.holds && alert) await endAlert(client, siteId, alert.id, now);
			else continue;
			moved = true;
		}
		return (await tell(client, context, conditions, now, send)) || moved;
	});
}

/** Tells what has to be told now. */
async function tell(
	client: Client,
	context: SiteContext,
	conditions: readonly ConditionRow[],
	now: number,
	send: Send,
): Promise<boolean> {
	const siteId = context.site.id;
	const settings = await watchSettings(client, siteId);
	if (isQuiet(settings.quiet, minuteOfDay(now, context.site.timezone))) return false;
	let told = false;
	for (const a of await untoldAlerts(client, siteId)) {
		const condition = conditions.find((c) => c.id === a.conditionId);
		if (!condition || (a.snoozedUntil !== null && a.snoozedUntil > now)) continue;
		const says = saysNow(a);
		if (says === null) continue;
		if (says !== 'neither')
			for (const way of waysOf(condition, settings)) {
				const id = await insertDelivery(client, siteId, { alertId: a.id, says, way });
				if (id !== null) await send(client, { siteId, id });
			}
		await alertTold(client, siteId, a.id, says, now);
		told = true;
	}
	return told;
}

/** What is to be told of an alert; an end whose beginning quiet hours held back is no news. */
function saysNow(a: AlertRow): 'begun' | 'ended' | 'neither' | null {
	if (a.endedAt === null) return a.toldAt === null ? 'begun' : null;
	if (a.toldAt === null) return 'neither';
	return a.endToldAt === null ? 'ended' : null;
}

const waysOf = (c: ConditionRow, s: WatchSettings): ('mail' | 'webhook')[] => [
	...(c.byMail && s.mail ? (['mail'] as const) : []),
	...(c.byWebhook && s.webhook ? (['webhook'] as const) : []),
];

const minuteOfDay = (at: number, zone: string): number => Math.floor((wallTime(at, zone) % 86_400_000) / 60_000);
