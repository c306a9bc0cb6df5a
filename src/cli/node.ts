// npm run node -- --station CODE [--token T] [--url U] [--mqtt U] [--every S] [--seed N] [--fault F --after S --for S] [--count N]
import { parseArgs } from 'node:util';
import mqtt from 'mqtt';
import { fromCanonical, type Quantity } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';
import { Outbox, type Tried, type WireSample } from '@/sim/outbox';
import {
	channel,
	isNodeQuantity,
	NODE_FAULTS,
	type NodeFault,
	type NodeQuantity,
	SensorNode,
	type Truth,
} from '@/sim/sensor-node';

/**
 * A simulated sensor node: it goes on from where the node of this code stands, measures as a real one would, keeps what nobody takes,
 * and sends it over HTTP or MQTT. For a first look, and for tests of what a node does when something is away.
 */
const USAGE =
	'npm run node -- --station pond-post [--every 5] [--token T] [--url http://127.0.0.1:4400] [--mqtt mqtt://127.0.0.1:1883] [--fault probe-in-air --after 10 --for 30] [--count N] [--seed N]';

interface NodeSaid {
	code: string;
	station: string;
	series: { quantity: Quantity }[];
}
const DEFAULTS: Record<NodeQuantity, number> = {
	ph: 5.9,
	ec: 1.8,
	temp: 20,
	do: 8,
	level: 250,
	air_temp: 23,
	humidity: 65,
	moisture: 60,
	substrate_ec: 2.4,
	flow: 30,
};

async function main(): Promise<void> {
	const { values: o } = parseArgs({
		options: {
			station: { type: 'string' },
			token: { type: 'string' },
			url: { type: 'string', default: 'http://127.0.0.1:4400' },
			mqtt: { type: 'string' },
			every: { type: 'string', default: '5' },
			seed: { type: 'string', default: '1' },
			fault: { type: 'string' },
			after: { type: 'string', default: '10' },
			for: { type: 'string', default: '30' },
			count: { type: 'string' },
		},
	});
	const code = o.station;
	const fault = o.fault as NodeFault | undefined;
	if (!code || (fault && !NODE_FAULTS.includes(fault)))
		throw new Error(`Usage: ${USAGE}\nFaults: ${NODE_FAULTS.join(', ')}`);
	const api = `${o.url.replace(/\/$/, '')}/api/v1`;
	const node = await ask<{ nodes: NodeSaid[] }>(`${api}/nodes`).then((a) => a.nodes.find((n) => n.code === code));
	if (!node) throw new Error(`There is no node “${code}” at ${o.url}. Make it in Setup, under Sensor nodes.`);
	const told = node.series.map((s) => s.quantity).filter(isNodeQuantity);
	const quantities = told.length > 0 ? told : (['ph', 'ec', 'temp'] as const);
	const truth = await standing(api, node, quantities);
	const token = o.mqtt
		? ''
		: (o.token ?? (await ask<{ token: string }>(`${api}/nodes/${encodeURIComponent(code)}/token`, 'POST')).token);
	const attempt = o.mqtt ? await overMqtt(o.mqtt, code) : overHttp(api, token);
	const begun = Date.now();
	const sensor = new SensorNode(
		Number(o.seed),
		quantities.map((q) => channel(q)),
		begun,
	);
	const outbox = new Outbox();
	let count = Number(o.count ?? Number.POSITIVE_INFINITY);
	process.stdout.write(`${code} sends ${quantities.join(', ')} every ${o.every} s. Ctrl-C stops it.\n`);
	for (let next = begun; count > 0; count--) {
		const now = Date.now();
		const s = (now - begun) / 1000;
		const wrong = fault && s >= Number(o.after) && s < Number(o.after) + Number(o.for) ? fault : null;
		outbox.put(sensor.sample(now, truth, wrong).map((x) => ({ at: formatTime(now), ...x })));
		await outbox.send(now, attempt);
		if (outbox.size > 0) process.stdout.write(`${outbox.size} samples wait.\n`);
		next += Number(o.every) * 1000;
		await new Promise((resolve) => setTimeout(resolve, Math.max(next - Date.now(), 0)));
	}
	while (outbox.size > 0) {
		await outbox.send(Date.now(), attempt);
		await new Promise((resolve) => setTimeout(resolve, 200));
	}
	process.exit(0);
}

async function ask<T>(url: string, method = 'GET'): Promise<T> {
	const response = await fetch(url, { method });
	if (!response.ok) throw new Error(`${url} answers ${response.status}: ${(await response.text()).slice(0, 300)}`);
	return (await response.json()) as T;
}

/** What the node showed last, or what is usual. */
async function standing(api: string, node: NodeSaid, quantities: readonly NodeQuantity[]): Promise<Truth> {
	const truth: Truth = {};
	for (const q of quantities) {
		const to = new Date();
		const from = new Date(to.getTime() - 120 * 86_400_000);
		const { points } = await ask<{ points: { value: number }[] }>(
			`${api}/stations/${encodeURIComponent(node.station)}/series?quantity=${q}&of=sensor&from=${from.toISOString()}&to=${to.toISOString()}&points=2000`,
		);
		const last = points.at(-1)?.value;
		truth[q] = last === undefined ? DEFAULTS[q] : fromCanonical(last, channel(q).unit);
	}
	return truth;
}

function overHttp(api: string, token: string): (batch: readonly WireSample[]) => Promise<Tried> {
	return async (samples) => {
		try {
			const response = await fetch(`${api}/ingest`, {
				method: 'POST',
				headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
				body: JSON.stringify({ samples }),
				signal: AbortSignal.timeout(20_000),
			});
			if (response.status === 202) return 'sent';
			const text = await response.text();
			if (response.status === 429 || response.status >= 500)
				return { againInS: Number(response.headers.get('retry-after') ?? 0) };
			process.stderr.write(`Not taken (${response.status}): ${text.slice(0, 300)}\n`);
			if (response.status === 401) process.exit(1);
			return 'refused';
		} catch {
			return { againInS: 0 };
		}
	};
}

async function overMqtt(url: string, code: string): Promise<(batch: readonly WireSample[]) => Promise<Tried>> {
	const client = mqtt.connect(url, { reconnectPeriod: 1000, queueQoSZero: false });
	client.on('error', () => {});
	return async (samples) => {
		if (!client.connected) return { againInS: 1 };
		try {
			for (const { quantity, ...s } of samples)
				await Promise.race([
					client.publishAsync(`cordwain/${code}/${quantity}`, JSON.stringify(s), { qos: 1 }),
					new Promise((_, fail) => setTimeout(() => fail(new Error('no answer')), 5000)),
				]);
			return 'sent';
		} catch {
			return { againInS: 1 };
		}
	};
}

main().catch((error: Error) => {
	process.stderr.write(`${error.message}\n`);
	process.exit(1);
});
