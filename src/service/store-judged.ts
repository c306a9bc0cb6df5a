import type { ReadingRow } from '@/core/format/readings-row';
import type { Engine } from '@/core/judge/engine';
import type { Verdict } from '@/core/reading/model';
import type { Client } from '@/store/pool';
import { copyReadings, type NewReading, reserveIds } from '@/store/readings';
import type { SiteContext } from './site';

const MAX_SAMPLE = 32;

/** Judges rows in their order, neighbours of one time and station as one sample, and stores them with their verdicts. */
export async function storeJudged(
	client: Client,
	site: SiteContext,
	engine: Engine,
	rows: readonly ReadingRow[],
	by: { source: string; who: string },
): Promise<Verdict[]> {
	if (rows.length === 0) return [];
	const stationIds = new Map(site.stations.map((s) => [s.code, s.id]));
	const instrumentIds = new Map(site.instruments.map((i) => [i.code, i.id]));
	const ids = await reserveIds(client, rows.length);
	const verdicts: Verdict[] = [];
	const fresh: NewReading[] = [];
	for (let i = 0; i < rows.length; ) {
		let end = i + 1;
		while (
			end < rows.length &&
			end - i < MAX_SAMPLE &&
			rows[end]!.at === rows[i]!.at &&
			rows[end]!.station === rows[i]!.station
		)
			end++;
		const sample = rows.slice(i, end);
		verdicts.push(...engine.take(sample));
		for (const r of sample)
			fresh.push({
				sampleId: ids[i]!,
				at: r.at,
				stationId: stationIds.get(r.station)!,
				instrumentId: r.instrument === '' ? null : instrumentIds.get(r.instrument)!,
				quantity: r.quantity,
				digits: r.digits,
				unitText: r.unitText,
				unit: r.unit,
				typed: null,
				value: r.value,
				halfWidth: r.halfWidth,
				tempC: r.tempC,
				waitS: r.waitS,
				note: r.note,
				extra: r.extra,
				supersedes: null,
				source: by.source,
				enteredBy: by.who,
			});
		i = end;
	}
	await copyReadings(client, site.site.id, ids, fresh, verdicts);
	return verdicts;
}
