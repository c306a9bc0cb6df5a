import { judgeWhatIsDue, judgingIsDue } from '@/service/judging';
import { loadSite } from '@/service/site';
import { sitesThatWait } from '@/store/site';
import { database, databaseOf } from './database';
import { isDatabaseDown } from './database-down';
import { beginJob } from './jobs';
import { keepStreams } from './keep-streams';
import { log } from './log';

/** What is done for a site just now. */
interface Looking {
	looking: boolean;
	job: string | null;
	again: boolean;
}
const bySite = new Map<number, Looking>();

/** The job that judges readings of a site again, while it runs. */
export const judgingJob = (siteId: number): string | null => bySite.get(siteId)?.job ?? null;

/**
 * Has whatever waits to be judged again done by a job, one at a time: after something was learned of the past, after the checks
 * themselves changed. Called at the start and after every change; costs one query where nothing waits.
 */
export async function keepJudged(siteId: number): Promise<void> {
	const here = bySite.get(siteId) ?? { looking: false, job: null, again: false };
	bySite.set(siteId, here);
	if (here.looking || here.job !== null) {
		here.again = true;
		return;
	}
	here.looking = true;
	try {
		const pool = await databaseOf(siteId);
		const site = await loadSite(pool);
		if (site?.site.streamsDue) void keepStreams(siteId);
		if (!site || !(await judgingIsDue(pool, site))) return;
		here.job = beginJob(siteId, 'judging', async (progress) => {
			try {
				// What became due meanwhile is in the same queue, and is done before the end.
				return await judgeWhatIsDue(pool, siteId, Date.now(), (done) => progress(done, 'readings judged'));
			} finally {
				here.job = null;
				if (here.again) void keepJudged(siteId);
			}
		});
	} catch (error) {
		// Without a database there is nothing to judge; the next change looks again.
		if (!isDatabaseDown(error)) log.error({ error }, 'judging again');
	} finally {
		here.looking = false;
		// Asked meanwhile, and no job runs that would see it.
		const repeat = here.again && here.job === null;
		here.again = false;
		if (repeat) void keepJudged(siteId);
	}
}

/** The same for every site where something waits, one after the other: at the start. */
export async function keepAllJudged(): Promise<void> {
	try {
		for (const id of await sitesThatWait(database(), 'judging')) await keepJudged(id);
	} catch (error) {
		if (!isDatabaseDown(error)) log.error({ error }, 'judging again');
	}
}
