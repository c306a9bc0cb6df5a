import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
	resolve: { alias: { '@': at('./src'), '@tests': at('./tests') } },
	test: {
		include: ['tests/**/*.test.{ts,tsx}'],
		testTimeout: 60_000,
		hookTimeout: 120_000,
		globalSetup: ['tests/helpers/global-setup.ts'],
		setupFiles: ['tests/helpers/parse-answers.ts', 'tests/helpers/check-rows.ts'],
		// Two cores: the browser tests bring their own processes.
		maxWorkers: 2,
	},
});
