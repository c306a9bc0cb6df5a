import { seriesQuantity } from '@/core/quantity';
import type { SheetRow } from '@/core/rhythm/sheet-row';
import type { Db } from '@/store/pool';
import { latestReadings } from '@/store/readings';
import { currentRound, dueAlongTheLine } from './rounds';
import type { SiteContext } from './site';

export async function sheetRows(db: Db, context: SiteContext, now: number): Promise<SheetRow[]> {
	const round = await currentRound(db, context, now);
	const due = await dueAlongTheLine(db, context, now, round);
	const latest = await latestReadings(db, context.site.id);
	return context.inUse.stations
		.filter((s) => s.kind !== 'standard')
		.map((s) => {
			const own = latest.filter((r) => r.station === s.code);
			const last: SheetRow['last'] = {};
			// Oldest first: of TDS and EC, which are one series, the newest is the last.
			for (const r of [...own].sort((a, b) => a.at - b.at)) last[seriesQuantity(r.quantity)] = r.restated ?? r.value;
			return {
				station: s.code,
				name: s.name,
				due: due.find((d) => d.code === s.code)?.due.flatMap((d) => (d.due.due ? [d.quantity] : [])) ?? [],
				last,
				lastAt: own.length === 0 ? null : Math.max(...own.map((r) => r.at)),
			};
		});
}
