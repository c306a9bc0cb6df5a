import type { SheetRow } from '@/core/rhythm/sheet-row';
import type { Db } from '@/store/pool';
import { latestReadings } from '@/store/readings';
import { currentRound, dueAlongTheLine } from './rounds';
import type { SiteContext } from './site';

export async function sheetRows(db: Db, context: SiteContext, now: number): Promise<SheetRow[]> {
	const round = await currentRound(db, context, now);
	const due = await dueAlongTheLine(db, context, now, round);
	const latest = await latestReadings(db, context.site.id);
	return context.stations
		.filter((s) => s.kind !== 'standard')
		.map((s) => {
			const own = latest.filter((r) => r.station === s.code);
			const of = (...quantities: string[]) =>
				own.filter((r) => quantities.includes(r.quantity)).sort((a, b) => b.at - a.at)[0];
			const last: SheetRow['last'] = {};
			const [ph, ec, temp] = [of('ph'), of('ec', 'tds'), of('temp')];
			if (ph) last.ph = ph.restated ?? ph.value;
			if (ec) last.ec = ec.restated ?? ec.value;
			if (temp) last.temp = temp.value;
			return {
				station: s.code,
				name: s.name,
				due: due.find((d) => d.code === s.code)?.due.flatMap((d) => (d.due.due ? [d.quantity] : [])) ?? [],
				last,
				lastAt: own.length === 0 ? null : Math.max(...own.map((r) => r.at)),
			};
		});
}
