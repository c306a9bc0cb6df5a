import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { Refusal } from '@/service/refusal';

/** Ten thousand samples are about a megabyte; nothing honest is larger, packed or not. */
const MAX_BYTES = 4 * 1024 * 1024;
const tooLarge = () =>
	new Refusal('too-large', [
		{ path: '', message: 'At most 4 MB and 10,000 samples a request, unpacked; send the rest in another.' },
	]);

/** Of what is too large so much is still listened to and thrown away, so that the sender hears the answer and not a broken line. */
const HEARD_OUT = 64 * 1024 * 1024;

/** The body of a request as text, unpacked where it is packed. However large it would become, no more than may be read is kept. */
export async function bodyText(request: Request): Promise<string> {
	if (!request.body) return '';
	const packing = request.headers.get('content-encoding')?.trim().toLowerCase() ?? 'identity';
	if (packing !== 'identity' && packing !== 'gzip')
		throw new Refusal('invalid', [{ path: 'Content-Encoding', message: 'gzip, or nothing' }]);
	const gunzip = packing === 'gzip' ? createGunzip() : null;
	const chunks: Buffer[] = [];
	let [size, heard, wrong] = [0, 0, false];
	const keep = (chunk: Uint8Array) => {
		size += chunk.length;
		if (size <= MAX_BYTES) chunks.push(Buffer.from(chunk));
	};
	gunzip?.on('data', keep);
	gunzip?.on('error', () => {
		wrong = true;
	});
	for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
		heard += chunk.length;
		if (heard > HEARD_OUT) break;
		if (size > MAX_BYTES || wrong) continue;
		if (!gunzip) keep(chunk);
		else if (!gunzip.write(chunk)) await Promise.race([once(gunzip, 'drain'), once(gunzip, 'close')]);
	}
	if (gunzip && !wrong && size <= MAX_BYTES) {
		gunzip.end();
		await finished(gunzip).catch(() => {
			wrong = true;
		});
	}
	gunzip?.destroy();
	if (size > MAX_BYTES) throw tooLarge();
	if (wrong)
		throw new Refusal('not-text', [
			{ path: '', message: 'The body cannot be unpacked: it is not gzip, or was cut off.' },
		]);
	const text = Buffer.concat(chunks).toString('utf8');
	return text.startsWith('\uFEFF') ? text.slice(1) : text;
}
