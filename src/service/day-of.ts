import { dateFormat } from '@/core/quantity/date-format';

/** The day of a site at a time, as 2026-07-14. */
export const dayOf = (at: number, zone: string): string =>
	dateFormat('sv-SE', { timeZone: zone, dateStyle: 'short' }).format(at);
