import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

export default defineConfig({
	output: 'server',
	adapter: node({ mode: 'middleware' }),
	integrations: [react()],
	devToolbar: { enabled: false },
	// Our own middleware refuses foreign Hosts and Origins for every method and content type (src/middleware.ts).
	security: { checkOrigin: false },
	vite: {
		plugins: [tailwindcss()],
		build: { chunkSizeWarningLimit: 700 },
	},
});
