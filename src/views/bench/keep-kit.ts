import type { Quantity } from '@/core/quantity';
import type { PerDrop } from '@/core/reading/drops';
import { api } from '../data/client';

/** What its leaflet says of a kit: the values on its card, and what a drop stands for. */
export interface KitChange {
	printed?: number[];
	perDrop?: Partial<Record<Quantity, PerDrop>>;
}

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
