/** What happens to a probe. Any of these means: one calibration now, whatever the interval says. */
export const PROBE_EVENT_KINDS = [
	'dropped',
	'dried_out',
	'cleaned',
	'rehydrated',
	'stored_wrong',
	'new_probe',
] as const;
export type ProbeEventKind = (typeof PROBE_EVENT_KINDS)[number];

/** What a probe stands in between readings. */
export const STORAGES = ['kcl_3m', 'kcl_other', 'storage_solution', 'buffer_4', 'dry', 'tap', 'pure_water'] as const;
export type Storage = (typeof STORAGES)[number];

/** A glass bulb is kept wet in potassium chloride; a conductivity cell is kept dry (common practice, no source). */
export const usualStorage = (quantity: 'ph' | 'ec'): Storage => (quantity === 'ec' ? 'dry' : 'kcl_3m');

/** Solution in a cap is renewed about monthly: it dries, crystallises and takes in what clung to the bulb (common practice, no source). */
const RENEW_DAYS = 30;

/**
 * Days by which the solution in the cap is overdue; null where it is not, where the cell is kept dry, or nobody noted when it was renewed.
 * @param refilled and @param today days of the site, as 2026-07-14
 * @example renewalOverdue('kcl_3m', '2026-06-01', '2026-07-14') // 13
 */
export function renewalOverdue(storage: Storage | null, refilled: string | null, today: string): number | null {
	if (refilled === null || storage === null || storage === 'dry') return null;
	const days = (Date.parse(`${today}T00:00Z`) - Date.parse(`${refilled}T00:00Z`)) / 86_400_000 - RENEW_DAYS;
	return days >= 0 ? days : null;
}
