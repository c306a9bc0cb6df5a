import { formatTime } from '@/core/quantity/time';
import { dropOld, makeComingMonths } from '@/service/sensors/retention';
import { loadSite } from '@/service/site';
import { alertSentence } from '@/service/watch/shown';
import { watch } from '@/service/watch/watch';
import { lendWorkToSites } from '@/store/guard';
import { type Client, type Pool, transaction } from '@/store/pool';
import { sitesThatWait } from '@/store/site';
import { deliveryTried, findAlert, findDelivery, listConditions, watchSettings } from '@/store/watch';
import { backUpTonight } from '../back-up';
import { announce } from '../changes';
import { databaseOf } from '../database';
import { isDatabaseDown } from '../database-down';
import { log } from '../log';
import { oneAtATime } from '../one-at-a-time';
import { unseal } from '../seal';
import type { Queue } from './boss';
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

/** What looks at the conditions of a site; null where nobody watches. */
let lookAt: ((siteId: number) => Promise<void>) | null = null;
const soon = new Set<number>();

/** Something arrived: conditions of a site are looked at in a moment. Nothing where nobody watches. */
export function lookSoon(siteId: number): void {
	if (!lookAt || soon.has(siteId)) return;
	soon.add(siteId);
	setTimeout(() => {
		soon.delete(siteId);
		void lookAt?.(siteId);
	}, SOON_MS);
}

/** Does something for every site where it is wanted, one after the other; what fails at one is not left undone at the next. */
async function atEverySite(
	home: Pool,
	of: Parameters<typeof sitesThatWait>[1],
	work: (siteId: number, pool: Pool) => Promise<void>,
): Promise<void> {
	for (const id of await sitesThatWait(home, of))
		try {
			await work(id, await databaseOf(id));
		} catch (error) {
			if (isDatabaseDown(error)) throw error;
			log.error({ error }, 'background work of a site');
		}
}

/** @param home of the installation */
export async function beginWatching(home: Pool, databaseUrl: string, mailbox: number | undefined): Promise<void> {
	if (mailbox !== undefined) (await import('./mail')).openMailbox(home, mailbox);
	const { Work } = await import('./boss');
	const work = await Work.begin(databaseUrl);
	await transaction(home, lendWorkToSites);
	const deliveries: Queue<Delivery> = await work.queue<Delivery>('deliver', (d, last) => deliver(d, last, mailbox));
	const send = (client: Client, d: Delivery) => deliveries.add(client, d);
	const looks = new Map<number, () => Promise<void>>();
	lookAt = (siteId) => {
		const look =
			looks.get(siteId) ??
			oneAtATime(
				async () => {
					if (await watch(await databaseOf(siteId), Date.now(), send)) stirred(siteId);
				},
				(error) => {
					if (!isDatabaseDown(error)) log.error({ error }, 'watching');
				},
			);
		looks.set(siteId, look);
		return look();
	};
	const lookAtAll = () => atEverySite(home, 'watch', async (siteId) => lookAt?.(siteId));
	await work.every('watch', '* * * * *', lookAtAll);
	await work.every('let-go', '17 * * * *', async () => {
		await makeComingMonths(home, Date.now());
		await atEverySite(home, 'retention', (_, pool) => dropOld(pool, Date.now()));
	});
	await work.every('backup', '41 2 * * *', () => backUpTonight(home, databaseUrl));
	await lookAtAll();
}
const stirred = (siteId: number) => announce(siteId, { kind: 'watch', station: null, by: '', readings: [] });

/** Sends one message; what it throws is tried again, and after the last try it is dead and shown. */
async function deliver({ siteId, id }: Delivery, last: boolean, mailbox: number | undefined): Promise<void> {
	const pool = await databaseOf(siteId);
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
			const { sendMail } = await import('./mail');
			await sendMail(
				{ ...settings.mail, password: unseal(settings.mail.password, 'mail') },
				{
					subject: `${context.site.name}: ${ended ? 'over' : 'begun'}: ${text.split('.')[0]!}`.slice(0, 180),
					text: `${text}\n`,
				},
				mailbox,
			);
		} else {
			if (!settings.webhook) throw new Error('No address is named any more.');
			await sendWebhook(
				{ ...settings.webhook, secret: unseal(settings.webhook.secret, 'webhook') },
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
		stirred(siteId);
		if (!last) throw error;
	}
}
