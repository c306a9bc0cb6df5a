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
