import type { StoredBatch } from '@/contract/batches';
import type { Tank } from '@/contract/pages';
import type { Engine } from '@/core/judge/engine';
import type { BatchCourse } from '@/core/mix/batch-course';
import type { SiteView } from '@/core/reading/site-view';
import type { BatchLog } from './batch-log';

/** What each step of a running batch is shown with. */
export interface RunStep {
	site: SiteView;
	engine: Engine;
	batch: StoredBatch;
	course: BatchCourse;
	tank: Tank;
	log: BatchLog;
	busy: boolean;
	attempt: (work: () => Promise<void>) => void;
}
