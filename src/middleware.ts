import { defineMiddleware } from 'astro:middleware';
import { randomUUID } from 'node:crypto';
import type { APIContext, MiddlewareNext } from 'astro';
import { pathOf } from '@/server/address';
import { beginBackground } from '@/server/background';
import { compressed } from '@/server/compress';
import { connectionOf, isOurName } from '@/server/connection';
import { database } from '@/server/database';
import { isDatabaseDown } from '@/server/database-down';
import { databaseDownPage } from '@/server/down-page';
import { isUuid, originAllowed } from '@/server/guard';
import { keepAllJudged } from '@/server/keep-judged';
import { log, pathShape, requestId } from '@/server/log';
import { countRequest } from '@/server/metrics';
import { withPreloads } from '@/server/preload';
import { problem, problemOf } from '@/server/problem';
import { fromOurPage, SITE, whoAsks } from '@/server/who-asks';
import { Refusal } from '@/service/refusal';

/** Tells whose entry is whose until people sign in: “undo” takes back one’s own. */
const DEVICE = 'cordwain_device';
const TEN_YEARS_S = 10 * 365 * 86_400;

// What a newer engine would judge otherwise is begun at the first request.
let begun = false;

/** Every request has a name, which the log and the answer share, and its duration in the log. */
export const onRequest = defineMiddleware(async (context, next) => {
	const id = requestId();
	const begin = performance.now();
	const response = compressed(context.request, await withPreloads(await guarded(context, next)));
	response.headers.set('x-request-id', id);
	if (!response.headers.has('content-security-policy'))
		response.headers.set('content-security-policy', "default-src 'none'; frame-ancestors 'none'");
	const { method } = context.request;
	countRequest(method, pathOf(context.request), response.status, performance.now() - begin);
	log.info(
		{
			id,
			method,
			path: pathShape(pathOf(context.request)),
			status: response.status,
			ms: Math.round(10 * (performance.now() - begin)) / 10,
		},
		'request',
	);
	return response;
});

/** Pages that are there for whoever is not known yet. */
const FOR_ANYBODY = /^\/(?:sign-in|join|trust|metrics)\/?$/;

/** Only names that are ours, pages that are ours, and people who are known. */
async function guarded({ request, locals, cookies, redirect }: APIContext, next: MiddlewareNext): Promise<Response> {
	const connection = connectionOf(request);
	if (!isOurName(connection.host))
		return problem('foreign-host', [
			{
				path: 'Host',
				message:
					'Cordwain does not go by this name. Open it at http://127.0.0.1, or name what others reach it by in CORDWAIN_HOSTS.',
			},
		]);
	const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
	if (changes && !originAllowed(request.headers, connection))
		return problem('foreign-origin', [{ path: 'Origin', message: 'A page from elsewhere may not write here.' }]);
	if (!begun) {
		begun = true;
		void keepAllJudged();
		beginBackground();
	}
	locals.connection = connection;
	const device = cookies.get(DEVICE)?.value;
	locals.device = device !== undefined && isUuid(device) ? device : null;
	const path = pathOf(request);
	const page = !path.startsWith('/api/');
	// A page that was opened names the browser from then on; scripts keep none and need none.
	if (locals.device === null && request.headers.get('accept')?.includes('text/html'))
		cookies.set(DEVICE, randomUUID(), {
			path: '/',
			httpOnly: true,
			sameSite: 'strict',
			secure: connection.secure,
			maxAge: TEN_YEARS_S,
		});
	try {
		const { asker, byCookie } = await whoAsks(database(), request, connection, Date.now());
		locals.asker = asker;
		if (changes && byCookie !== null && !fromOurPage(request, byCookie))
			return problem('foreign-page', [
				{
					path: 'X-Cordwain-Page',
					message: 'This page is older than its sign-in. Load it again; what you typed is kept.',
				},
			]);
		if (page && asker.role === null && !FOR_ANYBODY.test(path)) {
			const { search } = new URL(request.url);
			return new Response(null, {
				status: 303,
				headers: { location: `/sign-in?to=${encodeURIComponent(path + search)}`, 'cache-control': 'no-store' },
			});
		}
		if (page && !changes && asker.site) {
			const { searchParams, search } = new URL(request.url);
			if (searchParams.has('site')) {
				// From now on this browser comes to it first.
				cookies.set(SITE, String(asker.site.id), {
					path: '/',
					httpOnly: true,
					sameSite: 'strict',
					secure: connection.secure,
					maxAge: TEN_YEARS_S,
				});
				const rest = search.replace(/([?&])site=[^&]*&?/, '$1').replace(/[?&]$/, '');
				// One slash at the beginning: two would name another server.
				return redirect(path.replace(/^\/+/, '/') + rest, 303);
			}
		}
		return await next();
	} catch (error) {
		if (isDatabaseDown(error)) return page ? databaseDownPage() : problemOf(error);
		if (error instanceof Refusal) return problemOf(error);
		throw error;
	}
}
