import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { keptBackups } from '@/core/keep/backups';
import { inScratchDatabase } from '@/store/archive/scratch';
import { type BackupRow, listBackups, putBackup, removedBackups, triedBackup } from '@/store/backups';
import type { Pool } from '@/store/pool';
import { restoreArchive } from './restore';
import { writeArchive } from './write';

/** Backups by themselves: an archive each night into a folder, kept for a while, and tried out once a week. */
const NAME = /^cordwain-(\d{4}-\d{2}-\d{2})\.zip$/;
const TRIED_EVERY_MS = 6.5 * 86_400_000;

/** Writes the archive into a file: under its name it is whole or not there. */
export async function writeArchiveFile(pool: Pool, path: string): Promise<{ bytes: number; sha256: string }> {
	// Another may be writing the same one.
	const beside = `${path}.${randomUUID()}.part`;
	const sha256 = createHash('sha256');
	let bytes = 0;
	const file = await open(beside, 'w', 0o600);
	try {
		for await (const chunk of writeArchive(pool, null)) {
			sha256.update(chunk);
			bytes += chunk.length;
			await file.write(chunk);
		}
		await file.sync();
	} catch (error) {
		await file.close();
		await rm(beside, { force: true });
		throw error;
	}
	await file.close();
	await rename(beside, path);
	return { bytes, sha256: sha256.digest('hex') };
}

async function digestOf(path: string): Promise<string> {
	const sha256 = createHash('sha256');
	for await (const chunk of createReadStream(path)) sha256.update(chunk as Uint8Array);
	return sha256.digest('hex');
}

let before: Promise<unknown> = Promise.resolve();
/** Backs up now, and lets go of what no rotation keeps; one after the other, so that what is noted is what lies there. @returns the name of the file */
export function backUp(pool: Pool, folder: string, day: string): Promise<string> {
	const next = before.then(() => write(pool, folder, day));
	before = next.catch(() => {});
	return next;
}

async function write(pool: Pool, folder: string, day: string): Promise<string> {
	await mkdir(folder, { recursive: true, mode: 0o700 });
	const file = `cordwain-${day}.zip`;
	const made = await writeArchiveFile(pool, join(folder, file));
	await putBackup(pool, { file, ...made });
	const names = (await readdir(folder)).filter((n) => NAME.test(n));
	const stay = new Set(keptBackups(names.map((n) => NAME.exec(n)![1]!)).map((d) => `cordwain-${d}.zip`));
	const gone = names.filter((n) => !stay.has(n));
	// What pg_dump wrote beside one goes with it.
	for (const name of gone.flatMap((n) => [n, n.replace('.zip', '.dump')]))
		await rm(join(folder, name), { force: true });
	// Somebody may have taken one away by hand.
	const there = new Set(names.filter((n) => stay.has(n)));
	await removedBackups(
		pool,
		(await listBackups(pool)).map((b) => b.file).filter((f) => !there.has(f)),
	);
	return file;
}

/**
 * Tries a backup out: brings it back into a database of its own, takes it out again, and holds both against one another.
 * @returns what is wrong with it; empty where it came back as it was
 */
export async function tryOut(url: string, path: string, sha256: string): Promise<string> {
	if ((await digestOf(path).catch(() => '')) !== sha256) return 'The file is not what was written, or is gone.';
	try {
		return await inScratchDatabase(url, async (scratch) => {
			await restoreArchive(scratch, path);
			const again = createHash('sha256');
			for await (const chunk of writeArchive(scratch, null)) again.update(chunk);
			return again.digest('hex') === sha256 ? '' : 'Brought back and taken out again it was not the same.';
		});
	} catch (error) {
		return `It could not be brought back: ${(error as Error).message.slice(0, 200)}`;
	}
}

const isDue = (all: readonly BackupRow[], now: number): boolean =>
	now - Math.max(0, ...all.map((b) => b.verifiedAt ?? 0)) > TRIED_EVERY_MS;

/** Tries a backup out and notes what came of it. @returns what is wrong with it; empty where it came back as it was */
export async function tryOutAndNote(pool: Pool, url: string, folder: string, file: string): Promise<string> {
	const made = (await listBackups(pool)).find((b) => b.file === file);
	if (!made) return 'There is no such backup.';
	const problem = await tryOut(url, join(folder, file), made.sha256);
	await triedBackup(pool, made.id, problem);
	return problem;
}

/** What is done each night. */
export async function nightly(
	pool: Pool,
	{ url, folder, day, now }: { url: string; folder: string; day: string; now: number },
): Promise<void> {
	const file = await backUp(pool, folder, day);
	if (isDue(await listBackups(pool), now)) await tryOutAndNote(pool, url, folder, file);
}
