import { api } from './api';

interface Job<T> {
	state: 'running' | 'done' | 'failed';
	done: number;
	phase: string;
	result: T;
	message: string;
}

/** The work begun under a name on this page that has not been seen to its end: it can be left and come back to. */
export const pendingJob = (name: string): string | null => sessionStorage.getItem(`cordwain.job.${name}`);

/** Follows long work to its end, telling how far it has come. */
export async function followJob<T>(name: string, id: string, onProgress: (words: string) => void): Promise<T> {
	sessionStorage.setItem(`cordwain.job.${name}`, id);
	try {
		for (let wait = 40; ; wait = Math.min(wait * 1.6, 500)) {
			const job = await api<Job<T>>(`/jobs/${id}`);
			if (job.state === 'failed') throw new Error(job.message);
			if (job.state === 'done') return job.result;
			if (job.phase) onProgress(`${job.done.toLocaleString('en-GB')} ${job.phase} …`);
			await new Promise((resolve) => setTimeout(resolve, wait));
		}
	} finally {
		sessionStorage.removeItem(`cordwain.job.${name}`);
	}
}
