import { pipeline, Readable } from 'node:stream';
import type { ReadableStream as WebStream } from 'node:stream/web';
import { constants, createBrotliCompress, createGzip } from 'node:zlib';

const TEXT = /^(text\/(?!event-stream)|application\/(json|problem\+json|javascript))/;
/** Below this there is nothing to gain. */
const LEAST = 1000;
/** Pages are made for one person at once: a quick compression with a long memory, in which what is said twice costs nothing. */
const BROTLI = {
	params: { [constants.BROTLI_PARAM_QUALITY]: 4, [constants.BROTLI_PARAM_LGWIN]: 20 },
};

/** The answer, compressed as the caller can read it. Abandoned, it ends what it was made from. */
export function compressed(request: Request, response: Response): Response {
	const accepts = request.headers.get('accept-encoding') ?? '';
	const coding = /\bbr\b/.test(accepts) ? 'br' : /\bgzip\b/.test(accepts) ? 'gzip' : null;
	const length = Number(response.headers.get('content-length') ?? Number.POSITIVE_INFINITY);
	if (
		coding === null ||
		!response.body ||
		request.method === 'HEAD' ||
		length < LEAST ||
		response.headers.has('content-encoding') ||
		!TEXT.test(response.headers.get('content-type') ?? '')
	)
		return response;
	const squeeze = coding === 'br' ? createBrotliCompress(BROTLI) : createGzip({ level: 4 });
	// A failure of either side ends both; the error itself is the business of whoever reads.
	pipeline(Readable.fromWeb(response.body as WebStream), squeeze, () => {});
	const headers = new Headers(response.headers);
	headers.set('content-encoding', coding);
	headers.append('vary', 'accept-encoding');
	headers.delete('content-length');
	return new Response(Readable.toWeb(squeeze) as ReadableStream, { status: response.status, headers });
}
