import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
	resolve: { alias: { '@': at('./src'), '@tests': at('./tests') } },
	test: {
		testTimeout: 60_000,
		hookTimeout: 120_000,
		// What a page comes to takes longer on a slow machine than the second that would be waited otherwise.
		expect: { poll: { timeout: 25_000 } },
		// Two cores: the browser tests bring their own processes.
		maxWorkers: 2,
		projects: [
			// What asks no server needs neither a database nor the schemas that every answer and row is held against.
			{
				extends: true,
				test: {
					name: 'alone',
					include: ['tests/{unit,logs}/**/*.test.{ts,tsx}', 'tests/*.test.ts'],
					// Modules are read once for each worker: none of these keeps anything that a test of another file would find.
					isolate: false,
				},
			},
			{
				extends: true,
				test: {
					name: 'served',
					include: ['tests/{db,e2e}/**/*.test.ts'],
					globalSetup: ['tests/helpers/global-setup.ts'],
					setupFiles: ['tests/helpers/parse-answers.ts', 'tests/helpers/check-rows.ts'],
					// Each file has a database, a server and a window of its own; the modules and the browser they are made with may be one.
					isolate: false,
				},
			},
		],
	},
});
