import type { Contract } from '@/contract';
import type { BatchStep, StoredBatch } from '@/contract/batches';
import type { Call, Got } from '@/contract/operation';
import type { Engine } from '@/core/judge/engine';
import type { BatchStepKind } from '@/core/mix/batch-course';
import { readingFromText } from '@/core/reading/from-text';
import type { Reading } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { permits } from '@/core/trust/trust';
import { findingWords } from '@/words/en/finding';
import { enter, takeBack, waitingEntries } from '../data/queue';
import { siteHere } from '../data/site-here';
import { bodyOf, type DraftSample, readingsOf, save } from '../entry/sample';
import { logEvents, type Pour } from './log-event';
import { ecShown } from './typed';
import type { KeepReading } from './use-measure';

/** The steps of one batch: each is kept with what was poured or read in it, or nothing of it is. */
export interface BatchLog {
	did: (
		step: BatchStepKind,
		words: string,
		more?: { expected?: number | null; amount?: number },
		pours?: readonly Pour[],
	) => Promise<void>;
	/** How a step that is read is kept. @param expected what it should show */
	reading: (step: 'ec' | 'ph', expected: number | null) => KeepReading;
}

/**
 * Whether others went on with it: a step is kept that is not in what this page shows. What waits here to be sent after the same steps
 * is no difference; what waits in the place of another’s step is, and will be refused.
 */
export const goneOn = (kept: readonly BatchStep[], shown: readonly BatchStep[]): boolean =>
	kept.some((step, i) => !shown[i] || Date.parse(shown[i].time) !== Date.parse(step.time));

const STEPS = 'POST /batches/:id/steps';
type Sent = Call<typeof STEPS, Contract[typeof STEPS]>['body'];
type Step = Omit<Sent, 'follows' | 'time'>;

/** The step as it will be kept, where it waits. */
const asKept = (step: Step, at: number, measured: number | null): BatchStep => ({
	time: new Date(at).toISOString(),
	step: step.step,
	words: step.words,
	expected: step.expected ?? null,
	amount: step.amount ?? null,
	measured,
	flag: null,
	doubt: null,
	reading_id: null,
});

/** A step that waits on this device to be sent. */
export interface WaitingStep {
	/** Of which batch. */
	id: number;
	step: BatchStep;
	/** How many were before it. */
	follows: number;
}

/** Steps that wait here since before this page was opened, in their order: what is poured is not asked for again. */
export async function waitingSteps(site: SiteView): Promise<WaitingStep[]> {
	const here = (await waitingEntries()).filter(
		(e) => e.address === STEPS && e.refused === null && e.site === siteHere(),
	);
	return here.map(({ asked, madeAt }) => {
		const sent = asked.body as Sent;
		const { reading } = sent;
		const read =
			reading &&
			readingFromText(
				{ ...reading, value: String(reading.value), tempC: reading.temp_c ?? null, waitS: reading.wait_s ?? null },
				{ ppmScale: null, altitudeM: site.settings.altitudeM },
			);
		return {
			id: Number(asked.params?.id),
			step: asKept(sent, sent.time ? Date.parse(sent.time) : madeAt, read?.ok ? read.value.value : null),
			follows: sent.follows,
		};
	});
}

/**
 * Steps that the server does not take now wait on this device in their order, each at its own time, and the batch goes on; where
 * somebody else made one meanwhile, those that waited are refused with what was done.
 * @param onLog hears of each step that was kept, and how many were before it
 */
export function batchLog(
	engine: Engine,
	site: SiteView,
	batch: StoredBatch,
	onLog: (step: BatchStep, follows: number) => void,
): BatchLog {
	const follows = batch.log.length;
	const send = (step: Step, at: number) =>
		enter(
			STEPS,
			{
				params: { id: batch.id },
				body: { ...step, follows, time: new Date(at).toISOString() },
			},
			`${batch.station}: ${step.words}`,
		);
	const stored = (answer: Got<Contract[typeof STEPS]>) => {
		if (answer.step) onLog(answer.step, follows);
		return answer;
	};
	const wordsOf = (step: 'ec' | 'ph', { value }: Pick<Reading, 'value'>): string =>
		step === 'ec' ? `EC ${ecShown(value, site.units)}` : `pH ${value.toFixed(2)}`;
	return {
		did: async (step, words, more = {}, pours = []) => {
			await logEvents(engine, batch.station, pours, async (events) => {
				const asked = { step, words, ...more, events };
				const at = Date.now();
				const sent = await send(asked, at);
				if (sent.kind === 'stored') stored(sent.answer);
				else onLog(asKept(asked, at, null), follows);
			});
		},
		reading: (step, expected) => ({
			take: async (draft: DraftSample, at: number) => {
				const { station: _, ...reading } = bodyOf(draft, at)[0]!;
				const read = readingsOf(draft, at, site)[0]!;
				const verdict = engine.judge([read])[0]!;
				const asked = { step, expected, words: wordsOf(step, read), reading };
				const sent = await send(asked, at);
				if (sent.kind === 'stored') return stored(sent.answer).reading;
				if (permits({ flag: verdict.flag, cause: verdict.deciding?.cause ?? '', decision: null }, 'dose')) {
					onLog(asKept(asked, at, read.value), follows);
					return null;
				}
				// Nobody can stand by it before the server knows it: it waits as a reading of the tank, and makes no step.
				await takeBack(sent.key);
				await save([draft]);
				const doubt = verdict.deciding ? findingWords(verdict.deciding.said) : 'It is doubtful.';
				throw new Error(`${doubt} It is kept as a reading of the tank; read again for the batch.`);
			},
			stand: async (id, measured) => {
				const asked = { step, expected, words: wordsOf(step, measured), reading_id: id };
				const at = Date.now();
				const sent = await send(asked, at);
				if (sent.kind === 'stored') stored(sent.answer);
				else onLog(asKept(asked, at, measured.value), follows);
			},
		}),
	};
}
