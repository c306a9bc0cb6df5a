import { createHash } from 'node:crypto';
import { forgetWrongTries, insertWrongTry, wrongTries } from '@/store/people/sign-ins';
import type { Db } from '@/store/pool';
import { Refusal } from '../refusal';

/** Wrong tries are slowed, by whom they are of and by where they come from. What is counted names nobody. */
const WINDOW_MS = 15 * 60_000;
const OF_ONE = 5;
const FROM_ONE = 30;

const subjectOf = (kind: string, text: string): string =>
	`${kind}:${createHash('sha256').update(text.toLowerCase().trim()).digest('base64url')}`;

export interface Tried {
	/** What it was tried for: a name, a person's PIN, a code. */
	kind: 'name' | 'pin' | 'code' | 'passkey';
	of: string;
	/** Address of whoever tries. */
	from: string;
}
const subjects = ({ kind, of, from }: Tried) =>
	[
		// Codes are many: only where they come from tells anything.
		...(kind === 'code' || kind === 'passkey' ? [] : [[subjectOf(kind, of), OF_ONE] as const]),
		[subjectOf('from', from), FROM_ONE] as const,
	] as const;

/** @throws Refusal where there were too many wrong ones lately, whether or not it is right now */
export async function requirePatience(db: Db, tried: Tried, now: number): Promise<void> {
	for (const [subject, most] of subjects(tried)) {
		const { count, oldest } = await wrongTries(db, subject, now - WINDOW_MS);
		if (count < most || oldest === null) continue;
		const seconds = Math.max(Math.ceil((oldest + WINDOW_MS - now) / 1000), 1);
		throw new Refusal(
			'too-often',
			[{ path: '', message: `Too many wrong tries. Try again in ${Math.ceil(seconds / 60)} minutes.` }],
			{ retry_after_s: seconds },
		);
	}
}

export async function wasWrong(db: Db, tried: Tried): Promise<void> {
	for (const [subject] of subjects(tried)) await insertWrongTry(db, subject);
}

export async function wasRight(db: Db, { kind, of }: Tried): Promise<void> {
	await forgetWrongTries(db, subjectOf(kind, of));
}
