import type { Role } from '@/core/roles/roles';
import { sitesOf } from '@/store/people/people';
import type { Db } from '@/store/pool';
import { insertAudit, insertSite } from '@/store/site';
import { writing } from '@/store/writing';
import type { Asker } from './people/sign-ins';
import { PLAIN_SITE } from './site';

/** The sites that somebody may come to; of a device that several share the one it stands at. */
export async function sitesFor(
	db: Db,
	asker: Asker,
): Promise<{ id: number; name: string; role: Role; here: boolean }[]> {
	const { site, shared, role, personId } = asker;
	if (shared) return site && role ? [{ ...site, role, here: true }] : [];
	return (await sitesOf(db, personId)).map((s) => ({ ...s, here: s.id === site?.id }));
}

/** Makes one more site beside those there are. @returns its number */
export const makeSite = (
	db: Db,
	{ name, timezone }: { name: string; timezone: string },
	who: string,
): Promise<number> =>
	writing(db, async (client) => {
		const { id } = await insertSite(client, { ...PLAIN_SITE, name, timezone });
		await insertAudit(client, id, who, 'site.made', name, {});
		return id;
	});
