import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Refusal } from '@/service/refusal';

/**
 * Uploaded bodies in temporary files: a slow sender must not keep other writers waiting, nor a large file fill the memory. The name
 * of each tells the process it belongs to, so that what a process left when it was killed is cleared by the next.
 */
const MAX_FILE = 512 * 1024 * 1024;
const NAME = /^cordwain-import-(\d+)-/;

export interface Spooled {
	path: string;
	digest: string;
	remove: () => Promise<void>;
}

const alive = (pid: number): boolean => {
	try {
		process.kill(pid, 0);
		return true;
	} catch (error) {
		return (error as NodeJS.ErrnoException).code === 'EPERM';
	}
};

/** Clears what processes have left that are no more. */
export async function sweepUploads(): Promise<void> {
	for (const name of await readdir(tmpdir())) {
		const pid = Number(NAME.exec(name)?.[1] ?? process.pid);
		if (!alive(pid)) await rm(join(tmpdir(), name), { recursive: true, force: true });
	}
}
// Of another user, or a folder that cannot be listed: nothing to be done about it here.
void sweepUploads().catch(() => {});

export async function spool(request: Request): Promise<Spooled> {
	if (!request.body) throw new Refusal('no-file', [{ path: '', message: 'Send the CSV as the body of the request.' }]);
	if (Number(request.headers.get('content-length') ?? 0) > MAX_FILE) throw tooLarge();
	const dir = await mkdtemp(join(tmpdir(), `cordwain-import-${process.pid}-`));
	const path = join(dir, 'upload.csv');
	const remove = () => rm(dir, { recursive: true, force: true });
	const digest = createHash('sha256');
	let size = 0;
	const limit = new Transform({
		transform(chunk: Uint8Array, _encoding, done) {
			size += chunk.length;
			digest.update(chunk);
			if (size > MAX_FILE) done(tooLarge());
			else done(null, chunk);
		},
	});
	try {
		await pipeline(
			Readable.fromWeb(request.body as import('node:stream/web').ReadableStream),
			limit,
			createWriteStream(path),
		);
	} catch (error) {
		await remove();
		throw error;
	}
	return { path, digest: digest.digest('base64'), remove };
}

const tooLarge = () => new Refusal('too-large', [{ path: '', message: 'At most 512 MB a file; split it by year.' }]);
