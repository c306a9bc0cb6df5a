/** The order of keys, and a null in the place of what is not there, make no other thing of it. */
function plain(value: unknown): unknown {
	if (Array.isArray(value)) return value.map(plain);
	if (typeof value !== 'object' || value === null) return value ?? null;
	const said = Object.entries(value).filter(([, v]) => v != null);
	return Object.fromEntries(said.sort(([a], [b]) => (a < b ? -1 : 1)).map(([k, v]) => [k, plain(v)]));
}
const differ = (a: unknown, b: unknown): boolean => JSON.stringify(plain(a)) !== JSON.stringify(plain(b));

/**
 * A change as it is sent: only what is other than it was, beside what names it, and what stood there before. What another changed
 * meanwhile stays as they made it; where both changed the same, the server refuses.
 * @param always fields that are sent whatever they are
 * @example onlyChanged({ code: 'pond', name: 'Pond' }, { code: 'pond', name: 'Big pond' }, ['code']) // { code: 'pond', name: 'Big pond', seen: { code: 'pond', name: 'Pond' } }
 */
export function onlyChanged<T extends object>(
	before: T | undefined,
	after: T,
	always: readonly (keyof T)[],
): T & { seen?: Partial<T> } {
	if (!before) return after;
	const said = (Object.keys(after) as (keyof T)[]).filter((k) => after[k] !== undefined);
	const keys = said.filter((k) => always.includes(k) || differ(before[k], after[k]));
	const pick = (of: T): Partial<T> =>
		Object.fromEntries(keys.filter((k) => of[k] !== undefined).map((k) => [k, of[k]])) as Partial<T>;
	return { ...(pick(after) as T), seen: pick(before) };
}
