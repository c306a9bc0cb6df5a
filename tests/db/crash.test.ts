import { chmod, mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { crash } from '../helpers/crash';

const { removeCluster, startCluster } = (await import('../../ops/cluster.mjs' as string)) as {
	removeCluster: (dir: string) => void;
	startCluster: (o: { dataDir: string; durable: boolean }) => Promise<{ stop: () => Promise<void> }>;
};

let dir: string;
beforeAll(async () => {
	dir = await mkdtemp(join(tmpdir(), 'cordwain-crash-'));
	// The account of the database has to get into it.
	await chmod(dir, 0o711);
	await (await startCluster({ dataDir: dir, durable: true })).stop();
});
afterAll(() => removeCluster(dir));

/** A short run of what `npm run bench -- crash` does for a thousand rounds. */
it('killed without warning, server and database: whatever was answered is there exactly once, and nothing by half', async () => {
	const { wrong, answered, askedAgain } = await crash(dir, {
		rounds: 2,
		seed: 20261126,
		databaseEvery: 2,
		checkEvery: 1,
	});
	expect(wrong).toEqual([]);
	// Some were answered before the end and some were not, or nothing was tried.
	expect(answered).toBeGreaterThan(10);
	expect(askedAgain).toBeGreaterThan(2);
});
