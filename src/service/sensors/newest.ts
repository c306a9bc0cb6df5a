import type { SeriesQuantity } from '@/core/quantity';
import { DECISIONS, FLAG_OF, STREAM_CAUSES } from '@/core/series/findings';
import type { Db } from '@/store/pool';
import { listSeries } from '@/store/sensors/nodes';
import { newestSamples } from '@/store/sensors/samples';
import type { SiteContext } from '../site';
import { plainPoint, putRight } from './series';

/** What a sensor told last, as far as it is of today. */
export interface ToldLast {
	station: string;
	quantity: SeriesQuantity;
	at: number;
	value: number;
	/** What its calibrations make of it; null where they change nothing. */
	restated: number | null;
	flag: number;
	cause: string;
	decision: string | null;
}
/** What was not heard for so long is no longer shown as what a station is. */
const STALE_MS = 86_400_000;

/** What the sensors of all stations told last of some quantities, the one heard last where a station has several. */
export async function toldLast(
	db: Db,
	context: SiteContext,
	quantities: readonly SeriesQuantity[],
	now: number,
): Promise<ToldLast[]> {
	const fresh = (await listSeries(db, context.site.id)).filter(
		(s) => quantities.includes(s.quantity) && s.newestAt !== null && now - s.newestAt < STALE_MS,
	);
	const newest = new Map<string, (typeof fresh)[number]>();
	for (const s of fresh) {
		const key = `${s.stationId} ${s.quantity}`;
		if ((newest.get(key)?.newestAt ?? 0) < s.newestAt!) newest.set(key, s);
	}
	const chosen = [...newest.values()];
	if (chosen.length === 0) return [];
	const samples = new Map(
		(
			await newestSamples(
				db,
				context.site.id,
				chosen.map((s) => s.id),
			)
		).map((x) => [x.seriesId, x]),
	);
	const told: ToldLast[] = [];
	for (const s of chosen) {
		const x = samples.get(s.id);
		// The newest samples of a node may have been let go.
		if (!x) continue;
		const point = plainPoint(s, x.at, x.value, x.value, x.value, 1, FLAG_OF[x.cause]!, 1);
		await putRight(db, context, s, [point]);
		told.push({
			station: s.station,
			quantity: s.quantity,
			at: x.at,
			value: x.value,
			restated: point.restated,
			flag: point.flag,
			cause: STREAM_CAUSES[x.cause]!,
			decision: DECISIONS[x.decision]!,
		});
	}
	return told;
}
