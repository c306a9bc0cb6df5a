import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { listBackups } from '@/store/backups';
import { waitingWork } from '@/store/depth';
import { database } from './database';

/** Figures for a monitor, in the open text format; none of them names a person, a station or an address with what was put into it. */
const registry = new Registry();
collectDefaultMetrics({ register: registry, prefix: 'cordwain_' });

const requests = new Histogram({
	name: 'cordwain_request_seconds',
	help: 'Requests by method, kind and class of status',
	labelNames: ['method', 'kind', 'status'] as const,
	buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10],
	registers: [registry],
});
const faults = new Counter({
	name: 'cordwain_faults_total',
	help: 'Answers of 500 and above',
	registers: [registry],
});
const waiting = new Gauge({
	name: 'cordwain_waiting',
	help: 'Work that waits: readings and streams to be judged again, messages to be sent',
	labelNames: ['what'] as const,
	registers: [registry],
	async collect() {
		for (const [what, n] of Object.entries(await waitingWork(database()))) this.set({ what }, n);
	},
});
const backup = new Gauge({
	name: 'cordwain_backup_age_seconds',
	help: 'Since the last backup, and since one was last tried out; absent where there was none',
	labelNames: ['of'] as const,
	registers: [registry],
	async collect() {
		const all = await listBackups(database());
		const newest = Math.max(...all.map((b) => b.at));
		const tried = Math.max(...all.map((b) => b.verifiedAt ?? Number.NEGATIVE_INFINITY));
		if (Number.isFinite(newest)) this.set({ of: 'made' }, (Date.now() - newest) / 1000);
		if (Number.isFinite(tried)) this.set({ of: 'tried' }, (Date.now() - tried) / 1000);
	},
});
void waiting;
void backup;

/** @param path of the request, for its kind alone */
export function countRequest(method: string, path: string, status: number, ms: number): void {
	const kind = path.startsWith('/api/v1/ingest') ? 'ingest' : path.startsWith('/api/') ? 'api' : 'page';
	requests.observe({ method, kind, status: `${Math.floor(status / 100)}xx` }, ms / 1000);
	if (status >= 500) faults.inc();
}

export const metricsText = async (): Promise<{ type: string; text: string }> => ({
	type: registry.contentType,
	text: await registry.metrics(),
});
