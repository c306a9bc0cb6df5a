import { createHash, randomBytes } from 'node:crypto';
import type { Quantity } from '@/core/quantity';
import { PLAIN_INSTRUMENT, putInstrument } from '@/store/line';
import type { Db } from '@/store/pool';
import {
	findNode,
	listNodes,
	listSeries,
	type NodeRow,
	putNode,
	type SensorSeries,
	setToken,
} from '@/store/sensors/nodes';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { Refusal } from '../refusal';
import { requireSite, type SiteContext } from '../site';

/** A node with what it has told so far. */
export type NodeShown = NodeRow & {
	series: { quantity: Quantity; instrument: string; newestAt: number | null; usualS: number }[];
};

const shown = (node: NodeRow, all: readonly SensorSeries[]): NodeShown => ({
	...node,
	series: all
		.filter((s) => s.nodeId === node.id)
		.map((s) => ({
			quantity: s.quantity,
			instrument: s.instrument,
			newestAt: s.newestAt,
			usualS: Math.round(s.usualMs / 1000),
		})),
});

export async function nodesOf(db: Db, { site }: SiteContext): Promise<NodeShown[]> {
	const nodes = await listNodes(db, site.id);
	const all = await listSeries(db, site.id);
	return nodes.map((n) => shown(n, all));
}

/** Makes a node, with an instrument of its own, or changes it. */
export async function saveNode(
	db: Db,
	change: {
		code: string;
		name?: string | undefined;
		station: string;
		quantities?: readonly Quantity[] | undefined;
		keepDays?: number | null | undefined;
		retired?: boolean | undefined;
	},
	who: string,
): Promise<NodeShown> {
	return writing(db, async (client) => {
		const context = await requireSite(client);
		const siteId = context.site.id;
		const station = context.stations.find((s) => s.code === change.station);
		if (!station)
			throw new Refusal('unknown-station', [
				{ path: 'station', message: `There is no station “${change.station}”. Make it in Setup first.` },
			]);
		const before = await findNode(client, siteId, change.code);
		const name = change.name ?? before?.name ?? change.code;
		const instrumentId =
			context.instruments.find((i) => i.code === (before?.instrument ?? change.code))?.id ??
			(await putInstrument(client, siteId, {
				...PLAIN_INSTRUMENT,
				code: change.code,
				name,
				kind: 'sensor_node',
				quantities: {},
				continuous: true,
			}));
		await putNode(client, siteId, {
			code: change.code,
			name,
			stationId: station.id,
			instrumentId,
			quantities: change.quantities ?? before?.quantities ?? [],
			keepDays: change.keepDays === undefined ? (before?.keepDays ?? null) : change.keepDays,
			retired: change.retired ?? before?.retired ?? false,
		});
		await insertAudit(client, siteId, who, 'node.saved', change.code, { before, after: change });
		const saved = (await findNode(client, siteId, change.code))!;
		return shown(saved, await listSeries(client, siteId, { nodeId: saved.id }));
	});
}

const noSuchNode = (code: string) =>
	new Refusal('no-such-node', [{ path: 'code', message: `There is no node “${code}”. Make it in Setup.` }]);

/** What is kept of a token: it holds 256 bits of chance, so that its hash needs no salt and cannot be tried out. */
export const tokenHash = (token: string): Buffer => createHash('sha256').update(token).digest();

/** A new token in the place of the one before. It is nowhere kept but by who made it. */
export async function newToken(db: Db, code: string, who: string): Promise<string> {
	const token = `cw_${randomBytes(32).toString('base64url')}`;
	await changeToken(db, code, tokenHash(token), who);
	return token;
}
export const revokeToken = (db: Db, code: string, who: string): Promise<void> => changeToken(db, code, null, who);

async function changeToken(db: Db, code: string, hash: Buffer | null, who: string): Promise<void> {
	await writing(db, async (client) => {
		const { site } = await requireSite(client);
		const node = await findNode(client, site.id, code);
		if (!node) throw noSuchNode(code);
		await setToken(client, site.id, node.id, hash);
		await insertAudit(client, site.id, who, hash ? 'node.token' : 'node.revoked', code, {});
	});
}
