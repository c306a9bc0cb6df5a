import { uptake as resource } from '@/contract/uptake';
import { uptakeAt } from '@/service/uptake';
import { handle } from '../dispatch';

export const uptake = handle(resource, {
	'GET /uptake': async ({ query, db, site, now }) => uptakeAt(db, await site(), query.station, now, query),
});
