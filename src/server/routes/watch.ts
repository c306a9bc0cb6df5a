import { watch as resource } from '@/contract/watch';
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
import { handle } from '../dispatch';
import { lookSoon } from '../watch/watching';

const MAILS = 50;
const changed = { kind: 'watch', station: null, by: '', readings: [] } as const;

export const watch = handle(resource, {
	'GET /watch': async ({ db, site }) => watchView(db, await site()),
	'POST /watch/conditions': async ({ body, db, who, announce }) => {
		const id = await saveCondition(db, body, who);
		announce({ ...changed, readings: [] });
		lookSoon();
		return { id };
	},
	'POST /watch/conditions/:id/off': async ({ params, body, db, who, announce }) => {
		await turnCondition(db, params.id, body.off, who);
		announce({ ...changed, readings: [] });
		lookSoon();
		return { ok: true };
	},
	'PUT /watch/settings': async ({ body, db, who }) => {
		await saveWatchSettings(db, body, who);
		lookSoon();
		return { ok: true };
	},
	'POST /watch/alerts/:id/snooze': async ({ params, body, db, who, now, announce }) => {
		await snooze(db, params.id, body.minutes, body.reason, { who, now });
		announce({ ...changed, readings: [] });
		lookSoon();
		return { ok: true };
	},
	'POST /watch/seen': async ({ db, now, announce }) => {
		await seeAlerts(db, now);
		announce({ ...changed, readings: [] });
		return { ok: true };
	},
	'GET /mailbox': async ({ db }) => ({
		open: settings().CORDWAIN_MAILBOX !== undefined,
		mails: await listStandInMail(db, MAILS),
	}),
});
