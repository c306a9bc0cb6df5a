import { OPEN_DOUBTS } from '@/core/trust/trust';
import type { Db } from '@/store/pool';
import { type JudgedReading, latestReadings, listReadings } from '@/store/readings';
import type { RoundRow } from '@/store/rounds';
import { dueWords } from '@/words/en/due';
import { fleet } from './probes';
import { currentRound, dueAlongTheLine, type StationDue } from './rounds';
import type { SiteContext } from './site';

/** The line as Round shows it: each station with its newest readings. */
export interface RoundStation {
	code: string;
	name: string;
	kind: string;
	about: string;
	fedBy: string[];
	readings: Partial<Record<'ph' | 'ec' | 'temp', JudgedReading>>;
	newest: number | null;
	due: StationDue;
}

export interface RoundView {
	stations: RoundStation[];
	/** Doubtful readings that wait for a decision, newest first. */
	toDecide: JudgedReading[];
	/** The round under way or just done. */
	round: RoundRow | null;
	/** Probes that want a standard before they are used. */
	/** Caps whose solution wants renewing. */
	wantsSolution: { instrument: string; quantity: 'ph' | 'ec'; days: number }[];
	wantsStandard: { instrument: string; quantity: 'ph' | 'ec'; dueAt: number; reason: string }[];
}

export async function roundView(db: Db, context: SiteContext, now: number): Promise<RoundView> {
	const round = await currentRound(db, context, now);
	const [latest, toDecide, due, probes] = await Promise.all([
		latestReadings(db, context.site.id),
		listReadings(db, context.site.id, {
			...OPEN_DOUBTS,
			limit: 12,
		}),
		dueAlongTheLine(db, context, now, round),
		fleet(db, context, now),
	]);
	const stations = context.inUse.stations
		.filter((s) => s.kind !== 'standard')
		.map((s): RoundStation => {
			const own = latest.filter((r) => r.station === s.code);
			const newestOf = (...quantities: string[]) =>
				own.filter((r) => quantities.includes(r.quantity)).sort((a, b) => b.at - a.at)[0];
			const system = context.systems.find((y) => y.code === s.system);
			const volume = s.volumeL ?? system?.volumeL;
			return {
				code: s.code,
				name: s.name,
				kind: s.kind,
				about: [
					system && s.kind !== 'drain' ? system.crop : s.kind.replace('_', ' '),
					volume ? `${volume.toLocaleString('en-GB')} L` : '',
				]
					.filter(Boolean)
					.join(' · '),
				fedBy: s.fedBy,
				readings: { ph: newestOf('ph'), ec: newestOf('ec', 'tds'), temp: newestOf('temp') },
				newest: own.length === 0 ? null : Math.max(...own.map((r) => r.at)),
				due: due.find((d) => d.code === s.code)!,
			};
		});
	return {
		stations,
		toDecide,
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
