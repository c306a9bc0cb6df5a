import type { EventKind } from '@/core/reading/model';

/** What was done to the water, and the unit that its amount is usually in. */
export const EVENT_WORDS: Record<EventKind, readonly [words: string, unit: string]> = {
	water_added: ['water added', 'L'],
	nutrient_added: ['nutrient added', 'mL'],
	acid_added: ['acid added', 'mL'],
	base_added: ['base added', 'mL'],
	solution_changed: ['solution changed', 'L'],
	sampled: ['sampled', ''],
	probe_cleaned: ['probe cleaned', ''],
	probe_out: ['probe out of the water', ''],
	calibrated: ['calibrated', ''],
	irrigated: ['irrigated', 'min'],
	drained: ['drained', 'L'],
	lights_on: ['lights on', ''],
	lights_off: ['lights off', ''],
	note: ['note', ''],
};
