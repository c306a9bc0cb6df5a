import { amendEarlier, OPEN_CAUSES } from '@/core/judge/amend';
import type { Reading, Verdict } from '@/core/reading/model';
import type { ReadingRow } from '@/files/readings-row';
import { copyVerdicts, type NewReading, reserveIds, storeReadings } from '@/store/copy-readings';
import { amendStored } from '@/store/judging';
import type { Client } from '@/store/pool';
import { type Judging, MAX_SAMPLE } from './judgement';
import { judgeFrom } from './judging';
import type { SiteContext } from './site';

interface By {
	source: string;
	who: string;
}

/** Rows as they are stored; neighbours of one time and station are one sample. */
function newRows(site: SiteContext, rows: readonly ReadingRow[], ids: readonly number[], by: By): NewReading[] {
	const stationIds = new Map(site.stations.map((s) => [s.code, s.id]));
	const instrumentIds = new Map(site.instruments.map((i) => [i.code, i.id]));
	let first = 0;
	return rows.map((r, i) => {
		const head = rows[first]!;
		if (r.at !== head.at || r.station !== head.station || i - first >= MAX_SAMPLE) first = i;
		return {
			sampleId: ids[first]!,
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
		};
	});
}

/** Stores rows that are to be judged later, with all that follows them. */
export async function storeUnjudged(
	client: Client,
	site: SiteContext,
	rows: readonly ReadingRow[],
	by: By,
): Promise<number[]> {
	const ids = await reserveIds(client, rows.length);
	await storeReadings(client, site.site.id, ids, newRows(site, rows, ids, by));
	return ids;
}

/** Judges rows in order of time, newer than everything stored, on their way into the store. */
export async function storeInOrder(
	client: Client,
	site: SiteContext,
	judging: Judging,
	rows: readonly ReadingRow[],
	by: By,
): Promise<Verdict[]> {
	if (rows.length === 0) return [];
	const ids = await reserveIds(client, rows.length);
	return storeJudged(client, site, judging, ids, newRows(site, rows, ids, by), rows);
}

/** The same for rows that have their samples: in order of time, each reading beside its row. */
export async function storeJudged(
	client: Client,
	site: SiteContext,
	judging: Judging,
	ids: readonly number[],
	fresh: readonly NewReading[],
	rows: readonly Reading[],
): Promise<Verdict[]> {
	const done: { reading: Reading; verdict: Verdict }[] = [];
	for (let i = 0; i < rows.length; ) {
		let end = i + 1;
		while (end < rows.length && fresh[end]!.sampleId === fresh[i]!.sampleId) end++;
		const sample = rows.slice(i, end);
		for (const [k, verdict] of judging.take(sample).entries()) {
			const one = { reading: sample[k]!, verdict };
			if (verdict.since !== undefined) {
				amendEarlier(done, one);
				if (verdict.since < rows[0]!.at)
					await amendStored(
						client,
						site.site.id,
						{ ...one.reading, from: verdict.since, before: rows[0]!.at },
						verdict,
						OPEN_CAUSES,
					);
			}
			done.push(one);
		}
		i = end;
	}
	const verdicts = done.map((d) => d.verdict);
	await storeReadings(client, site.site.id, ids, fresh);
	await copyVerdicts(client, site.site.id, ids, verdicts);
	await judging.store(client);
	return verdicts;
}

const PART = 10_000;

/** Judges everything from a time on in the transaction that stored it. */
export async function judgeAllFrom(
	client: Client,
	site: SiteContext,
	from: number,
	now: number,
	seen: (verdicts: ReadonlyMap<number, Verdict>) => void,
): Promise<void> {
	for (let at: number | null = from; at !== null; ) {
		const part: Awaited<ReturnType<typeof judgeFrom>> = await judgeFrom(client, site, at, now, PART);
		seen(part.verdicts);
		at = part.next;
	}
}
