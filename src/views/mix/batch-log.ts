import type { Contract } from '@/contract';
import type { BatchStep, StoredBatch } from '@/contract/batches';
import type { Got } from '@/contract/operation';
import type { Engine } from '@/core/judge/engine';
import type { BatchStepKind } from '@/core/mix/batch-course';
import type { Reading } from '@/core/reading/model';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { bodyOf, type DraftSample, readingsOf } from '../entry/sample';
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

/** @param onLog hears of each step that was kept */
export function batchLog(
	engine: Engine,
	site: SiteView,
	batch: StoredBatch,
	onLog: (step: BatchStep) => void,
): BatchLog {
	type Step = Omit<Parameters<typeof api<'POST /batches/:id/steps'>>[1]['body'], 'follows'>;
	const send = async (step: Step): Promise<Got<Contract['POST /batches/:id/steps']>> => {
		const kept = await api('POST /batches/:id/steps', {
			params: { id: batch.id },
			body: { ...step, follows: batch.log.length },
		});
		if (kept.step) onLog(kept.step);
		return kept;
	};
	const wordsOf = (step: 'ec' | 'ph', { value }: Pick<Reading, 'value'>): string =>
		step === 'ec' ? `EC ${ecShown(value, site.units)}` : `pH ${value.toFixed(2)}`;
	return {
		did: async (step, words, more = {}, pours = []) => {
			await logEvents(engine, batch.station, pours, (events) => send({ step, words, ...more, events }));
		},
		reading: (step, expected) => ({
			take: async (draft: DraftSample, at: number) => {
				const { station: _, ...reading } = bodyOf(draft, at)[0]!;
				return (await send({ step, expected, words: wordsOf(step, readingsOf(draft, at, site)[0]!), reading })).reading;
			},
			stand: async (id, measured) => {
				await send({ step, expected, words: wordsOf(step, measured), reading_id: id });
			},
		}),
	};
}
