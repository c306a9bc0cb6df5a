import { settings } from '../../ops/settings.mjs';
import { database } from './database';
import { isDatabaseDown } from './database-down';
import { openBroker } from './ingest/broker';
import { listen } from './ingest/mqtt';
import { log } from './log';
import { beginWatching } from './watch/watching';

let begun = false;
const AGAIN_MS = 30_000;

/** Begins what is done without being asked, once for this process: listening to a broker, watching, letting go. */
export function beginBackground(): void {
	if (begun) return;
	begun = true;
	const {
		CORDWAIN_JOBS: jobs,
		MQTT_URL: broker,
		CORDWAIN_BROKER: own,
		CORDWAIN_MAILBOX: mailbox,
		DATABASE_URL: url,
	} = settings();
	// One that stands in is there before it is listened to.
	const standIn = own ? openBroker(own).catch((error) => log.warn({ error }, 'broker')) : null;
	if (broker) void Promise.resolve(standIn).then(() => listen(database(), broker));
	if (!jobs || !url) return;
	const begin = () =>
		beginWatching(database(), url, mailbox).catch((error) => {
			if (!isDatabaseDown(error)) log.error({ error }, 'watching');
			setTimeout(begin, AGAIN_MS).unref();
		});
	void begin();
}
