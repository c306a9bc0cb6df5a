import mqtt, { type MqttClient } from 'mqtt';
import { isQuantity } from '@/core/quantity';
import { Refusal } from '@/service/refusal';
import { SentSamples } from '@/service/sensors/read-samples';
import type { Pool } from '@/store/pool';
import { nodesNamed } from '@/store/sensors/nodes';
import { isDatabaseDown } from '../database-down';
import { log } from '../log';
import { takeAndTell } from './ingest';
import { understood } from './payload';

/**
 * Listens to a broker: topic `cordwain/<node>/<quantity>`, with the number of the site before the node where two sites have a node of
 * one name (`cordwain/2/<node>/<quantity>`), payload a number in the canonical unit of the quantity or
 * `{"at","value","unit"}`. A message is acknowledged once what it says is stored, so that the broker keeps what comes while the
 * database is away; one that cannot be understood is acknowledged too, and named in the log.
 */
const TOPICS = ['cordwain/+/+', 'cordwain/+/+/+'];
/** The same each time, so that the broker knows whose messages it keeps. */
const CLIENT = 'cordwain';
const TRY_AGAIN_MS = 2000;
const MOST_BYTES = 2000;

/** @param home of the installation */
export function listen(home: Pool, url: string): MqttClient {
	const client = mqtt.connect(url, {
		clientId: CLIENT,
		clean: false,
		reconnectPeriod: TRY_AGAIN_MS,
		resubscribe: true,
	});
	client.on('connect', () => client.subscribe(TOPICS, { qos: 1 }));
	client.on('error', (error) => log.warn({ error }, 'mqtt'));
	client.handleMessage = (packet, acknowledge) => {
		const payload = Buffer.isBuffer(packet.payload) ? packet.payload : Buffer.from(packet.payload);
		void take(home, packet.topic, payload).then(() => acknowledge());
	};
	return client;
}

/** Stores one message, however long the database is away. */
async function take(home: Pool, topic: string, payload: Buffer): Promise<void> {
	const heard = Date.now();
	for (;;) {
		try {
			const wrong = await takeOnce(home, topic, payload, heard);
			if (wrong) log.warn({ topic: topic.split('/').length, wrong }, 'mqtt message left out');
			return;
		} catch (error) {
			if (!isDatabaseDown(error)) {
				log.error({ error }, 'mqtt message');
				return;
			}
			await new Promise((resolve) => setTimeout(resolve, TRY_AGAIN_MS));
		}
	}
}

/** @returns why it cannot be taken; null once it is stored */
async function takeOnce(home: Pool, topic: string, payload: Buffer, heard: number): Promise<string | null> {
	const [, ...named] = topic.split('/');
	const [quantity, code, site] = named.reverse();
	if (!code || !quantity || !isQuantity(quantity) || (site !== undefined && !/^[1-9]\d{0,8}$/.test(site)))
		return 'not cordwain/<node>/<quantity>, nor with the number of a site before the node';
	if (payload.length > MOST_BYTES) return 'too long';
	const sample = understood(payload.toString('utf8'), quantity, heard);
	if (sample === null) return 'neither a number nor {"at","value","unit"}';
	const [node, other] = await nodesNamed(home, code, site === undefined ? null : Number(site));
	if (!node) return 'no such node';
	if (other) return 'two sites have a node of this name: send to cordwain/<number of the site>/<node>/<quantity>';
	const sent = new SentSamples(node.instrument, heard);
	sent.take((field) => field, { ...sample, quantity });
	try {
		await takeAndTell(node, sent.done(), heard);
	} catch (error) {
		if (error instanceof Refusal) return error.message;
		throw error;
	}
	return null;
}
