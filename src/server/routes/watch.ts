import { watch as resource } from '@/contract/watch';
import { requireOwner } from '@/service/people/sign-ins';
import {
	saveCondition,
	saveWatchSettings,
	seeAlerts,
	snooze,
	turnCondition,
	watchView,
} from '@/service/watch/settings';
import { listStandInMail } from '@/store/watch';
import { settings } from '../../../ops/settings.mjs';
import { database } from '../database';
import { handle, type Surroundings } from '../dispatch';
import { seal, stillSealed } from '../seal';
import { lookSoon } from '../watch/watching';

const MAILS = 50;
const stirred = ({ announce, asker }: Pick<Surroundings<unknown>, 'announce' | 'asker'>, look = true): void => {
	announce({ kind: 'watch', station: null, by: '', readings: [] });
	if (look && asker.site) lookSoon(asker.site.id);
};

export const watch = handle(resource, {
	'GET /watch': async ({ db, site }) => watchView(db, await site()),
	'POST /watch/conditions': async ({ body, db, who, ...here }) => {
		const id = await saveCondition(db, body, who);
		stirred(here);
		return { id };
	},
	'POST /watch/conditions/:id/off': async ({ params, body, db, who, ...here }) => {
		await turnCondition(db, params.id, body.off, who);
		stirred(here);
		return { ok: true };
	},
	'PUT /watch/settings': async ({ body, db, who, ...here }) => {
		await saveWatchSettings(db, body, who, { seal, stillSealed });
		stirred(here);
		return { ok: true };
	},
	'POST /watch/alerts/:id/snooze': async ({ params, body, db, who, now, ...here }) => {
		await snooze(db, params.id, body.minutes, body.reason, { who, now });
		stirred(here);
		return { ok: true };
	},
	'POST /watch/seen': async ({ db, now, ...here }) => {
		await seeAlerts(db, now);
		stirred(here, false);
		return { ok: true };
	},
	'GET /mailbox': async ({ asker }) => {
		// It is of every site.
		requireOwner(asker);
		return {
			open: settings().CORDWAIN_MAILBOX !== undefined,
			mails: await listStandInMail(database(), MAILS),
		};
	},
});
