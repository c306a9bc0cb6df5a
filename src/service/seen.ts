import { isDeepStrictEqual } from 'node:util';
import { underscored } from '@/contract/names';
import { Refusal } from './refusal';

/** As it goes over the wire: what is not there is not told apart from what is not said. */
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null));

function changedWords(now: unknown): string {
	const shown = now === null || now === '' ? 'empty' : typeof now === 'object' ? null : String(now);
	return shown === null ? 'Somebody changed it meanwhile.' : `Somebody changed it meanwhile: it is ${shown} now.`;
}

/**
 * Holds what was seen of a thing against what it is now.
 * @param stands null where there is none yet
 * @param names of the wire that are not the core’s with underscores, as its schema has them
 * @throws Refusal changed-meanwhile, with each field that is another by now
 */
export function requireSeen(
	stands: object | null | undefined,
	seen: object | undefined,
	name: string,
	names: Readonly<Record<string, string>> = {},
): void {
	if (!stands || !seen) return;
	const now = stands as Record<string, unknown>;
	const wireName = (key: string) => Object.keys(names).find((wire) => names[wire] === key) ?? underscored(key);
	const errors = Object.entries(seen).flatMap(([key, value]) => {
		const is = plain(now[key]);
		return isDeepStrictEqual(is, plain(value)) ? [] : [{ path: wireName(key), message: changedWords(is) }];
	});
	if (errors.length > 0)
		throw new Refusal('changed-meanwhile', errors, {
			detail: `Somebody changed ${name} meanwhile, in what is changed here too. Nothing of this was saved.`,
		});
}
