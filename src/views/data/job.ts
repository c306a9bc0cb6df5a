import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import { api, type InBackground } from './client';
import { ofSiteHere } from './site-here';

/** What a job ends with: the answer of the operation that began it; judging again has none of its own. */
type Result = { [A in InBackground]: Got<Contract[A]> } & { judging: { judged: number; changed: number } };

const keptAs = (name: string): string => ofSiteHere(`cordwain.job.${name}`);

/** The work begun under a name on this page that has not been seen to its end: it can be left and come back to. */
export const pendingJob = (name: string): string | null => sessionStorage.getItem(keptAs(name));

/** Work that was given up, as somebody asked. */
export class Stopped extends Error {}

/** Follows long work to its end, telling how far it has come. */
export async function followJob<A extends keyof Result>(
	_of: A,
	name: string,
	id: string,
	onProgress: (words: string) => void,
): Promise<Result[A]> {
	sessionStorage.setItem(keptAs(name), id);
	try {
		for (let wait = 40; ; wait = Math.min(wait * 1.6, 500)) {
			const job = await api('GET /jobs/:id', { params: { id } });
			if (job.state === 'stopped') throw new Stopped(job.message);
			if (job.state === 'failed') throw new Error(job.message);
			if (job.state === 'done') return job.result as Result[A];
			if (job.phase) onProgress(`${job.done.toLocaleString('en-GB')} ${job.phase} …`);
			await new Promise((resolve) => setTimeout(resolve, wait));
		}
	} finally {
		sessionStorage.removeItem(keptAs(name));
	}
}

/** Gives up the work begun under a name on this page. */
export async function stopJob(name: string): Promise<void> {
	const id = pendingJob(name);
	if (id) await api('DELETE /jobs/:id', { params: { id } });
}
