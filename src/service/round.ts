import type { Pool } from '@/store/pool';
import { type JudgedReading, latestReadings, listReadings } from '@/store/readings';
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
}

export interface RoundView {
	stations: RoundStation[];
	/** Doubtful readings that wait for a decision, newest first. */
	toDecide: JudgedReading[];
}

export async function roundView(pool: Pool, context: SiteContext): Promise<RoundView> {
	const [latest, toDecide] = await Promise.all([
		latestReadings(pool, context.site.id),
		listReadings(pool, context.site.id, { flags: [3, 4], undecided: true, limit: 40 }),
	]);
	const stations = context.stations
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
			};
		});
	// A marked but harmless pH of pure water is no question to the grower.
	return { stations, toDecide: toDecide.filter((r) => r.cause !== 'low-ionic-strength').slice(0, 12) };
}
