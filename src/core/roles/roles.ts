/**
 * What a person may do: a visitor looks, a helper measures, logs and doses, a grower decides and changes the setup besides.
 */
export const ROLES = ['visitor', 'helper', 'grower'] as const;
export type Role = (typeof ROLES)[number];
/** Whom something wants: nobody in particular, or at least somebody of a role. */
export type Wanted = Role | 'anybody';

/**
 * Whether a role is enough; null is nobody known.
 * @example isEnough('grower', 'helper') // true
 * @example isEnough(null, 'anybody') // true
 */
export const isEnough = (role: Role | null, wanted: Wanted): boolean =>
	wanted === 'anybody' || (role !== null && ROLES.indexOf(role) >= ROLES.indexOf(wanted));
