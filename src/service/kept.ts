import { afterCommit, type Db, homeOf, isPool, placeOf } from '@/store/pool';
import { type SiteContext, versionsOf } from './site';

interface Of<T> {
	site: SiteContext['site'];
	value: T;
}

/**
 * Something that was made from all that is stored of a site, kept in this process for whoever asks next. Nobody changes it: who
 * learns more keeps another. What a transaction keeps is its own until it is committed, and nobody's where it is taken back.
 */
export class Kept<T> {
	/** By database what is committed; by transaction what one under way has made. */
	private readonly of = new WeakMap<object, Of<T>>();

	/** As good as made again: for who writes, of just what is stored; for who only looks, of that or of what was stored since. */
	find(db: Db, site: SiteContext): T | null {
		const found = this.of.get(placeOf(db)) ?? this.of.get(homeOf(db));
		if (!found) return null;
		if (found.site.id !== site.site.id) return null;
		const isGood = versionsOf(found) === versionsOf(site) || (isPool(db) && isLater(found.site, site.site));
		return isGood ? found.value : null;
	}

	/** @param memoryVersion of what it knows, where this transaction has just stored that */
	put(db: Db, { site }: SiteContext, value: T, memoryVersion = site.memoryVersion): void {
		const of = { site: { ...site, memoryVersion }, value };
		const home = homeOf(db);
		if (!isPool(db)) this.of.set(placeOf(db), of);
		afterCommit(db, () => {
			const present = this.of.get(home);
			// Who looked at an older site has not the last word.
			if (present?.site.id !== site.id || !isLater(present.site, of.site)) this.of.set(home, of);
		});
	}
}

type Versions = SiteContext['site'];
/** Numbers of versions grow, and are used once. */
const isLater = (a: Versions, b: Versions): boolean =>
	a.lineVersion >= b.lineVersion && a.probeVersion >= b.probeVersion && a.memoryVersion > b.memoryVersion;
