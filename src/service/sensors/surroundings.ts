import type { SeriesQuantity } from '@/core/quantity';
import { decidedAt, keptStretches } from '@/core/series/decided';
import { disturbances, PUTS_RIGHT } from '@/core/series/disturbances';
import type { Beside, Stretches } from '@/core/series/stream-checks';
import { permits } from '@/core/trust/trust';
import type { Client } from '@/store/pool';
import { decisionsWithin } from '@/store/sensors/episodes';
import { doneAt, handReadings } from '@/store/sensors/memory';
import type { SensorSeries } from '@/store/sensors/nodes';
import type { SiteContext } from '../site';
import type { Probe } from './streams';

/** What else is known of a station while a probe told what it tells. */
export interface Around {
	disturbed: Stretches;
	kept: (quantity: SeriesQuantity) => Stretches;
	/** What hands read, and when the probe was put right; ascending. */
	hands: (quantity: SeriesQuantity) => readonly Beside[];
	/** What was decided about these times of a series, by number. */
	decisions: (seriesId: number, at: readonly number[]) => Uint8Array;
}

/** What was done this long before is still felt. */
const FELT_MS = 2 * 3_600_000;

export async function surroundingsOf(
	client: Client,
	context: SiteContext,
	probe: Probe,
	all: readonly { series: SensorSeries }[],
	from: number,
	upTo: number,
): Promise<Around> {
	const siteId = context.site.id;
	// An event is noted up to a quarter of an hour after what was done.
	const events = await doneAt(client, siteId, probe.station, from - FELT_MS, upTo + FELT_MS);
	const tells = all.some(({ series: { quantity } }) => quantity === 'ph' || quantity === 'ec');
	const hands = tells ? await handReadings(client, siteId, probe.stationId, from - FELT_MS, upTo + 1) : [];
	const decisions = await decisionsWithin(
		client,
		siteId,
		all.map(({ series }) => series.id),
		from,
		upTo,
	);
	const of = (seriesId: number) => decisions.filter((d) => d.seriesId === seriesId);
	const right = events.filter((e) => PUTS_RIGHT.has(e.kind)).map((e) => ({ at: e.at, value: null, by: '' }));
	const sound = hands.filter((h) => permits({ flag: h.flag, cause: h.cause, decision: h.decision }, 'compare'));
	const byQuantity = (quantity: SeriesQuantity): Beside[] =>
		[
			...sound
				.filter((h) => (h.quantity === 'ph' ? 'ph' : 'ec') === quantity)
				.map(({ at, value, by }) => ({ at, value, by })),
			...right,
		].sort((a, b) => a.at - b.at);
	const besides = { ph: byQuantity('ph'), ec: byQuantity('ec') };
	return {
		disturbed: disturbances(events),
		kept: (quantity) => {
			const series = all.find((x) => x.series.quantity === quantity)?.series;
			return series ? keptStretches(of(series.id)) : [];
		},
		hands: (quantity) => (quantity === 'ph' || quantity === 'ec' ? besides[quantity] : []),
		decisions: (seriesId, at) => {
			const own = of(seriesId);
			return own.length === 0 ? new Uint8Array(at.length) : Uint8Array.from(at, (t) => decidedAt(own, t));
		},
	};
}
