import type { Quantity } from '@/core/quantity';
import type { BelievedReading } from '@/core/reading/believed';
import { permits } from '@/core/trust/trust';
import type { Db } from '@/store/pool';
import { listMeasured } from '@/store/readings';
import type { SiteContext } from './site';

/** Of each quantity so many of the newest: what is drawn or reckoned from single readings needs no more. */
const MOST = 2000;
/** The clock of a phone may be before ours by so much: what it sends is of now all the same. */
export const CLOCKS_MS = 900_000;

/** What is believed of a station, oldest first, by what calibrations made of it. Several quantities of one unit come as one series. */
export async function believedReadings(
	db: Db,
	context: SiteContext,
	station: string,
	quantities: readonly Quantity[],
	span: { from: number; to?: number },
	most = MOST,
): Promise<BelievedReading[]> {
	// One after the other: inside a transaction there is one connection.
	const all: BelievedReading[] = [];
	for (const quantity of quantities)
		for (const r of await listMeasured(db, context.site.id, {
			station,
			quantity,
			...span,
			order: 'newest',
			limit: most,
		}))
			if (permits(r, 'history'))
				all.push({ id: r.id, at: r.at, value: r.restated ?? r.value, u: r.u ?? 0, instrument: r.instrument });
	return all.sort((a, b) => a.at - b.at);
}
