/** What a computation that can be refused gives: its value, or what was wrong with what it was given. */
export type Outcome<T, P> = { ok: true; value: T } | { ok: false; problem: P };

/**
 * A value.
 * @example done(1) // { ok: true, value: 1 }
 */
export const done = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
/**
 * What was wrong.
 * @example refused('no') // { ok: false, problem: 'no' }
 */
export const refused = <P>(problem: P): { ok: false; problem: P } => ({ ok: false, problem });
