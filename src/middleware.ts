import { defineMiddleware } from 'astro:middleware';
import { randomUUID } from 'node:crypto';
import type { APIContext, MiddlewareNext } from 'astro';
import { pathOf } from '@/server/address';
import { beginBackground } from '@/server/background';
import { compressed } from '@/server/compress';
import { isDatabaseDown } from '@/server/database-down';
import { databaseDownPage } from '@/server/down-page';
import { isLoopbackHost, isUuid, originAllowed } from '@/server/guard';
import { keepJudged } from '@/server/keep-judged';
import { log, pathShape, requestId } from '@/server/log';
import { problem } from '@/server/problem';

/** Tells whose entry is whose until people sign in: “undo” takes back one’s own. */
const DEVICE = 'cordwain_device';
const TEN_YEARS_S = 10 * 365 * 86_400;

// What a newer engine would judge otherwise is begun at the first request.
let begun = false;

/** Every request has a name, which the log and the answer share, and its duration in the log. */
export const onRequest = defineMiddleware(async (context, next) => {
	const id = requestId();
	const begin = performance.now();
	const response = compressed(context.request, await guarded(context, next));
	response.headers.set('x-request-id', id);
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('x-frame-options', 'DENY');
	response.headers.set('referrer-policy', 'same-origin');
	const { method } = context.request;
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

/** Until there is sign-in, only this machine's own pages may speak to the server. */
async function guarded({ request, locals, cookies }: APIContext, next: MiddlewareNext): Promise<Response> {
	if (!isLoopbackHost(request.headers.get('host')))
		return problem('foreign-host', [
			{ path: 'Host', message: 'Cordwain serves this machine only. Open it at http://127.0.0.1.' },
		]);
	const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
	if (changes && !originAllowed(request.headers))
		return problem('foreign-origin', [{ path: 'Origin', message: 'A page from elsewhere may not write here.' }]);
	if (!begun) {
		begun = true;
		void keepJudged();
		beginBackground();
	}
	locals.who = 'grower';
	const device = cookies.get(DEVICE)?.value;
	locals.device = device !== undefined && isUuid(device) ? device : null;
	// A page that was opened names the browser from then on; scripts keep none and need none.
	if (locals.device === null && request.headers.get('accept')?.includes('text/html'))
		cookies.set(DEVICE, randomUUID(), { path: '/', httpOnly: true, sameSite: 'strict', maxAge: TEN_YEARS_S });
	try {
		return await next();
	} catch (error) {
		if (isDatabaseDown(error)) return databaseDownPage();
		throw error;
	}
}
