import { about as resource } from '@/contract/about';
import { ENGINE_VERSION } from '@/core/reading/model';
import { databaseAnswers } from '@/store/site';
import { handle } from '../dispatch';
import { openApi } from '../openapi';
import { VERSION } from '../version';

export const about = handle(resource, {
	'GET /health': async ({ db }) => {
		await databaseAnswers(db);
		return { status: 'ok', version: VERSION, engine: ENGINE_VERSION };
	},
	'GET /openapi.json': () => openApi(),
});
