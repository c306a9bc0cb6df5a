import { sites as resource } from '@/contract/sites';
import { requireOwner } from '@/service/people/sign-ins';
import { makeSite, sitesFor } from '@/service/sites';
import { handle } from '../dispatch';

export const sites = handle(resource, {
	'GET /sites': async ({ db, asker }) => ({ sites: await sitesFor(db, asker) }),
	'POST /sites': async ({ db, asker, body, who }) => {
		requireOwner(asker);
		return { id: await makeSite(db, body, who) };
	},
});
