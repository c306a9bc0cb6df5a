import type { Quantity } from '@/core/quantity';
import type { PerDrop } from '@/core/reading/drops';
import type { SiteInstrument } from '@/core/reading/site-view';
import { api } from '../data/client';

/** What its leaflet says of a kit: the values on its card, and what a drop stands for. */
export interface KitChange {
	printed?: number[];
	perDrop?: Partial<Record<Quantity, PerDrop>>;
}

/** The kit as it is with what was just said of it. */
export const withChange = (kit: SiteInstrument, { printed, perDrop }: KitChange = {}): SiteInstrument => ({
	...kit,
	...(printed ? { printed } : {}),
	info: perDrop ? { ...kit.info, perDrop } : kit.info,
});

/** Keeps it with the kit. @throws ApiProblem */
export const keepKit = (code: string, { printed, perDrop }: KitChange): Promise<unknown> =>
	api('POST /instruments', {
		body: {
			code,
			kind: 'drop_kit' as const,
			...(printed ? { printed_ph: printed } : {}),
			...(perDrop ? { per_drop: perDrop } : {}),
		},
	});
