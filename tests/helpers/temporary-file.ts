import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A file with this content while the work runs. */
export async function temporaryFile<T>(content: string | Buffer, work: (path: string) => Promise<T>): Promise<T> {
	const folder = await mkdtemp(join(tmpdir(), 'cordwain-test-'));
	try {
		const path = join(folder, 'file.csv');
		await writeFile(path, content);
		return await work(path);
	} finally {
		await rm(folder, { recursive: true, force: true });
	}
}
