import { SEEDLING_SHARE } from '../crop/presets';

/**
 * How strong a feed is given, as a share of the label, by the stage of the plants: light for seedlings and cuttings, rising
 * through growth (common practice, no source). Easing before harvest is contested, so it is offered and never assumed.
 */
export const STAGES = {
	full: { words: 'full growth', share: 1 },
	growing: { words: 'growing on', share: 0.75 },
	seedling: { words: 'seedlings and cuttings', share: SEEDLING_SHARE },
	easing: { words: 'easing before harvest (contested)', share: 0.5 },
} as const satisfies Record<string, { words: string; share: number }>;
export type Stage = keyof typeof STAGES;
