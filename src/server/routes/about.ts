import { about as resource } from '@/contract/about';
import { ENGINE_VERSION } from '@/core/reading/model';
import { waitingWork } from '@/store/depth';
import { databaseAnswers } from '@/store/site';
import { handle } from '../dispatch';
import { openApi } from '../openapi';
import { VERSION } from '../version';

export const about = handle(resource, {
	'GET /health': async ({ db, query }) => {
		await databaseAnswers(db);
		const waiting = query.deep === '1' ? { waiting: await waitingWork(db) } : {};
		return { status: 'ok', version: VERSION, engine: ENGINE_VERSION, ...waiting };
	},
	'GET /openapi.json': () => openApi(),
});
