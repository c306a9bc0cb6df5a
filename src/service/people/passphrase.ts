import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import type { ZxcvbnFactory } from '@zxcvbn-ts/core';

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

/** Fewer guesses than this take a thief of the database an evening: 10⁸, “somewhat guessable” (D. L. Wheeler, zxcvbn, USENIX Security 2016). */
const LEAST_SCORE = 3;
/** Letters that are looked at: more of them only make it better. */
const LOOKED_AT = 100;
/** Leaked passwords, names of people and walks over a keyboard: two megabytes that are read when the first passphrase is chosen. */
let estimator: Promise<ZxcvbnFactory> | null = null;
async function makeEstimator(): Promise<ZxcvbnFactory> {
	const [{ ZxcvbnFactory }, { dictionary, adjacencyGraphs }] = await Promise.all([
		import('@zxcvbn-ts/core'),
		import('@zxcvbn-ts/language-common'),
	]);
	return new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
}

/** Whether a passphrase of enough letters is one that is guessed first: leaked, a name, a walk over the keys, one thing again and again. */
export async function isWeak(text: string, name: string): Promise<boolean> {
	estimator ??= makeEstimator();
	const words = [name, ...name.split(/\s+/), 'cordwain', 'passphrase'];
	return (await estimator).check(text.slice(0, LOOKED_AT), words).score < LEAST_SCORE;
}
