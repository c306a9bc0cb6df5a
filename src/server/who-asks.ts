import { timingSafeEqual } from 'node:crypto';
import { type Asker, askerOf, atTheMachine, isOpen, NOBODY, pageTokenOf } from '@/service/people/sign-ins';
import { Refusal } from '@/service/refusal';
import type { Pool } from '@/store/pool';
import type { Connection } from './connection';

/** Names of the cookies: the one is for the server alone, the other for the pages, which send it back beside what they change. */
export const SIGN_IN = 'cordwain_sign_in';
export const PAGE_TOKEN = 'cordwain_page';
/** The site that a browser came to last; pages name the one they show beside whatever they ask. */
export const SITE = 'cordwain_site';
const PAGE_HEADER = 'x-cordwain-page';
const SITE_HEADER = 'x-cordwain-site';
const YEAR_S = 365 * 86_400;

const cookieOf = (request: Request, name: string): string | null => {
	for (const part of (request.headers.get('cookie') ?? '').split(';')) {
		const [key, ...value] = part.trim().split('=');
		if (key === name) return value.join('=') || null;
	}
	return null;
};

/** The number of a site; one that can be no number is one that is not there. */
const numbered = (text: string): number => (/^[1-9]\d{0,8}$/.test(text) ? Number(text) : -1);

/** The site that a request names: a page and a script by a header or `site` in the address, which hold; a browser by what it showed last. */
function wantedSite(request: Request): { id: number | null; holds: boolean } {
	const named = request.headers.get(SITE_HEADER) ?? new URL(request.url).searchParams.get('site');
	if (named !== null) return { id: numbered(named), holds: true };
	const kept = cookieOf(request, SITE);
	return { id: kept === null ? null : numbered(kept), holds: false };
}

/** Who asks, for which site, and whether it is the browser’s cookie that says so. */
export async function whoAsks(
	pool: Pool,
	request: Request,
	connection: Connection,
	now: number,
): Promise<{ asker: Asker; byCookie: string | null }> {
	const wanted = wantedSite(request);
	const at = (asker: Asker): Asker => {
		// Nobody is told which sites there are.
		if (wanted.holds && asker.role !== null && asker.site?.id !== wanted.id) throw noSuchSite();
		return asker;
	};
	if (await isOpen(pool, now))
		return { asker: at(connection.here ? await atTheMachine(pool, wanted.id) : NOBODY), byCookie: null };
	const bearer = /^Bearer (cws_[\w-]+)$/.exec(request.headers.get('authorization') ?? '')?.[1];
	if (bearer) return { asker: at(await askerOf(pool, bearer, wanted.id, now)), byCookie: null };
	const token = cookieOf(request, SIGN_IN);
	const asker = at(await askerOf(pool, token, wanted.id, now));
	return { asker, byCookie: asker.signInId === null ? null : token };
}

const noSuchSite = () =>
	new Refusal('no-such-site', [
		{ path: 'site', message: 'There is no such site for you here. Open Cordwain again and choose one.' },
	]);

/** Whether a change that a cookie vouches for comes from a page of ours: it alone knows what goes beside it. */
export function fromOurPage(request: Request, token: string): boolean {
	const given = Buffer.from(request.headers.get(PAGE_HEADER) ?? '');
	const wanted = Buffer.from(pageTokenOf(token));
	return given.length === wanted.length && timingSafeEqual(given, wanted);
}

/** What the browser is told to keep of a sign-in, or to forget (null). */
export function signInCookies(token: string | null, secure: boolean): string[] {
	const rest = `Path=/; SameSite=Strict${secure ? '; Secure' : ''}; Max-Age=${token === null ? 0 : YEAR_S}`;
	return [
		`${SIGN_IN}=${token ?? ''}; HttpOnly; ${rest}`,
		`${PAGE_TOKEN}=${token === null ? '' : pageTokenOf(token)}; ${rest}`,
	];
}
