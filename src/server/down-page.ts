import { createHash } from 'node:crypto';

/** What a browser sees while the database is away: plain, without the application, trying again by itself. */
const PAGE = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Cordwain</title>
<style>body{font:16px/1.5 system-ui,sans-serif;background:#f6f4ec;color:#16302b;max-width:34rem;margin:3rem auto;padding:0 1rem}a{color:inherit}</style></head>
<body><h1>The database does not answer</h1><p>What you typed is kept on this device and is sent when it is back. This page tries again by itself; if it lasts, start Cordwain again.</p>
<p><a href="">Try now</a></p><script>setInterval(()=>fetch("/api/v1/health").then(r=>r.ok&&location.reload()).catch(()=>{}),3000)</script></body></html>`;

/** The hash of what stands between two tags of the page, as a policy names it. */
const hashOf = (tag: string): string => {
	const text = new RegExp(`<${tag}>([^<]*)</${tag}>`).exec(PAGE)?.[1] ?? '';
	return `'sha256-${createHash('sha256').update(text).digest('base64')}'`;
};
const POLICY = `default-src 'none'; style-src ${hashOf('style')}; script-src ${hashOf('script')}; connect-src 'self'; frame-ancestors 'none';`;

export const databaseDownPage = (): Response =>
	new Response(PAGE, {
		status: 503,
		headers: {
			'content-type': 'text/html; charset=utf-8',
			'content-security-policy': POLICY,
			'retry-after': '3',
			'cache-control': 'no-store',
		},
	});
