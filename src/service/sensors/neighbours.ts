import { instrumentThen } from '@/core/judge/context';
import { type Apart, apart } from '@/core/series/neighbours';
import type { Db } from '@/store/pool';
import { listSeries, type SensorSeries } from '@/store/sensors/nodes';
import { rollupsBetween } from '@/store/sensors/rollups';
import { believedReadings } from '../believed';
import type { SiteContext } from '../site';

/** So far back two sensors are held against one another. */
const BACK_MS = 14 * 86_400_000;
/** What was not heard for so long tells nothing of today. */
const SILENT_MS = 2 * 86_400_000;

export interface SensorsApart extends Omit<Apart, 'off'> {
	station: string;
	quantity: 'ph' | 'ec';
	first: string;
	second: string;
	/** Code of the one that hands speak against; null where nobody knows. */
	off: string | null;
}

/** Sensors of one quantity in one water that have come apart in the last two weeks, by the means of what is believed of each hour. */
export async function sensorsApart(db: Db, context: SiteContext, now: number): Promise<SensorsApart[]> {
	const live = (await listSeries(db, context.site.id)).filter(
		(s) => (s.quantity === 'ph' || s.quantity === 'ec') && s.newestAt !== null && now - s.newestAt < SILENT_MS,
	);
	const pairs = live.flatMap((a, i) =>
		live
			.slice(i + 1)
			.filter((b) => b.stationId === a.stationId && b.quantity === a.quantity)
			.map((b) => [a, b] as const),
	);
	if (pairs.length === 0) return [];
	const ids = [...new Set(pairs.flat().map((s) => s.id))];
	const hours = await rollupsBetween(db, context.site.id, ids, 'hour', now - BACK_MS, now);
	const told = (s: SensorSeries) =>
		hours.flatMap((r) =>
			r.seriesId === s.id && r.goodCount > 0 ? [{ at: r.at, value: r.goodTotal / r.goodCount }] : [],
		);
	const found: SensorsApart[] = [];
	for (const [a, b] of pairs) {
		const quantity = a.quantity as 'ph' | 'ec';
		const hands = await believedReadings(db, context, a.station, quantity, {
			from: now - BACK_MS,
		});
		const held = hands.filter((h) => !instrumentThen(context.known, h.instrument ?? '', h.at)?.continuous);
		const is = apart(quantity, told(a), told(b), held);
		if (!is) continue;
		found.push({
			...is,
			station: a.station,
			quantity,
			first: a.instrument,
			second: b.instrument,
			off: is.off === null ? null : is.off === 'first' ? a.instrument : b.instrument,
		});
	}
	return found;
}
