/** The path of a request as it was sent, escapes and all: ops/serve.mjs keeps it. */
export const pathOf = (request: Request): string =>
	request.headers.get('x-cordwain-address') ?? new URL(request.url).pathname;

/** One of its names, as it was meant; empty where it is malformed. */
export function nameIn(request: Request, place: number): string {
	try {
		return decodeURIComponent(pathOf(request).split('/')[place] ?? '');
	} catch {
		return '';
	}
}
