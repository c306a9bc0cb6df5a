import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

export default defineConfig({
	output: 'server',
	adapter: node({ mode: 'middleware' }),
	integrations: [react()],
	devToolbar: { enabled: false },
	// What a page may load and run: what was built, each script and sheet told by its hash (src/middleware.ts adds what cannot be said here).
	experimental: {
		csp: {
			algorithm: 'SHA-256',
			// The two sheets that the chart library writes into a page; a test tells when they change.
			styleDirective: {
				hashes: [
					'sha256-aSysLrDECVdJ6L+jLf8CC5QKLmwRuk/OZiZk9mYky8A=',
					'sha256-TBymqJXQvXKxe+z+3ydUYBErlkFFu110c5FjiVB8p+M=',
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
		plugins: [tailwindcss()],
		build: { chunkSizeWarningLimit: 700 },
	},
});
