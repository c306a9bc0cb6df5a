import { defineMiddleware } from 'astro:middleware';
import { isDatabaseDown } from '@/server/database';
import { databaseDownPage } from '@/server/down-page';
import { isLoopbackHost, originAllowed } from '@/server/guard';
import { keepJudged } from '@/server/keep-judged';
import { problem } from '@/server/problem';

// What a newer engine would judge otherwise is begun at the first request.
let begun = false;

/** Until there is sign-in, only this machine's own pages may speak to the server. */
export const onRequest = defineMiddleware(async ({ request, locals }, next) => {
	if (!isLoopbackHost(request.headers.get('host')))
		return problem(403, 'foreign-host', [
			{ path: 'Host', message: 'Cordwain serves this machine only. Open it at http://127.0.0.1.' },
		]);
	const changes = !['GET', 'HEAD', 'OPTIONS'].includes(request.method);
	if (changes && !originAllowed(request.headers))
		return problem(403, 'foreign-origin', [{ path: 'Origin', message: 'A page from elsewhere may not write here.' }]);
	if (!begun) {
		begun = true;
		void keepJudged();
	}
	locals.who = 'grower';
	let response: Response;
	try {
		response = await next();
	} catch (error) {
		if (isDatabaseDown(error)) return databaseDownPage();
		throw error;
	}
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('x-frame-options', 'DENY');
	response.headers.set('referrer-policy', 'same-origin');
	return response;
});
