import { writeFileSync } from 'node:fs';
import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

/** Writes down, for every script that browsers load, which others it cannot do without (src/server/preload.ts). */
const scriptImports = {
	name: 'script-imports',
	writeBundle({ dir }, bundle) {
		if (!/client\/?$/.test(dir ?? '')) return;
		const needs = (name, found = new Set()) => {
			for (const next of bundle[name]?.imports ?? [])
				if (!found.has(next)) {
					found.add(next);
					needs(next, found);
				}
			return found;
		};
		const lists = Object.keys(bundle)
			.filter((name) => bundle[name].type === 'chunk')
			.map((name) => [`/${name}`, [...needs(name)].map((n) => `/${n}`)]);
		writeFileSync(new URL('dist/script-imports.json', import.meta.url), JSON.stringify(Object.fromEntries(lists)));
	},
};

export default defineConfig({
	output: 'server',
	adapter: node({ mode: 'middleware' }),
	integrations: [react()],
	devToolbar: { enabled: false },
	// What a page may load and run: what was built, each script and sheet told by its hash.
	experimental: {
		csp: {
			algorithm: 'SHA-256',
			// The two sheets that the chart library writes into a page, and the one of what is pressed in dialogs; tests tell when they change.
			styleDirective: {
				hashes: [
					'sha256-aSysLrDECVdJ6L+jLf8CC5QKLmwRuk/OZiZk9mYky8A=',
					'sha256-TBymqJXQvXKxe+z+3ydUYBErlkFFu110c5FjiVB8p+M=',
					'sha256-38RhXrc7EdReTKsOm23ZPOCUgniTUUcjky8QOOrQx6o=',
				],
			},
			directives: [
				"default-src 'self'",
				"img-src 'self' data: blob:",
				"object-src 'none'",
				"base-uri 'none'",
				"form-action 'self'",
				"frame-ancestors 'none'",
			],
		},
	},
	// Our own middleware refuses foreign Hosts and Origins for every method and content type (src/middleware.ts).
	security: { checkOrigin: false },
	vite: {
		plugins: [tailwindcss(), scriptImports],
		build: { chunkSizeWarningLimit: 700 },
	},
});
