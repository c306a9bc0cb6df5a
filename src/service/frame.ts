import type { SiteView } from '@/core/reading/site-view';
import type { Pool } from '@/store/pool';
import { countReadings } from '@/store/readings';
import { primedEngine } from './prime';
import { fleet } from './probes';
import type { SiteContext } from './site';
import { instrumentInfo, stationInfo } from './site';

/** What every page shows and needs: the site, its line, and an engine that can judge in the browser. */
export async function frameSite(pool: Pool, context: SiteContext, now: number): Promise<SiteView> {
	const engine = await primedEngine(pool, context, now, now);
	const probes = await fleet(pool, context, now);
	return {
		name: context.site.name,
		timezone: context.site.timezone,
		units: {
			ec: (context.site.units.ec as SiteView['units']['ec']) ?? 'mS/cm',
			temp: (context.site.units.temp as 'C' | 'F') ?? 'C',
		},
		stations: context.stations.map((s) => ({
			info: stationInfo(s, context.systems),
			name: s.name,
			position: s.position,
		})),
		instruments: context.instruments.map((i) => ({
			info: instrumentInfo(i),
			name: i.name,
			kind: i.kind,
			probes: Object.fromEntries(
				probes
					.filter((p) => p.instrument.code === i.code)
					.map((p) => [
						p.quantity,
						{
							lastAt: p.lastCalibration?.at ?? null,
							sigmaPerRootDay: p.drift.sigmaPerRootDay,
							ratePerDay: p.drift.ratePerDay,
						},
					]),
			),
		})),
		engine: engine.snapshot(),
		now,
	};
}

export const undecidedCount = (pool: Pool, siteId: number): Promise<number> =>
	countReadings(pool, siteId, { flags: [3, 4], undecided: true });
