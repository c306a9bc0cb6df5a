import { formatTime } from '@/core/quantity/time';
import { dropOld } from '@/service/sensors/retention';
import { loadSite } from '@/service/site';
import { alertSentence } from '@/service/watch/shown';
import { watch } from '@/service/watch/watch';
import type { Client, Pool } from '@/store/pool';
import { deliveryTried, findAlert, findDelivery, listConditions, watchSettings } from '@/store/watch';
import { backUpTonight } from '../back-up';
import { announce } from '../changes';
import { isDatabaseDown } from '../database-down';
import { log } from '../log';
import { oneAtATime } from '../one-at-a-time';
import { type Queue, Work } from './boss';
import { openMailbox, sendMail } from './mail';
import { sendWebhook } from './webhook';

/**
 * Looks after conditions every minute and as soon as something arrives, sends what has to be told, and lets go what has come of age.
 */
interface Delivery {
	siteId: number;
	id: number;
}
/** After something arrived so long is waited for more. */
const SOON_MS = 400;

let soon: NodeJS.Timeout | null = null;
let look: (() => Promise<void>) | null = null;

/** Something arrived: conditions are looked at in a moment. Nothing where nobody watches. */
export function lookSoon(): void {
	if (!look || soon) return;
	soon = setTimeout(() => {
		soon = null;
		void look?.();
	}, SOON_MS);
}

export async function beginWatching(pool: Pool, databaseUrl: string, mailbox: number | undefined): Promise<void> {
	if (mailbox !== undefined) openMailbox(pool, mailbox);
	const work = await Work.begin(databaseUrl);
	const deliveries: Queue<Delivery> = await work.queue<Delivery>('deliver', (d, last) =>
		deliver(pool, d, last, mailbox),
	);
	const send = (client: Client, d: Delivery) => deliveries.add(client, d);
	look = oneAtATime(
		async () => {
			if (await watch(pool, Date.now(), send)) announce({ kind: 'watch', station: null, by: '', readings: [] });
		},
		(error) => {
			if (!isDatabaseDown(error)) log.error({ error }, 'watching');
		},
	);
	await work.every('watch', '* * * * *', async () => look?.());
	await work.every('let-go', '17 * * * *', () => dropOld(pool, Date.now()));
	await work.every('backup', '41 2 * * *', () => backUpTonight(pool, databaseUrl));
	lookSoon();
}

/** Sends one message; what it throws is tried again, and after the last try it is dead and shown. */
async function deliver(
	pool: Pool,
	{ siteId, id }: Delivery,
	last: boolean,
	mailbox: number | undefined,
): Promise<void> {
	const delivery = await findDelivery(pool, siteId, id);
	if (delivery?.state !== 'waiting') return;
	const context = await loadSite(pool);
	const alert = await findAlert(pool, siteId, delivery.alertId);
	const condition = (await listConditions(pool, siteId)).find((c) => c.id === alert?.conditionId);
	if (!context || !alert || !condition) return;
	const settings = await watchSettings(pool, siteId);
	const ended = delivery.says === 'ended';
	const text = alertSentence(context, condition, alert, ended);
	try {
		if (delivery.way === 'mail') {
			if (!settings.mail) throw new Error('No mail server is named any more.');
			await sendMail(
				settings.mail,
				{
					subject: `${context.site.name}: ${ended ? 'over' : 'begun'}: ${text.split('.')[0]!}`.slice(0, 180),
					text: `${text}\n`,
				},
				mailbox,
			);
		} else {
			if (!settings.webhook) throw new Error('No address is named any more.');
			await sendWebhook(
				settings.webhook,
				{
					id: `${alert.id}-${delivery.says}`,
					says: delivery.says,
					site: context.site.name,
					station: condition.station,
					kind: condition.kind,
					quantity: condition.quantity,
					value: alert.value,
					limit: alert.limit,
					since: formatTime(alert.since),
					ended_at: alert.endedAt === null ? null : formatTime(alert.endedAt),
					message: text,
				},
				Date.now(),
			);
		}
		await deliveryTried(pool, siteId, id, { state: 'sent', problem: '', now: Date.now() });
	} catch (error) {
		const problem = (error as Error).message.slice(0, 300);
		await deliveryTried(pool, siteId, id, { state: last ? 'dead' : 'waiting', problem, now: Date.now() });
		announce({ kind: 'watch', station: null, by: '', readings: [] });
		if (!last) throw error;
	}
}
