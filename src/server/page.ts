import type { AstroGlobal } from 'astro';
import type { SiteView } from '@/core/reading/site-view';
import { frameSite, undecidedCount } from '@/service/frame';
import { loadSite, type SiteContext } from '@/service/site';
import type { Pool } from '@/store/pool';
import { databaseOf } from './database';

/** What a page begins with. Before setup every page leads there. */
export interface PageStart {
	/** Of the site that is shown. */
	pool: Pool;
	context: SiteContext;
	frame: SiteView;
	reviewCount: number;
	now: number;
}

export async function startPage(astro: AstroGlobal): Promise<PageStart | Response> {
	const { site } = astro.locals.asker;
	if (!site) return astro.redirect('/setup');
	const pool = await databaseOf(site.id);
	const context = await loadSite(pool);
	if (!context || context.stations.length === 0) return astro.redirect('/setup');
	const now = Date.now();
	const [frame, reviewCount] = await Promise.all([
		frameSite(pool, context, now),
		undecidedCount(pool, context.site.id),
	]);
	return { pool, context, frame, reviewCount, now };
}
