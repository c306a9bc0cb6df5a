import type { BelievedReading } from '@/core/reading/believed';
import { permits } from '@/core/trust/trust';
import { measuredOf, type SeriesAsked } from '@/store/measured';
import type { Db } from '@/store/pool';
import type { SiteContext } from './site';

/** Of each series so many of the newest: what is drawn or reckoned from single readings needs no more. */
const MOST = 2000;
/** The clock of a phone may be before ours by so much: what it sends is of now all the same. */
export const CLOCKS_MS = 900_000;

/** What is believed of several series, each oldest first, by what calibrations made of it. */
export async function believedOf(
	db: Db,
	context: SiteContext,
	series: readonly SeriesAsked[],
	span: { from?: number; to?: number },
	most = MOST,
): Promise<BelievedReading[][]> {
	const measured = await measuredOf(db, context.site.id, series, { ...span, limit: most });
	return measured.map((list) =>
		list
			.filter((r) => permits(r, 'history'))
			.map((r) => ({ id: r.id, at: r.at, value: r.restated ?? r.value, u: r.u ?? 0, instrument: r.instrument }))
			.reverse(),
	);
}

/** What is believed of one series, oldest first. */
export const believedReadings = async (
	db: Db,
	context: SiteContext,
	station: string,
	quantity: SeriesAsked['quantity'],
	span: { from: number; to?: number },
	most = MOST,
): Promise<BelievedReading[]> => (await believedOf(db, context, [{ station, quantity }], span, most))[0]!;
