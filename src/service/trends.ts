import { type Quantity, SERIES_QUANTITIES } from '@/core/quantity';
import { startOfDay } from '@/core/quantity/time';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { type Window, windowTo } from '@/core/trend/forecast';
import { paceChange } from '@/core/trend/pace';
import { cutsOf, type Trend, trendOf } from '@/core/trend/trend';
import { listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import { believedOf } from './believed';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

const DAY = 86_400_000;
const USUAL_DAYS = 56;
const MOST_EVENTS = 5000;

/** What a quantity does, when it comes to an end of its range, and whether its pace has changed. */
export type TrendOfQuantity = Trend & {
	quantity: Quantity;
	reaches: Window[];
	pace: { since: number; before: number; after: number; p: number } | null;
};

/** What each quantity of a station does between events; those that were never read there are left out. */
export async function trendsOf(
	db: Db,
	context: SiteContext,
	station: string,
	span: { from?: number | undefined; to?: number | undefined },
	now: number,
): Promise<TrendOfQuantity[]> {
	const here = context.stations.find((s) => s.code === station);
	if (!here) throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${station}”.` }]);
	const to = span.to ?? now;
	const from = span.from ?? to - USUAL_DAYS * DAY;
	const events = await listEvents(db, context.site.id, { from, to, station, limit: MOST_EVENTS });
	const zone = context.site.timezone;
	const dayOf = (at: number) => startOfDay(sheetDay(at, zone), zone) ?? at;
	const found: TrendOfQuantity[] = [];
	const series = SERIES_QUANTITIES.map((quantity) => ({ station, quantity }));
	const believed = await believedOf(db, context, series, { from, to });
	for (const [i, { quantity }] of series.entries()) {
		const points = believed[i]!;
		if (points.length === 0) continue;
		const kinds = cutsOf(quantity);
		const cuts = events.filter((e) => kinds.includes(e.kind)).map((e) => e.at);
		const trend = trendOf(points, cuts, dayOf);
		const pace = paceChange(points, cuts);
		found.push({
			quantity,
			...trend,
			// Of what lies in the past it is known what came.
			reaches:
				to < now
					? []
					: (here.ranges[quantity] ?? []).flatMap((limit) => windowTo(points, cuts, limit, now, dayOf, trend) ?? []),
			pace: pace && { since: pace.at, before: pace.before, after: pace.after, p: pace.p },
		});
	}
	return found;
}
