import { leaf as resource } from '@/contract/leaf';
import { leafOf } from '@/service/leaf';
import { handle } from '../dispatch';

export const leaf = handle(resource, {
	'GET /leaf': async ({ query, db, site, now }) => leafOf(db, await site(), query, now),
});
