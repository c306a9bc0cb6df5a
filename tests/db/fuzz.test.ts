import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Application, startApplication } from '../helpers/application';
import { fuzz } from '../helpers/fuzz';
import { storedIsGood, vocabularyOf } from '../helpers/fuzzed-store';

/** A short run of what `npm run bench -- fuzz` does 20,000 times. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());

it.each([20261127])(
	'requests that are bent somewhere are refused with what is wrong, or stored as a form would; none is a fault of the server (%i)',
	async (seed) => {
		// By the clock of a loaded machine nothing is told here: how long answers take is for the long run.
		const { wrong, statuses } = await fuzz(app.base, await vocabularyOf(app.base), 100, seed);
		expect(wrong).toEqual([]);
		// Some got through and some did not, or nothing was tried.
		expect(statuses[200]! + (statuses[201] ?? 0)).toBeGreaterThan(20);
		expect(statuses[422]).toBeGreaterThan(20);
		expect(await storedIsGood(app.base)).toEqual([]);
	},
);
