import { setImmediate } from 'node:timers/promises';
import { amendEarlier, explains } from '@/core/judge/amend';
import type { Reading, Verdict } from '@/core/reading/model';
import type { ReadingRow } from '@/files/readings-row';
import { type NewReading, storeReadings, storeVerdicts } from '@/store/copy-readings';
import type { Client } from '@/store/pool';
import { amendStored } from '@/store/verdicts';
import { curvesNow } from './errors';
import { type Judging, MAX_SAMPLE } from './judgement';
import { judgeFrom } from './judging';
import { restateStretchesBefore } from './restate';
import type { SiteContext } from './site';

/** Whose rows they are, and how they came. */
export interface By {
	source: string;
	who: string;
}

/** For each of these rows the first of its sample: neighbours of one time and station are one. */
export function samplesOfRows(rows: readonly Reading[]): number[] {
	let first = 0;
	return rows.map((r, i) => {
		const head = rows[first]!;
		if (r.at !== head.at || r.station !== head.station || i - first >= MAX_SAMPLE) first = i;
		return first;
	});
}

/** Rows of a file as they are stored. */
export function newRows(
	site: SiteContext,
	rows: readonly ReadingRow[],
	samples: readonly number[],
	ids: readonly number[],
	by: By,
): NewReading[] {
	const stationIds = new Map(site.stations.map((s) => [s.code, s.id]));
	const instrumentIds = new Map(site.instruments.map((i) => [i.code, i.id]));
	return rows.map((r, i) => ({
		sampleId: ids[samples[i]!]!,
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
	}));
}

/** What rows have made sure of readings that were stored before them. */
interface Amendment {
	reading: Reading;
	verdict: Verdict;
	before: number;
}
export interface JudgedRows {
	verdicts: Verdict[];
	amendments: Amendment[];
}

/** Rows judged between two turns that other work of the process gets. */
const AT_A_TIME = 1000;

/**
 * Judges rows in order of time and learns from them, storing nothing.
 * @param samples of each row: the same for those that were read together
 */
export async function judgeRows(
	judging: Judging,
	rows: readonly Reading[],
	samples: readonly number[],
): Promise<JudgedRows> {
	const done: { reading: Reading; verdict: Verdict }[] = [];
	const amendments: Amendment[] = [];
	for (let i = 0, rest = AT_A_TIME; i < rows.length; ) {
		let end = i + 1;
		while (end < rows.length && samples[end] === samples[i]) end++;
		const sample = rows.slice(i, end);
		for (const [k, verdict] of judging.take(sample).entries()) {
			const one = { reading: sample[k]!, verdict };
			if (verdict.since !== undefined) {
				amendEarlier(done, one);
				if (verdict.since < rows[0]!.at) amendments.push({ ...one, before: rows[0]!.at });
			}
			done.push(one);
		}
		rest -= end - i;
		i = end;
		if (rest <= 0) {
			await setImmediate();
			rest = AT_A_TIME;
		}
	}
	return { verdicts: done.map((d) => d.verdict), amendments };
}

/** Stores rows with what was said of them and of those before them. */
export async function storeJudged(
	client: Client,
	siteId: number,
	ids: readonly number[],
	rows: readonly NewReading[],
	{ verdicts, amendments }: JudgedRows,
): Promise<void> {
	for (const { reading, verdict, before } of amendments)
		await amendStored(
			client,
			siteId,
			{ ...reading, from: verdict.since!, before },
			verdict,
			explains(verdict.deciding!),
		);
	await storeReadings(client, siteId, ids, rows);
	await storeVerdicts(client, siteId, ids, verdicts);
}

const PART = 10_000;

/** Judges everything from a time on in the transaction that stored it. */
export async function judgeAllFrom(
	client: Client,
	site: SiteContext,
	from: number,
	now: number,
	seen: (readings: number) => void = () => {},
): Promise<void> {
	const curves = curvesNow(client, site);
	await restateStretchesBefore(client, site, from, curves);
	for (let at: number | null = from; at !== null; ) {
		const part: Awaited<ReturnType<typeof judgeFrom>> = await judgeFrom(client, site, at, now, PART, curves);
		seen(part.verdicts.size);
		at = part.next;
	}
}
