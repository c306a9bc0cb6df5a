import { audit as resource } from '@/contract/audit';
import { listAudit } from '@/store/audit';
import { handle } from '../dispatch';

const USUAL = 100;

export const audit = handle(resource, {
	'GET /audit': async ({ db, site, query }) => ({
		changes: await listAudit(db, (await site()).site.id, { ...query, limit: query.limit ?? USUAL }),
	}),
});
