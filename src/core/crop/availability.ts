/**
 * Between which pH each nutrient stays at hand in a solution or a medium without soil. Plain bands after the diagrams of Lucas and Davis
 * (1961) for organic soils and Peterson (1982) for media without soil, from memory: right to half a pH; chelates and young roots shift
 * them. Above, iron, manganese and phosphorus go first; below, calcium and magnesium, while metals rise.
 */
export const NUTRIENTS = [
	'nitrogen',
	'phosphorus',
	'potassium',
	'calcium',
	'magnesium',
	'sulfur',
	'iron',
	'manganese',
	'zinc',
	'copper',
	'boron',
	'molybdenum',
] as const;
export type Nutrient = (typeof NUTRIENTS)[number];

export const AVAILABLE_PH: Record<Nutrient, readonly [low: number, high: number]> = {
	nitrogen: [5, 7.5],
	phosphorus: [5, 6.5],
	potassium: [5, 7.5],
	calcium: [5.4, 8],
	magnesium: [5.4, 8],
	sulfur: [4.8, 8],
	iron: [4, 6.4],
	manganese: [4.8, 6.4],
	zinc: [4.5, 6.8],
	copper: [4.5, 6.8],
	boron: [4.8, 6.8],
	molybdenum: [5.6, 8],
};
/** Below this metals rise until they harm (from memory). */
export const METALS_RISE_PH = 4.8;

/**
 * Which nutrients a pH makes scarce.
 * @example scarceAt(7.2).includes('iron') // true
 */
export const scarceAt = (ph: number): Nutrient[] =>
	NUTRIENTS.filter((n) => ph < AVAILABLE_PH[n][0] || ph > AVAILABLE_PH[n][1]);
