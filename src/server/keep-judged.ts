import { judgeWhatIsDue, judgingIsDue } from '@/service/judging';
import { loadSite } from '@/service/site';
import { database } from './database';
import { isDatabaseDown } from './database-down';
import { beginJob } from './jobs';
import { keepStreams } from './keep-streams';
import { log } from './log';

let looking = false;
let job: string | null = null;
let again = false;

/** The job that judges readings again, while it runs. */
export const judgingJob = (): string | null => job;

/**
 * Has whatever waits to be judged again done by a job, one at a time: after something was learned of the past, after the checks
 * themselves changed. Called at the start and after every change; costs one query where nothing waits.
 */
export async function keepJudged(): Promise<void> {
	if (looking || job !== null) {
		again = true;
		return;
	}
	looking = true;
	try {
		const site = await loadSite(database());
		if (site?.site.streamsDue) void keepStreams();
		if (!site || !(await judgingIsDue(database(), site))) return;
		job = beginJob('judging', async (progress) => {
			try {
				// What became due meanwhile is in the same queue, and is done before the end.
				return await judgeWhatIsDue(database(), site.site.id, Date.now(), (done) => progress(done, 'readings judged'));
			} finally {
				job = null;
				if (again) void keepJudged();
			}
		});
	} catch (error) {
		// Without a database there is nothing to judge; the next change looks again.
		if (!isDatabaseDown(error)) log.error({ error }, 'judging again');
	} finally {
		looking = false;
		// Asked meanwhile, and no job runs that would see it.
		const repeat = again && job === null;
		again = false;
		if (repeat) void keepJudged();
	}
}
