import { week as resource } from '@/contract/week';
import { weekOf } from '@/service/week';
import { handle } from '../dispatch';

export const week = handle(resource, {
	'GET /week': async ({ query, db, site, now }) => weekOf(db, await site(), query.from, now),
});
