import { randomUUID } from 'node:crypto';
import { Refusal } from '@/service/refusal';
import { isDatabaseDown } from './database';
import { log } from './log';

/** Long work of this process: begun by a request, watched by others, kept for an hour after its end. */
export interface Job {
	id: string;
	kind: string;
	state: 'running' | 'done' | 'failed';
	done: number;
	phase: string;
	result: unknown;
	message: string;
}

const KEEP_MS = 3_600_000;
const jobs = new Map<string, Job>();
const begun = new Map<string, string>();

/** Tells how far work has come: so many, of what. */
export type Progress = (done: number, phase: string) => void;

/** @param key of the request that begins it: one that comes again is led to the same work while it is known and has not failed */
export function beginJob(
	kind: string,
	work: (progress: Progress) => Promise<unknown>,
	key: string | null = null,
): string {
	const job: Job = { id: randomUUID(), kind, state: 'running', done: 0, phase: '', result: null, message: '' };
	jobs.set(job.id, job);
	work((done, phase) => {
		job.done = done;
		job.phase = phase;
	})
		.then((result) => {
			job.result = result;
			job.state = 'done';
		})
		.catch((error: unknown) => {
			job.state = 'failed';
			job.message =
				error instanceof Refusal || (error instanceof Error && error.constructor.name === 'NotText')
					? error.message
					: isDatabaseDown(error)
						? 'The database stopped answering. Nothing of this was stored; try again.'
						: 'It failed, and nothing of it was stored. The server’s log says more.';
			if (!(error instanceof Refusal)) log.error({ error, kind }, 'job');
		})
		.finally(() =>
			setTimeout(() => {
				jobs.delete(job.id);
				if (key !== null && begun.get(key) === job.id) begun.delete(key);
			}, KEEP_MS).unref(),
		);
	if (key !== null) begun.set(key, job.id);
	return job.id;
}

export const findJob = (id: string): Job | undefined => jobs.get(id);

/** The work that a request with this key has begun before; undefined where there is none, or it failed and stored nothing. */
export function jobBegunBy(key: string | null): string | undefined {
	const job = key === null ? undefined : jobs.get(begun.get(key) ?? '');
	return job?.state === 'failed' ? undefined : job?.id;
}
