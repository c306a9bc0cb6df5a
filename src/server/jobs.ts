import { randomUUID } from 'node:crypto';
import { Refusal } from '@/service/refusal';
import { isDatabaseDown } from './database-down';
import { log } from './log';

/** Long work of this process: begun by a request, watched by others, kept for an hour after its end. */
export interface Job {
	id: string;
	/** Whose it is; null: of the installation. */
	siteId: number | null;
	kind: string;
	state: 'running' | 'done' | 'failed' | 'stopped';
	done: number;
	phase: string;
	result: unknown;
	message: string;
}

const KEEP_MS = 3_600_000;
const jobs = new Map<string, Job>();
/** Of those that can be given up: what tells the work so. */
const running = new Map<string, AbortController>();
const begun = new Map<string, string>();

/** Tells how far work has come: so many, of what. Throws where it has been given up: the transaction it is in then stores nothing. */
export type Progress = (done: number, phase: string) => void;

/** Work that somebody gave up. */
class Stopped extends Error {}

/**
 * Gives work up, where it can be. @returns the job, once its work has heard of it; undefined where there is none
 */
export async function stopJob(siteId: number | null, id: string): Promise<Job | undefined> {
	if (!findJob(siteId, id)) return undefined;
	const given = running.get(id);
	given?.abort();
	if (given) await ended.get(id);
	return jobs.get(id);
}
const ended = new Map<string, Promise<void>>();

/**
 * @param key of the request that begins it: one that comes again is led to the same work while it is known and has not failed
 * @param stoppable it is one transaction, and may be given up
 */
export function beginJob(
	siteId: number | null,
	kind: string,
	work: (progress: Progress) => Promise<unknown>,
	{ key = null, stoppable = false }: { key?: string | null; stoppable?: boolean } = {},
): string {
	const job: Job = { id: randomUUID(), siteId, kind, state: 'running', done: 0, phase: '', result: null, message: '' };
	jobs.set(job.id, job);
	const given = new AbortController();
	if (stoppable) running.set(job.id, given);
	const end = work((done, phase) => {
		if (given.signal.aborted) throw new Stopped();
		job.done = done;
		job.phase = phase;
	})
		.then((result) => {
			job.result = result;
			job.state = 'done';
		})
		.catch((error: unknown) => {
			job.state = error instanceof Stopped ? 'stopped' : 'failed';
			job.message =
				error instanceof Stopped
					? 'Stopped. Nothing of it was stored.'
					: error instanceof Refusal || (error instanceof Error && error.constructor.name === 'NotText')
						? error.message
						: isDatabaseDown(error)
							? 'The database stopped answering. Nothing of this was stored; try again.'
							: 'It failed, and nothing of it was stored. The server’s log says more.';
			if (!(error instanceof Refusal) && !(error instanceof Stopped)) log.error({ error, kind }, 'job');
		})
		.finally(() => {
			running.delete(job.id);
			ended.delete(job.id);
			setTimeout(() => {
				jobs.delete(job.id);
				if (key !== null && begun.get(key) === job.id) begun.delete(key);
			}, KEEP_MS).unref();
		});
	ended.set(job.id, end);
	if (key !== null) begun.set(key, job.id);
	return job.id;
}

export function findJob(siteId: number | null, id: string): Job | undefined {
	const job = jobs.get(id);
	return job?.siteId === siteId ? job : undefined;
}

/** The work that a request with this key has begun before; undefined where there is none, or it failed and stored nothing. */
export function jobBegunBy(siteId: number | null, key: string | null): string | undefined {
	const job = key === null ? undefined : jobs.get(begun.get(key) ?? '');
	return job?.siteId !== siteId || job.state === 'failed' || job.state === 'stopped' ? undefined : job.id;
}
