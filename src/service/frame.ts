import type { Engine } from '@/core/judge/engine';
import { seenAt } from '@/core/judge/memory';
import { USUAL_WAITS } from '@/core/judge/waits';
import { fromWorking } from '@/core/judge/working-scale';
import type { SiteView } from '@/core/reading/site-view';
import { measuredHere } from '@/core/rhythm/due';
import { OPEN_DOUBTS } from '@/core/trust/trust';
import type { Db } from '@/store/pool';
import { countReadings } from '@/store/readings';
import { usualWaits } from '@/store/rounds';
import { Judging } from './judgement';
import { fleet } from './probes';
import type { SiteContext } from './site';
import { altitudeOf, placeOf } from './site';

/** What EC a station usually shows; null where nothing is known of it. */
function usualEc(engine: Engine, station: string, at: number): number | null {
	const expected = engine.expect(station, 'ec', at);
	return expected && expected.from > 0 ? fromWorking('ec', expected.level) : null;
}

/** What every page shows and needs: the site, its line, and an engine that can judge in the browser. */
export async function frameSite(db: Db, context: SiteContext, now: number): Promise<SiteView> {
	const probes = await fleet(db, context, now);
	const judging = await Judging.present(db, context, now);
	const waits = await usualWaits(db, context.site.id);
	return {
		name: context.site.name,
		sample: context.site.sample,
		timezone: context.site.timezone,
		units: {
			ec: context.site.units.ec ?? 'mS/cm',
			temp: context.site.units.temp ?? 'C',
			volume: context.site.units.volume ?? 'L',
		},
		stations: context.inUse.stations.map((s) => {
			const usualEcUsCm = usualEc(judging.engine, s.code, now);
			return {
				measured: measuredHere(s.rhythm, s.kind, usualEcUsCm),
				info: context.known.stations.get(s.code)!,
				name: s.name,
				shape: s.shape,
				position: s.position,
				protocol: s.protocol,
				usualEcUsCm,
				seen: seenAt(judging.engine.memory, s.code),
				usualWaitS: Object.fromEntries(waits.filter((w) => w.station === s.code).map((w) => [w.quantity, w.waitS])),
			};
		}),
		instruments: context.inUse.instruments.map((i) => ({
			info: context.known.instruments.get(i.code)!,
			name: i.name,
			kind: i.kind,
			live: i.live,
			printed: i.printedPh,
			probes: Object.fromEntries(
				probes
					.filter((p) => p.instrument.code === i.code)
					.map((p) => [
						p.quantity,
						{
							lastAt: p.lastCalibration?.at ?? null,
							error: p.today.error,
							u: p.today.u,
							told: p.today.told,
							dueAt: p.dueAt,
							record: p.record,
							state: judging.probeAt(p.instrument.code, p.quantity, now),
						},
					]),
			),
		})),
		retired: [...context.stations, ...context.instruments].flatMap((x) =>
			x.retired ? [{ code: x.code, name: x.name, station: 'position' in x }] : [],
		),
		settings: {
			waits: context.site.settings.waits ?? USUAL_WAITS,
			sensitivity: context.site.settings.sensitivity ?? 'usual',
			altitudeM: altitudeOf(context.site),
			place: placeOf(context.site),
		},
		now,
	};
}

export const undecidedCount = (db: Db, siteId: number): Promise<number> => countReadings(db, siteId, OPEN_DOUBTS);
