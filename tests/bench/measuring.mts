/** Rounds before those that count: a server has been up for a while. */
export const WARM = 9;
export const median = (list: number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;
/** Values that repeat themselves only after long: no chance, so that every run is the same. */
export const shown = (i: number, level: number, size: number): number =>
	Number((level + size * Math.sin(i / 229) + size * 0.3 * Math.sin(i * 12.9898)).toFixed(3));
