/**
 * How fast carbon dioxide leaves a tank, as a share of what is over the air’s each hour: the gas exchange velocity over the
 * depth. A still tank gives it off at about 1 to 2 cm an hour (0.4 m deep: 0.04); an air stone exchanges it within an hour.
 * From memory, right to a factor of two: so each has a spread, and what a tank’s own rebounds show narrows it.
 */
export const AERATION = {
	still: { perHour: 0.04, spreadLn: 0.6, words: 'standing still' },
	stirred: { perHour: 0.2, spreadLn: 0.7, words: 'stirred or pumped' },
	'falling return': { perHour: 0.7, spreadLn: 0.6, words: 'with a falling return' },
	'air stone': { perHour: 1.1, spreadLn: 0.5, words: 'with an air stone' },
} as const satisfies Record<string, { perHour: number; spreadLn: number; words: string }>;
export type Aeration = keyof typeof AERATION;
/** Nobody said: anything from nearly still to an air stone. */
export const UNKNOWN_AERATION = { perHour: 0.25, spreadLn: 1.1 };

/** Whether so much carbon dioxide leaves within hours that pH climbs while one waits. */
export const isMoved = (a: Aeration | null): boolean => a !== 'still' && a !== 'stirred';
