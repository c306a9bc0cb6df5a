import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { settings } from '../../ops/settings.mjs';

/**
 * Secrets that have to be sent, the password of a mail server and what a webhook is signed with, are kept sealed with AES-256-GCM. The
 * key lies in the data folder and not in the database: neither a dump nor a copy of the database opens them.
 */

const CIPHER = 'aes-256-gcm';
const KEY_BYTES = 32;
const IV_BYTES = 12;
const TAG_BYTES = 16;
const MARK = 'sealed:';

export class WrongKey extends Error {
	constructor() {
		super(
			'What was kept for it cannot be read with the key in the data folder of this machine. Type it again under Watch.',
		);
	}
}

let key: Buffer | null = null;
function theKey(): Buffer {
	if (key) return key;
	const folder = settings().CORDWAIN_DATA;
	const file = join(folder, 'secret.key');
	mkdirSync(folder, { recursive: true });
	// Whole or not at all, and never over one that is there.
	const fresh = join(folder, `secret.${process.pid}.new`);
	writeFileSync(fresh, randomBytes(KEY_BYTES), { mode: 0o600 });
	try {
		linkSync(fresh, file);
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
	} finally {
		rmSync(fresh);
	}
	const found = readFileSync(file);
	if (found.length !== KEY_BYTES) throw new WrongKey();
	key = found;
	return key;
}

/** @param of what it is for: sealed for one thing it opens for no other */
export function seal(text: string, of: string): string {
	if (text === '') return '';
	const iv = randomBytes(IV_BYTES);
	const cipher = createCipheriv(CIPHER, theKey(), iv).setAAD(Buffer.from(of));
	const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
	return MARK + Buffer.concat([iv, cipher.getAuthTag(), sealed]).toString('base64');
}

/** What was kept, sealed: as it is, or now where it was kept before anything was sealed. */
export const stillSealed = (kept: string, of: string): string => (kept.startsWith(MARK) ? kept : seal(kept, of));

/** @throws WrongKey where it was sealed elsewhere, or for something else */
export function unseal(text: string, of: string): string {
	// Kept before anything was sealed.
	if (!text.startsWith(MARK)) return text;
	const bytes = Buffer.from(text.slice(MARK.length), 'base64');
	const own = theKey();
	try {
		const cipher = createDecipheriv(CIPHER, own, bytes.subarray(0, IV_BYTES), { authTagLength: TAG_BYTES });
		cipher.setAAD(Buffer.from(of)).setAuthTag(bytes.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
		return Buffer.concat([cipher.update(bytes.subarray(IV_BYTES + TAG_BYTES)), cipher.final()]).toString('utf8');
	} catch {
		throw new WrongKey();
	}
}
