import { settings } from '../../ops/settings.mjs';
import { database } from './database';
import { isDatabaseDown } from './database-down';
import { log } from './log';
import { beginWatching } from './watch/watching';

let begun = false;
const AGAIN_MS = 30_000;

/** A broker that stands in is there before it is listened to; most have none, and do without what knows of them. */
async function hear(own: number | undefined, broker: string | undefined): Promise<void> {
	if (own) {
		const { openBroker } = await import('./ingest/broker');
		await openBroker(own).catch((error) => log.warn({ error }, 'broker'));
	}
	if (!broker) return;
	const { listen } = await import('./ingest/mqtt');
	listen(database(), broker);
}

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
	void hear(own, broker).catch((error) => log.warn({ error }, 'broker'));
	if (!jobs || !url) return;
	const begin = () =>
		beginWatching(database(), url, mailbox).catch((error) => {
			if (!isDatabaseDown(error)) log.error({ error }, 'watching');
			setTimeout(begin, AGAIN_MS).unref();
		});
	void begin();
}
