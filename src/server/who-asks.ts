import { timingSafeEqual } from 'node:crypto';
import { type Asker, AT_THE_MACHINE, askerOf, isOpen, NOBODY, pageTokenOf } from '@/service/people/sign-ins';
import type { Pool } from '@/store/pool';
import type { Connection } from './connection';

/** Names of the cookies: the one is for the server alone, the other for the pages, which send it back beside what they change. */
export const SIGN_IN = 'cordwain_sign_in';
export const PAGE_TOKEN = 'cordwain_page';
const PAGE_HEADER = 'x-cordwain-page';
const YEAR_S = 365 * 86_400;

const cookieOf = (request: Request, name: string): string | null => {
	for (const part of (request.headers.get('cookie') ?? '').split(';')) {
		const [key, ...value] = part.trim().split('=');
		if (key === name) return value.join('=') || null;
	}
	return null;
};

/** Who asks, and whether it is the browser’s cookie that says so. */
export async function whoAsks(
	pool: Pool,
	request: Request,
	connection: Connection,
	now: number,
): Promise<{ asker: Asker; byCookie: string | null }> {
	if (await isOpen(pool, now)) return { asker: connection.here ? AT_THE_MACHINE : NOBODY, byCookie: null };
	const bearer = /^Bearer (cws_[\w-]+)$/.exec(request.headers.get('authorization') ?? '')?.[1];
	if (bearer) return { asker: await askerOf(pool, bearer, now), byCookie: null };
	const token = cookieOf(request, SIGN_IN);
	const asker = await askerOf(pool, token, now);
	return { asker, byCookie: asker.signInId === null ? null : token };
}

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
