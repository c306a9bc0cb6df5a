import type { z } from 'zod';
import type { watch as contract } from '@/contract/watch';
import { isQuantity } from '@/core/quantity';
import type { Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import {
	failedDeliveries,
	findAlert,
	insertCondition,
	listAlerts,
	listConditions,
	markSeen,
	putWatchSettings,
	snoozeAlert,
	switchCondition,
	watchSettings,
} from '@/store/watch';
import { writing } from '@/store/writing';
import { conditionWords } from '@/words/en/watch';
import { requireReason } from '../decide';
import { Refusal } from '../refusal';
import { requireSite, type SiteContext } from '../site';
import { alertSentence } from './shown';

const ALERTS = 60;
const FAILED = 20;
type Answer = z.output<(typeof contract.operations)['GET /watch']['answer']>;
type Asked = z.output<(typeof contract.operations)['POST /watch/conditions']['body']>;
type Settings = z.output<(typeof contract.operations)['PUT /watch/settings']['body']>;

/** Everything about watching: what is watched for, what goes on, how it is told. Passwords and secrets are not told. */
export async function watchView(db: Db, context: SiteContext): Promise<Answer> {
	const siteId = context.site.id;
	const conditions = await listConditions(db, siteId);
	const alerts = await listAlerts(db, siteId, ALERTS);
	const settings = await watchSettings(db, siteId);
	const failed = await failedDeliveries(db, siteId, FAILED);
	return {
		conditions: conditions.map((c) => ({ ...c, words: conditionWords(c) })),
		alerts: alerts.flatMap((a) => {
			const c = conditions.find((x) => x.id === a.conditionId);
			if (!c) return [];
			return [
				{
					...a,
					station: c.station,
					kind: c.kind,
					quantity: c.quantity,
					words: alertSentence(context, c, a, false),
					endedWords: a.endedAt === null ? null : alertSentence(context, c, a, true),
				},
			];
		}),
		unseen: alerts.filter((a) => a.seenAt === null && a.toldAt !== null).length,
		failed: failed.map(({ alertId: _, ...f }) => f),
		settings: {
			quiet: settings.quiet,
			mail: settings.mail && { ...settings.mail, password: settings.mail.password === '' ? '' : KEPT },
			webhook: settings.webhook && { url: settings.webhook.url, secret: settings.webhook.secret === '' ? '' : KEPT },
		},
	};
}
/** Stands for a password that is kept and not shown; sent back it changes nothing. */
const KEPT = '········';

export async function saveCondition(db: Db, asked: Asked, who: string): Promise<number> {
	return writing(db, async (client) => {
		const context = await requireSite(client);
		const station = context.stations.find((s) => s.code === asked.station);
		if (!station)
			throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${asked.station}”.` }]);
		const quantity = asked.quantity ?? null;
		const needs = asked.kind === 'out-of-range' || asked.kind === 'will-leave' || asked.kind === 'below-level';
		if (needs && (quantity === null || !isQuantity(quantity) || quantity === ('tds' as never)))
			throw new Refusal('invalid', [{ path: 'quantity', message: 'Say of which quantity.' }]);
		if ((asked.kind === 'out-of-range' || asked.kind === 'will-leave') && !station.ranges[quantity!])
			throw new Refusal('no-range', [
				{ path: 'quantity', message: `${station.name} has no target range of it. Give it one in Setup first.` },
			]);
		if (asked.kind === 'below-level' && asked.least == null)
			throw new Refusal('invalid', [{ path: 'least', message: 'Say how much should be there at least.' }]);
		const id = await insertCondition(client, context.site.id, {
			stationId: station.id,
			kind: asked.kind,
			quantity,
			minutes: asked.minutes ?? null,
			hours: asked.hours ?? null,
			least: asked.least ?? null,
			byMail: asked.byMail ?? false,
			byWebhook: asked.byWebhook ?? false,
		});
		await insertAudit(client, context.site.id, who, 'watch.condition', String(id), asked);
		return id;
	});
}

export async function turnCondition(db: Db, id: number, off: boolean, who: string): Promise<void> {
	await writing(db, async (client) => {
		const { site } = await requireSite(client);
		if (!(await switchCondition(client, site.id, id, off)))
			throw new Refusal('no-such-id', [{ path: 'id', message: 'There is no such condition.' }]);
		await insertAudit(client, site.id, who, off ? 'watch.off' : 'watch.on', String(id), {});
	});
}

/** @param sealing how a password or a secret is kept, and how one that was kept is kept on */
export async function saveWatchSettings(
	db: Db,
	asked: Settings,
	who: string,
	sealing: Record<'seal' | 'stillSealed', (text: string, of: 'mail' | 'webhook') => string>,
): Promise<void> {
	await writing(db, async (client) => {
		const { site } = await requireSite(client);
		const before = await watchSettings(client, site.id);
		const kept = (now: string, was: string | undefined, of: 'mail' | 'webhook') =>
			now === KEPT ? sealing.stillSealed(was ?? '', of) : sealing.seal(now, of);
		await putWatchSettings(client, site.id, {
			quiet: asked.quiet ?? null,
			mail: asked.mail ? { ...asked.mail, password: kept(asked.mail.password, before.mail?.password, 'mail') } : null,
			webhook: asked.webhook
				? { url: asked.webhook.url, secret: kept(asked.webhook.secret, before.webhook?.secret, 'webhook') }
				: null,
		});
		await insertAudit(client, site.id, who, 'watch.settings', 'settings', {
			mail: asked.mail ? { host: asked.mail.host, to: asked.mail.to } : null,
			webhook: asked.webhook ? { url: asked.webhook.url } : null,
			quiet: asked.quiet ?? null,
		});
	});
}

/** @param minutes how long nothing more is told of it; 0 ends that */
export async function snooze(
	db: Db,
	id: number,
	minutes: number,
	reason: string,
	by: { who: string; now: number },
): Promise<void> {
	if (minutes > 0) requireReason('discard', reason);
	await writing(db, async (client) => {
		const { site } = await requireSite(client);
		if (!(await findAlert(client, site.id, id)))
			throw new Refusal('no-such-id', [{ path: 'id', message: 'There is no such alert.' }]);
		await snoozeAlert(client, site.id, id, minutes > 0 ? by.now + minutes * 60_000 : null, reason);
		await insertAudit(client, site.id, by.who, 'watch.snoozed', String(id), { minutes, reason });
	});
}

export const seeAlerts = (db: Db, now: number): Promise<void> =>
	writing(db, async (client) => markSeen(client, (await requireSite(client)).site.id, now));
