import type { Quantity } from '@/core/quantity';
import { isGivenUp } from '@/core/trust/trust';
import { type NewReading, reserveIds, storeReadings } from '@/store/copy-readings';
import { standingOfSample } from '@/store/corrections';
import type { Client, Db } from '@/store/pool';
import type { JudgedReading } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { requireReading } from './decide';
import { type Entered, toNew, type Understood, understand } from './enter';
import { judgeAgain } from './judging';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** What was wrong with a reading, and what is right; what is not given stays. */
export interface Correction {
	value?: string | undefined;
	unit?: string | undefined;
	quantity?: Quantity | undefined;
	station?: string | undefined;
	/** Null: nobody said. */
	instrument?: string | null | undefined;
	at?: number | undefined;
	note?: string | undefined;
	/** Station and time were wrong of everything that was dipped with it, the instrument of what was measured with the same. */
	wholeSample?: boolean | undefined;
	reason: string;
}

/**
 * What was wrong with a reading, as new rows that supersede; the originals stay. What is found to be of another water or time than
 * the rest of its sample begins a sample of its own.
 */
export const correctReading = (
	db: Db,
	context: SiteContext,
	id: number,
	change: Correction,
	by: { who: string; now: number },
): Promise<Entered> =>
	writing(db, async (client) => {
		const named = await requireCurrent(client, context, id);
		const mates = await standingOfSample(client, context.site.id, named.sampleId);
		// What was given up stays where it is: moved, it would count again.
		const changed = change.wholeSample ? [named, ...mates.filter((r) => r.id !== id && !isGivenUp(r))] : [named];
		return (
			await supersede(client, context, changed, (r) => (r.id === id ? change : ofSample(change, named, r)), by)
		)[0]!;
	});

/** Where many readings were, and what with: the same for all of them, all or none. */
export const correctReadings = (
	db: Db,
	context: SiteContext,
	ids: readonly number[],
	change: Pick<Correction, 'station' | 'instrument' | 'reason'>,
	by: { who: string; now: number },
): Promise<Entered[]> =>
	writing(db, async (client) => {
		const changed: JudgedReading[] = [];
		for (const id of new Set(ids)) changed.push(await requireCurrent(client, context, id));
		return supersede(client, context, changed, () => change, by);
	});

async function requireCurrent(client: Client, context: SiteContext, id: number): Promise<JudgedReading> {
	const reading = await requireReading(client, context.site.id, id);
	if (reading.superseded)
		throw new Refusal('already-corrected', [
			{ path: 'id', message: 'This reading was corrected meanwhile. Open its history to see the newer value.' },
		]);
	return reading;
}

/** New rows in the place of others, sample by sample, judged together. */
async function supersede(
	client: Client,
	context: SiteContext,
	changed: readonly JudgedReading[],
	changeOf: (r: JudgedReading) => Correction,
	by: { who: string; now: number },
): Promise<Entered[]> {
	const samples = [...new Set(changed.map((r) => r.sampleId))];
	const numbers = await reserveIds(client, changed.length + samples.length);
	const made: { sampleId: number; old: JudgedReading; id: number; u: Understood; row: NewReading }[] = [];
	for (const sample of samples) {
		const own = changed.filter((r) => r.sampleId === sample);
		const understood = own.map((old) => asCorrected(context, old, changeOf(old), by.now));
		const moved = understood.some(({ reading }, i) => reading.station !== own[i]!.station || reading.at !== own[i]!.at);
		// Others were dipped into what it was taken for: they are no pair with it any more.
		const mates = moved ? await standingOfSample(client, context.site.id, sample) : [];
		const apart = mates.some((r) => !own.some((c) => c.id === r.id));
		const sampleId = apart ? numbers.pop()! : sample;
		for (const [i, old] of own.entries()) {
			const u = understood[i]!;
			const row = { ...toNew(u, sampleId, 'correction', by.who, old.id), ownSample: apart };
			made.push({ sampleId, old, id: numbers.shift()!, u, row });
		}
	}
	made.sort((a, b) => a.row.at - b.row.at || a.id - b.id);
	const ids = made.map((m) => m.id);
	await storeReadings(
		client,
		context.site.id,
		ids,
		made.map((m) => m.row),
	);
	const from = Math.min(...made.flatMap((m) => [m.old.at, m.row.at]));
	const verdicts = await judgeAgain(client, context, from, by.now, ids);
	for (const { old, id, u } of made)
		await insertAudit(client, context.site.id, by.who, 'reading.corrected', String(old.id), {
			new: id,
			reason: changeOf(old).reason,
			from: `${old.station} ${old.digits} ${old.unitText}`,
			to: `${u.reading.station} ${u.reading.digits} ${u.typed.unit}`,
		});
	return [...new Set(made.map((m) => m.sampleId))].map((sampleId) => ({
		told: { roundFinishedAt: null, retests: [] },
		sampleId,
		readings: made
			.filter((m) => m.sampleId === sampleId)
			.map((m) => ({ id: m.id, reading: m.u.reading, verdict: verdicts.get(m.id)! })),
	}));
}

/** What a correction says of another reading of the sample: a second pen in the same cup stays the second pen. */
const ofSample = (
	{ station, instrument, at, reason }: Correction,
	named: JudgedReading,
	mate: JudgedReading,
): Correction => ({
	station,
	at,
	reason,
	...(mate.instrument === named.instrument ? { instrument } : {}),
});

function asCorrected(context: SiteContext, old: JudgedReading, change: Correction, now: number) {
	const [u] = understand(
		context,
		{
			at: change.at ?? old.at,
			station: change.station ?? old.station,
			readings: [
				{
					quantity: change.quantity ?? old.quantity,
					value: change.value ?? old.digits,
					unit: change.unit ?? old.unitText,
					instrument: change.instrument === undefined ? old.instrument : change.instrument,
					tempC: old.tempC,
					waitS: old.waitS,
					note: change.note ?? old.note,
					extra: old.extra,
				},
			],
		},
		'',
		now,
	);
	return u!;
}
