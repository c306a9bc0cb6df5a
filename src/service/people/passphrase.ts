import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';

/**
 * Passphrases and PINs as they are kept: scrypt with a salt of their own (RFC 7914; N = 2¹⁷, r = 8, p = 1 as the OWASP Password
 * Storage Cheat Sheet has it). Its parameters stand beside each, so that stronger ones can be taken up later.
 */
const [N, R, P] = [2 ** 17, 8, 1];
const LENGTH = 32;

const derived = (text: string, salt: Buffer, n: number, r: number, p: number): Promise<Buffer> =>
	new Promise((done, fail) =>
		// The same letters are the same passphrase however a keyboard composes them.
		scrypt(text.normalize('NFKC'), salt, LENGTH, { N: n, r, p, maxmem: 256 * n * r }, (error, key) =>
			error ? fail(error) : done(key),
		),
	);

export async function hashed(text: string): Promise<string> {
	const salt = randomBytes(16);
	const key = await derived(text, salt, N, R, P);
	return ['scrypt', N, R, P, salt.toString('base64url'), key.toString('base64url')].join('$');
}

/** Somebody whom nobody is: held against as long as anybody. */
const NOBODY = `scrypt$${N}$${R}$${P}$${Buffer.alloc(16).toString('base64url')}$${Buffer.alloc(LENGTH).toString('base64url')}`;

/** @param kept null takes as long and is never right */
export async function isRight(text: string, kept: string | null): Promise<boolean> {
	const [kind, n, r, p, salt, key] = (kept ?? NOBODY).split('$');
	if (kind !== 'scrypt') return false;
	const found = await derived(text, Buffer.from(salt!, 'base64url'), Number(n), Number(r), Number(p));
	return timingSafeEqual(found, Buffer.from(key!, 'base64url')) && kept !== null;
}

const WEAK = ['passphrase', 'password', 'cordwain', '123456', 'qwerty', 'letmein', 'iloveyou', 'abcdef', '111111'];

/** Whether a passphrase of enough letters is one that is guessed first: a name, one thing again and again, a well-known one. */
export function isWeak(text: string, name: string): boolean {
	const plain = text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
	const rest = [name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, ''), ...WEAK]
		.filter((w) => w.length > 2)
		.reduce((t, w) => t.replaceAll(w, ''), plain);
	return new Set(plain).size < 5 || rest.length < 5;
}
