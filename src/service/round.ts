import type { z } from 'zod';
import type { roundLine } from '@/contract/rounds';
import { OPEN_DOUBTS } from '@/core/trust/trust';
import type { Db } from '@/store/pool';
import { type JudgedReading, latestReadings, listReadings } from '@/store/readings';
import { dueWords } from '@/words/en/due';
import { fleet } from './probes';
import { shownReading } from './reading-shown';
import { currentRound, dueAlongTheLine } from './rounds';
import { toldLast } from './sensors/newest';
import type { SiteContext } from './site';

/** The line as Round shows it: each station with its newest readings, what is due and what waits. */
export type RoundView = z.output<typeof roundLine>;

const seen = (r: JudgedReading | undefined) => (r ? shownReading(r) : null);

export async function roundView(db: Db, context: SiteContext, now: number): Promise<RoundView> {
	const round = await currentRound(db, context, now);
	const [latest, toDecide, due, probes, told] = await Promise.all([
		latestReadings(db, context.site.id),
		listReadings(db, context.site.id, {
			...OPEN_DOUBTS,
			limit: 12,
		}),
		dueAlongTheLine(db, context, now, round),
		fleet(db, context, now),
		toldLast(db, context, ['ph', 'ec'], now),
	]);
	const stations = context.inUse.stations
		.filter((s) => s.kind !== 'standard')
		.map((s): RoundView['stations'][number] => {
			const own = latest.filter((r) => r.station === s.code);
			const newestOf = (...quantities: string[]) =>
				own.filter((r) => quantities.includes(r.quantity)).sort((a, b) => b.at - a.at)[0];
			const system = context.systems.find((y) => y.code === s.system);
			const volume = s.volumeL ?? system?.volumeL;
			const { due: asked, retests } = due.find((d) => d.code === s.code)!;
			const days = asked.map((d) => (d.due.due ? { late: d.due.sinceDays ?? 0 } : { next: d.due.inDays }));
			const next = days.flatMap((d) => (d.next === undefined || d.next === null ? [] : [d.next]));
			return {
				station: s.code,
				name: s.name,
				about: [
					system && s.kind !== 'drain' ? system.crop : s.kind.replace('_', ' '),
					volume ? `${volume.toLocaleString('en-GB')} L` : '',
				]
					.filter(Boolean)
					.join(' · '),
				fedBy: s.fedBy,
				ph: seen(newestOf('ph')),
				ec: seen(newestOf('ec', 'tds')),
				told: told.filter((t) => t.station === s.code),
				newest: own.length === 0 ? null : Math.max(...own.map((r) => r.at)),
				due: asked.filter((d) => d.due.due).map((d) => d.quantity),
				overdueDays: Math.max(0, ...days.map((d) => d.late ?? 0)),
				nextInDays: next.length === 0 ? null : Math.min(...next),
				retest: retests.map((r) => r.quantity),
			};
		});
	return {
		stations,
		toDecide: toDecide.map(shownReading),
		round,
		wantsSolution: probes.flatMap((p) =>
			p.renewalOverdueDays === null
				? []
				: [{ instrument: p.instrument.code, quantity: p.quantity, days: p.renewalOverdueDays }],
		),
		wantsStandard: probes
			.filter((p) => p.dueAt !== null && p.dueAt <= now && p.instrument.kind !== 'sensor_node')
			.map((p) => ({
				instrument: p.instrument.code,
				quantity: p.quantity,
				dueAt: p.dueAt!,
				reason: dueWords(p.dueReason),
			})),
	};
}
