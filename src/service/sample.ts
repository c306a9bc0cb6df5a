import type { Db } from '@/store/pool';
import { emptySite } from '@/store/site';
import { writing } from '@/store/writing';
import { Refusal } from './refusal';
import { PLAIN_SITE, requireSite } from './site';

/** Refuses to fill an installation that somebody has begun to use. */
export const notEmpty = (): Refusal =>
	new Refusal('not-empty', [
		{ path: '', message: 'There are stations here already: a sample is only for an installation that is empty.' },
	]);

/** Throws the sample away, with whatever was entered into it. Nothing else can be thrown away like that. */
export const discardSample = (db: Db): Promise<void> =>
	writing(db, async (client) => {
		const { site } = await requireSite(client);
		if (!site.sample)
			throw new Refusal('no-sample', [
				{ path: '', message: 'This is no sample but a book of its own: nothing of it is thrown away.' },
			]);
		await emptySite(client, { id: site.id, ...PLAIN_SITE });
	});
