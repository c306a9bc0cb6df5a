import { isDeepStrictEqual } from 'node:util';
import { amendEarlier, explains } from '@/core/judge/amend';
import type { Reading, Verdict } from '@/core/reading/model';
import { dropMemories, dueFrom, markDue, readingsFrom, setDue } from '@/store/judging';
import type { Client, Db } from '@/store/pool';
import { amendStored, putVerdicts, type StoredVerdict, storedVerdicts } from '@/store/verdicts';
import { writing } from '@/store/writing';
import { type Curves, curvesNow, loadCurves } from './errors';
import { asReading, Judging, samplesOf } from './judgement';
import { restateStored, restateStretchesBefore } from './restate';
import { requireSite, type SiteContext, versionsOf } from './site';

/**
 * The one place where stored readings are judged, by whichever road they come. A judgement goes on from what the checks
 * remembered of each station at a time; what is entered late, decided, corrected or learned of the past makes every reading from
 * then on be judged again, and only those whose verdict differs are written.
 */
/** So many readings are judged again at once, before the answer; the rest waits for a job. */
const AT_ONCE = 500;
/** Readings that one transaction of the job judges: others who write wait for it. */
const CHUNK = 2000;

export interface JudgedAgain {
	/** Of every reading that was gone through, by id. */
	verdicts: Map<number, Verdict>;
	changed: number;
	/** From when on there is more; null at the end. */
	next: number | null;
}

/** Judges what is stored from a time on, at most about so many readings, and writes the verdicts that differ. */
export async function judgeFrom(
	client: Client,
	site: SiteContext,
	from: number,
	now: number,
	limit = AT_ONCE,
	curves = curvesNow(client, site),
): Promise<JudgedAgain> {
	const { readings: part, next } = await readingsFrom(client, site.site.id, from, limit);
	const judging = await Judging.asOf(client, site, from, now, false);
	const before = await storedVerdicts(
		client,
		site.site.id,
		part.map((r) => r.id),
	);
	const done: { id: number; reading: Reading; verdict: Verdict }[] = [];
	for (const sample of samplesOf(part)) {
		const verdicts = judging.takeStored(sample);
		for (const [i, row] of sample.entries()) {
			const one = { id: row.id, reading: asReading(row), verdict: verdicts[i]! };
			if (one.verdict.since !== undefined) {
				amendEarlier(done, one);
				if (one.verdict.since < from)
					await amendStored(
						client,
						site.site.id,
						{ ...one.reading, from: one.verdict.since, before: from },
						one.verdict,
						explains(one.verdict.deciding!),
					);
			}
			done.push(one);
		}
	}
	const changed = done.filter((d) => differs(before.get(d.id), d.verdict));
	await putVerdicts(client, site.site.id, changed);
	await dropMemories(client, site.site.id, from, next);
	await judging.store(client);
	await restateStored(
		client,
		site,
		done.map((d, i) => ({ ...part[i]!, u: d.verdict.u })),
		curves,
	);
	return { verdicts: new Map(done.map((d) => [d.id, d.verdict])), changed: changed.length, next };
}

function differs(stored: StoredVerdict | undefined, v: Verdict): boolean {
	const d = v.deciding;
	return !(
		stored !== undefined &&
		stored.flag === v.flag &&
		stored.check === (d?.check ?? '') &&
		stored.cause === (d?.cause ?? '') &&
		stored.suggested === (d?.suggested ?? null) &&
		stored.u === v.u &&
		isDeepStrictEqual(stored.said, d?.said ?? null) &&
		stored.expected === (v.expected?.value ?? null) &&
		isDeepStrictEqual(stored.evidence, d?.evidence ?? null)
	);
}

/**
 * What happened at a time is new to the checks: everything from then on is judged again, some of it at once and the rest by a
 * job. Inside the transaction that stored it.
 * @returns verdicts of what was judged at once, among them the readings named
 */
export async function judgeAgain(
	client: Client,
	site: SiteContext,
	from: number,
	now: number,
	named: readonly number[] = [],
): Promise<Map<number, Verdict>> {
	const verdicts = new Map<number, Verdict>();
	const curves = curvesNow(client, site);
	await restateStretchesBefore(client, site, from, curves);
	let at = from;
	do {
		const part = await judgeFrom(client, site, at, now, AT_ONCE, curves);
		for (const [id, v] of part.verdicts) verdicts.set(id, v);
		if (part.next === null) return verdicts;
		at = part.next;
	} while (named.some((id) => !verdicts.has(id)));
	await markDue(client, site.site.id, at);
	return verdicts;
}

export const judgingIsDue = async (db: Db, site: SiteContext): Promise<boolean> =>
	(await dueFrom(db, site.site.id)) !== null;

/** Judges again whatever waits for it, part by part, each in a transaction of its own. */
export async function judgeWhatIsDue(
	db: Db,
	siteId: number,
	now: number,
	progress: (done: number) => void = () => {},
): Promise<{ judged: number; changed: number }> {
	let [judged, changed] = [0, 0];
	/** Curves of the part before, as good as loaded again while nobody else wrote since. */
	let known: { version: string; curves: Curves } | null = null;
	for (let more = true; more; ) {
		more = await writing(db, async (client) => {
			const from = await dueFrom(client, siteId);
			if (from === null) return false;
			// As it is set up now: it may have been changed since the part before.
			const site = await requireSite(client);
			const curves = known?.version === versionsOf(site) ? known.curves : await loadCurves(client, site);
			const part = await judgeFrom(client, site, from, now, CHUNK, curves);
			known = { version: versionsOf(await requireSite(client)), curves };
			judged += part.verdicts.size;
			changed += part.changed;
			await setDue(client, siteId, part.next);
			return part.next !== null;
		});
		progress(judged);
	}
	return { judged, changed };
}
