import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Unzip, UnzipInflate } from 'fflate';
import { Refusal } from '../refusal';
import { FORMAT_VERSION, MANIFEST, type Manifest, manifest } from './format';

/** Names that an archive has; whatever else lies in the zip is left where it is. */
const KNOWN = /^(?:manifest\.json|(?:tables\/|site-\d{1,9}\/)?[a-z_]+(?:\.schema)?\.(?:csv|json))$/;

export const notAnArchive = (message: string): Refusal => new Refusal('not-an-archive', [{ path: 'file', message }]);

/**
 * Unpacks an archive into a folder and holds every file against its manifest.
 * @throws Refusal with what is wrong: no zip, cut off, changed, of a newer Cordwain
 */
export async function unpack(path: string, into: string): Promise<Manifest> {
	const found = new Map<string, string>();
	let broken: Error | null = null;
	let waits: Promise<unknown>[] = [];
	const unzip = new Unzip((file) => {
		if (!KNOWN.test(file.name) || found.has(file.name)) return;
		const sha256 = createHash('sha256');
		const target = join(into, file.name);
		const out = mkdir(dirname(target), { recursive: true }).then(() => createWriteStream(target));
		found.set(file.name, '');
		let chain: Promise<unknown> = out;
		file.ondata = (error, data, final) => {
			if (error) {
				broken = error;
				return;
			}
			const copy = data.slice();
			sha256.update(copy);
			chain = chain.then(async () => {
				const o = await out;
				if (copy.length > 0 && !o.write(copy)) await once(o, 'drain');
				if (final) {
					found.set(file.name, sha256.digest('hex'));
					o.end();
					await once(o, 'close');
				}
			});
			waits.push(chain);
		};
		file.start();
	});
	unzip.register(UnzipInflate);
	try {
		for await (const chunk of createReadStream(path)) {
			unzip.push(chunk as Uint8Array);
			if (broken) throw broken;
			await Promise.all(waits);
			waits = [];
		}
		unzip.push(new Uint8Array(0), true);
		await Promise.all(waits);
	} catch {
		throw notAnArchive(
			'This is no archive of Cordwain, or it is damaged. Take the file as it was exported, with the ending .zip.',
		);
	}
	if (!found.has(MANIFEST) || found.get(MANIFEST) === '')
		throw notAnArchive('This zip has no manifest.json: it is no archive of Cordwain, or it was cut off.');
	let json: unknown;
	try {
		json = JSON.parse(await readFile(join(into, MANIFEST), 'utf8'));
	} catch {
		throw notAnArchive('The manifest of this archive cannot be read.');
	}
	const read = manifest.safeParse(json);
	const version = (json as { version?: unknown } | null)?.version;
	if (typeof version === 'number' && version > FORMAT_VERSION)
		throw notAnArchive(
			`This archive is of format ${version}; this Cordwain reads up to ${FORMAT_VERSION}. Bring Cordwain up to date first.`,
		);
	if (!read.success) throw notAnArchive('The manifest of this archive is not as it should be.');
	for (const [name, { sha256 }] of Object.entries(read.data.files))
		if (found.get(name) !== sha256)
			throw notAnArchive(
				found.has(name)
					? `${name} in this archive is not what it was: its SHA-256 differs from the manifest. Take another copy.`
					: `${name} is missing in this archive.`,
			);
	return read.data;
}
