import { instrumentThen } from '@/core/judge/context';
import type { Quantity } from '@/core/quantity';
import { readingFromText, skippedOf } from '@/core/reading/from-text';
import type { Reading, Verdict } from '@/core/reading/model';
import { type NewReading, reserveIds, storeReadings } from '@/store/copy-readings';
import { isLate } from '@/store/judging';
import type { Client, Db } from '@/store/pool';
import { retests } from '@/store/rounds';
import { writing } from '@/store/writing';
import { readingProblem } from '@/words/en/reading';
import { GrowingErrors } from './errors';
import { Judging } from './judgement';
import { judgeAgain } from './judging';
import { Refusal } from './refusal';
import { asFresh, restateFresh, settleAnew } from './restate';
import { type Told, tieSample } from './rounds';
import { altitudeOf, type SiteContext } from './site';
import { judgeRows, storeJudged } from './store-bulk';
import { requireTime } from './time-ahead';

/** One value of a sample as it was typed. */
export interface TypedReading {
	quantity: Quantity;
	/** Digits with comma or point, or an interval `5.0..6.0`. */
	value: string;
	/** Unit as in the readings CSV. */
	unit: string;
	instrument: string | null;
	/** The keystrokes, where they say more than value and unit. */
	typed?: string | null;
	tempC?: number | null;
	waitS?: number | null;
	note?: string;
	extra?: Record<string, string> | null;
	/** Steps of the protocol that were left out. */
	skipped?: readonly string[] | undefined;
}

export interface TypedSample {
	at: number;
	station: string;
	readings: TypedReading[];
}

export interface Entered {
	sampleId: number;
	readings: { id: number; reading: Reading; verdict: Verdict }[];
	told: Told;
}

export interface Understood {
	typed: TypedReading;
	reading: Reading;
	stationId: number;
	instrumentId: number | null;
}

/** What typed values mean at this site. @throws Refusal naming the field */
export function understand(context: SiteContext, sample: TypedSample, path: string, now: number): Understood[] {
	const station = context.stations.find((s) => s.code === sample.station);
	if (!station)
		throw new Refusal('unknown-station', [
			{ path: `${path}station`, message: `There is no station “${sample.station}”.` },
		]);
	if (sample.readings.length === 0)
		throw new Refusal('nothing-entered', [{ path: `${path}readings`, message: 'Enter at least one value.' }]);
	if (!Number.isFinite(sample.at))
		throw new Refusal('bad-time', [{ path: `${path}time`, message: 'The time is not a time.' }]);
	requireTime(sample.at, now, `${path}time`);
	return sample.readings.map((typed, i) => {
		const refuse = (field: string, message: string) =>
			new Refusal('bad-reading', [{ path: `${path}readings.${i}.${field}`, message }]);
		const instrument = typed.instrument ? context.instruments.find((x) => x.code === typed.instrument) : undefined;
		if (typed.instrument && !instrument) throw refuse('instrument', `There is no instrument “${typed.instrument}”.`);
		const read = readingFromText(
			{
				quantity: typed.quantity,
				value: typed.value.trim(),
				unit: typed.unit,
				tempC: typed.tempC ?? null,
				waitS: typed.waitS ?? null,
			},
			{
				ppmScale: instrumentThen(context.known, typed.instrument ?? '', sample.at)?.ppmScale ?? null,
				altitudeM: altitudeOf(context.site),
			},
		);
		if (!read.ok) throw refuse(read.problem.field, `${readingProblem(read.problem)}.`);
		return {
			typed,
			stationId: station.id,
			instrumentId: instrument?.id ?? null,
			reading: {
				...read.value,
				at: sample.at,
				station: station.code,
				instrument: instrument?.code ?? '',
				...(typed.skipped ? { skipped: typed.skipped } : skippedOf(typed.extra ?? null)),
			},
		};
	});
}

/** The row of a value that was understood. */
export const toNew = (
	u: Understood,
	sampleId: number,
	source: string,
	who: string,
	supersedes: number | null,
): NewReading => ({
	sampleId,
	at: u.reading.at,
	stationId: u.stationId,
	instrumentId: u.instrumentId,
	quantity: u.reading.quantity,
	digits: u.reading.digits,
	unitText: u.typed.unit,
	unit: u.reading.unit,
	typed: u.typed.typed ?? null,
	value: u.reading.value,
	halfWidth: u.reading.halfWidth,
	tempC: u.reading.tempC,
	waitS: u.reading.waitS,
	note: u.typed.note ?? '',
	extra: u.typed.skipped?.length ? { ...u.typed.extra, skipped: u.typed.skipped.join(' ') } : (u.typed.extra ?? null),
	supersedes,
	source,
	enteredBy: who,
});

/** What the checks would say, storing nothing. */
export async function judgeSample(db: Db, context: SiteContext, sample: TypedSample, now: number): Promise<Verdict[]> {
	const understood = understand(context, sample, '', now);
	const late = await isLate(db, context.site.id, sample.at);
	const { engine } = await (late ? Judging.asOf(db, context, sample.at, now) : Judging.present(db, context, now));
	return engine.judge(understood.map((u) => u.reading));
}

/** Stores samples with their verdicts, all or none. */
export async function enterSamples(
	db: Db,
	context: SiteContext,
	samples: readonly TypedSample[],
	by: { source: string; who: string; now: number; round?: number | null },
): Promise<Entered[]> {
	const understood = samples.map((s, i) => understand(context, s, samples.length > 1 ? `${i}.` : '', by.now));
	return writing(db, async (client) => {
		// In order of time, so that one pasted line predicts the next.
		const order = [...understood.keys()].sort((a, b) => samples[a]!.at - samples[b]!.at || a - b);
		const numbers = await reserveIds(client, understood.flat().length + samples.length);
		const stored: { sampleId: number; ids: number[] }[] = [];
		for (const index of order)
			stored[index] = { sampleId: numbers.shift()!, ids: numbers.splice(0, understood[index]!.length) };
		const all = order.flatMap((index) => understood[index]!);
		const ids = order.flatMap((index) => stored[index]!.ids);
		const rows = order.flatMap((index) =>
			understood[index]!.map((u) => toNew(u, stored[index]!.sampleId, by.source, by.who, null)),
		);
		const verdicts = await storeAndJudge(client, context, ids, rows, all, by.now);
		const open = await retests(client, context.site.id);
		const result: Entered[] = [];
		for (const index of order) {
			const group = understood[index]!;
			const { sampleId, ids } = stored[index]!;
			const head = group[0]!.reading;
			const told = await tieSample(
				client,
				context,
				{ id: sampleId, at: head.at, station: head.station, quantities: group.map((u) => u.reading.quantity) },
				by.round ?? null,
				open,
				by.now,
			);
			result[index] = {
				told,
				sampleId,
				readings: group.map((u, i) => ({ id: ids[i]!, reading: u.reading, verdict: verdicts.get(ids[i]!)! })),
			};
		}
		return result;
	});
}

/** Stores rows in order of time with their verdicts: from what is known now, or, come late, by judging again from then on. */
async function storeAndJudge(
	client: Client,
	context: SiteContext,
	ids: readonly number[],
	rows: readonly NewReading[],
	understood: readonly Understood[],
	now: number,
): Promise<Map<number, Verdict>> {
	const from = rows[0]!.at;
	const late = await isLate(client, context.site.id, from);
	if (!late) {
		const readings = understood.map((u) => u.reading);
		const judging = await Judging.present(client, context, now);
		const judged = await judgeRows(
			judging,
			readings,
			rows.map((r) => r.sampleId),
		);
		const growing = await GrowingErrors.begin(client, context);
		await storeJudged(client, context.site.id, ids, rows, judged);
		await restateFresh(
			client,
			context,
			asFresh(context, ids, rows, (_, i) => judged.verdicts[i]!.u),
			growing,
		);
		await settleAnew(client, context, from, async (q) => growing.of(q));
		const version = await judging.store(client);
		if (version !== null) growing.keep(version);
		return new Map(judged.verdicts.map((v, i) => [ids[i]!, v]));
	}
	await storeReadings(client, context.site.id, ids, rows);
	return judgeAgain(client, context, from, now, ids);
}
