import { seriesQuantity, toCanonical } from '@/core/quantity';
import { saveNode } from '@/service/sensors/nodes';
import { type Coming, storeStreams } from '@/service/sensors/streams';
import { requireSite } from '@/service/site';
import { insertEvents } from '@/store/events';
import { type Client, homeOf } from '@/store/pool';
import { findNode, listSeries, makeSeries } from '@/store/sensors/nodes';
import { makeMonths } from '@/store/sensors/samples';
import { insertCondition, type NewCondition, putWatchSettings } from '@/store/watch';
import { POSTS, postSamples, slabCalibratedAt } from './posts';
import type { Season } from './written';

/** Puts up the two posts and stores what they have sent, judged as it would have been when it came. */
export async function loadPosts(client: Client, season: Season, end: number, days: number): Promise<void> {
	for (const { code, name, station } of POSTS) {
		await saveNode(client, { code, name, station }, 'grower');
		const context = await requireSite(client);
		const siteId = context.site.id;
		const node = (await findNode(client, siteId, code))!;
		if (code === 'slab-post')
			await insertEvents(client, siteId, [
				{
					at: slabCalibratedAt(end),
					stationId: node.stationId,
					kind: 'calibrated',
					amount: null,
					amountText: '',
					unitText: '',
					product: '',
					note: 'the pH of the post, in two buffers',
					extra: null,
					source: 'demo',
					enteredBy: 'grower',
				},
			]);
		const samples = postSamples(code, season, end, days);
		for (const quantity of new Set(samples.map((s) => seriesQuantity(s.quantity))))
			await makeSeries(client, siteId, {
				nodeId: node.id,
				stationId: node.stationId,
				instrumentId: node.instrumentId,
				quantity,
			});
		const coming: Coming[] = (await listSeries(client, siteId, { nodeId: node.id })).map((series) => {
			const own = samples.filter((s) => s.quantity === series.quantity);
			return { series, at: own.map((s) => s.at), value: own.map((s) => toCanonical(s.value, s.unit)) };
		});
		await makeMonths(
			client,
			homeOf(client),
			samples.filter((_, i) => i % 1000 === 0 || i === samples.length - 1).map((s) => s.at),
		);
		await storeStreams(
			client,
			context,
			{ stationId: node.stationId, station, instrumentId: node.instrumentId },
			coming,
		);
	}
}

/** What the grower of the yard wants to be told of; mail goes to the mailbox that stands in. */
export async function loadWatch(client: Client): Promise<void> {
	const { site, stations } = await requireSite(client);
	const id = (code: string) => stations.find((s) => s.code === code)!.id;
	const plain = { quantity: null, minutes: null, hours: null, least: null, byMail: true, byWebhook: false };
	const conditions: NewCondition[] = [
		{ ...plain, stationId: id('pond'), kind: 'out-of-range', quantity: 'ph', minutes: 30 },
		{ ...plain, stationId: id('pond'), kind: 'will-leave', quantity: 'ph', hours: 24, byMail: false },
		{ ...plain, stationId: id('pond'), kind: 'silent', minutes: 60 },
		{ ...plain, stationId: id('pond'), kind: 'out-of-water' },
		{ ...plain, stationId: id('pond'), kind: 'below-level', quantity: 'level', least: 220 },
		{ ...plain, stationId: id('slabs'), kind: 'doubtful', quantity: 'ph', minutes: 120 },
	];
	for (const c of conditions) await insertCondition(client, site.id, c);
	await putWatchSettings(client, site.id, {
		quiet: { from: 22 * 60, to: 6 * 60 },
		mail: {
			host: 'mailbox',
			port: 25,
			secure: false,
			user: '',
			password: '',
			from: 'cordwain@saltmarsh.example',
			to: 'grower@saltmarsh.example',
		},
		webhook: null,
	});
}
