import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { builtServer } from '@/store/built-server';

/** By the address of a script, those it cannot do without; empty where nothing was built. */
const imports: Record<string, string[]> = (() => {
	const built = builtServer(import.meta.dirname);
	const file = built && join(built, '../script-imports.json');
	return file && existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
})();

const PART = /(?:component|renderer)-url="([^"]+)"/g;

/**
 * A page that names in its head every script that its parts need, so that a browser asks for all of them at once and not for each when
 * it has read the one before.
 */
export async function withPreloads(response: Response): Promise<Response> {
	if (!response.headers.get('content-type')?.startsWith('text/html')) return response;
	const html = await response.text();
	const scripts = new Set<string>();
	for (const [, url] of html.matchAll(PART)) for (const script of [url!, ...(imports[url!] ?? [])]) scripts.add(script);
	const links = [...scripts].map((s) => `<link rel="modulepreload" href="${s}">`).join('');
	const headers = new Headers(response.headers);
	headers.delete('content-length');
	return new Response(
		html.replace('</head>', () => `${links}</head>`),
		{ status: response.status, headers },
	);
}
