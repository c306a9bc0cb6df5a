/**
 * What the air still takes up: vapour pressure at saturation after Tetens as in FAO Irrigation and Drainage Paper 56 (equation 11), kPa,
 * and the deficit below it. Valid for −5 to 60 °C.
 */

/**
 * Vapour pressure at saturation, kPa.
 * @example saturationPressure(20) // 2.338
 */
export const saturationPressure = (airC: number): number => 0.6108 * Math.exp((17.27 * airC) / (airC + 237.3));

/**
 * Vapour-pressure deficit, kPa, of air of so many % relative humidity.
 * @example vapourDeficit(25, 60) // 1.267
 */
export const vapourDeficit = (airC: number, humidityPct: number): number =>
	saturationPressure(airC) * (1 - Math.min(Math.max(humidityPct, 0), 100) / 100);
