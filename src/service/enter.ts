import { type Quantity, seriesQuantity } from '@/core/quantity';
import { readingFromText, skippedOf } from '@/core/reading/from-text';
import type { Reading, Verdict } from '@/core/reading/model';
import { type NewReading, reserveIds, storeReadings } from '@/store/copy-readings';
import type { Client, Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { readingProblem } from '@/words/en/reading';
import { requireReading } from './decide';
import { Judging, judgeAgain } from './judging';
import { Refusal } from './refusal';
import { recomputeInstrument } from './restate';
import { type Told, tieSample } from './rounds';
import type { SiteContext } from './site';

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

interface Understood {
	typed: TypedReading;
	reading: Reading;
	stationId: number;
	instrumentId: number | null;
}

function understand(context: SiteContext, sample: TypedSample, path: string): Understood[] {
	const station = context.stations.find((s) => s.code === sample.station);
	if (!station)
		throw new Refusal('unknown-station', [
			{ path: `${path}station`, message: `There is no station “${sample.station}”.` },
		]);
	if (sample.readings.length === 0)
		throw new Refusal('nothing-entered', [{ path: `${path}readings`, message: 'Enter at least one value.' }]);
	if (!Number.isFinite(sample.at))
		throw new Refusal('bad-time', [{ path: `${path}time`, message: 'The time is not a time.' }]);
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
			instrument?.ppmScale ?? null,
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

const toNew = (
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
	const understood = understand(context, sample, '');
	const { engine } = await Judging.asOf(db, context, sample.at, now);
	return engine.judge(understood.map((u) => u.reading));
}

/** Stores samples with their verdicts, all or none. */
export async function enterSamples(
	db: Db,
	context: SiteContext,
	samples: readonly TypedSample[],
	by: { source: string; who: string; now: number; round?: number | null },
): Promise<Entered[]> {
	const understood = samples.map((s, i) => understand(context, s, samples.length > 1 ? `${i}.` : ''));
	return writing(db, async (client) => {
		const stored: { sampleId: number; ids: number[] }[] = [];
		// In order of time, so that one pasted line predicts the next.
		const order = [...understood.keys()].sort((a, b) => samples[a]!.at - samples[b]!.at || a - b);
		for (const index of order) {
			const group = understood[index]!;
			const [sampleId, ...ids] = await reserveIds(client, group.length + 1);
			await storeReadings(
				client,
				context.site.id,
				ids,
				group.map((u) => toNew(u, sampleId!, by.source, by.who, null)),
			);
			stored[index] = { sampleId: sampleId!, ids };
		}
		const verdicts = await judgeAgain(
			client,
			context,
			Math.min(...samples.map((s) => s.at)),
			by.now,
			stored.flatMap((s) => s.ids),
		);
		await restateEntered(
			client,
			context,
			understood.flat(),
			stored.flatMap((s) => s.ids),
		);
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

/** What is known of the probes that took these readings is worked into them at once. */
async function restateEntered(
	client: Client,
	context: SiteContext,
	group: readonly Understood[],
	ids: readonly number[],
): Promise<void> {
	for (const quantity of ['ph', 'ec'] as const)
		for (const instrument of context.instruments) {
			const own = ids.filter(
				(_, i) => group[i]!.instrumentId === instrument.id && seriesQuantity(group[i]!.reading.quantity) === quantity,
			);
			if (own.length > 0) await recomputeInstrument(client, context, instrument, quantity, own);
		}
}

/** A corrected value as a new row that supersedes; the original stays. */
export async function correctReading(
	db: Db,
	context: SiteContext,
	id: number,
	change: {
		value?: string | undefined;
		unit?: string | undefined;
		quantity?: Quantity | undefined;
		station?: string | undefined;
		/** Null: nobody said. */
		instrument?: string | null | undefined;
		at?: number | undefined;
		reason: string;
	},
	by: { who: string; now: number },
): Promise<Entered> {
	return writing(db, async (client) => {
		const old = await requireReading(client, context.site.id, id);
		if (old.superseded)
			throw new Refusal('already-corrected', [
				{ path: 'id', message: 'This reading was corrected meanwhile. Open its history to see the newer value.' },
			]);
		const at = change.at ?? old.at;
		const [u] = understand(
			context,
			{
				at,
				station: change.station ?? old.station,
				readings: [
					{
						quantity: change.quantity ?? old.quantity,
						value: change.value ?? old.digits,
						unit: change.unit ?? old.unitText,
						instrument: change.instrument === undefined ? old.instrument : change.instrument,
						tempC: old.tempC,
						waitS: old.waitS,
						note: old.note,
						extra: old.extra,
					},
				],
			},
			'',
		);
		const [newId] = await reserveIds(client, 1);
		await storeReadings(client, context.site.id, [newId!], [toNew(u!, old.sampleId, 'correction', by.who, id)]);
		const verdict = (await judgeAgain(client, context, Math.min(old.at, at), by.now, [newId!])).get(newId!);
		await restateEntered(client, context, [u!], [newId!]);
		await insertAudit(client, context.site.id, by.who, 'reading.corrected', String(id), {
			new: newId,
			reason: change.reason,
			from: `${old.digits} ${old.unitText}`,
			to: `${u!.reading.digits} ${u!.typed.unit}`,
		});
		return {
			told: { roundFinishedAt: null, retests: [] },
			sampleId: old.sampleId,
			readings: [{ id: newId!, reading: u!.reading, verdict: verdict! }],
		};
	});
}
