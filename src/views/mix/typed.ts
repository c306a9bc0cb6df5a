import { parseTyped, toCanonical, type Unit } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { understandField } from '../bench/understand';
import { shown, shownWithUnit, unitLabel } from '../ui/format';

/** EC in the site's own unit, and what is typed in it or with a unit of its own. */
export const ecShown = (usCm: number, units: DisplayUnits): string => shown('ec', usCm, units);
export const ecWithUnit = (usCm: number, units: DisplayUnits): string => shownWithUnit('ec', usCm, units);
export const ecUnit = (units: DisplayUnits): string => unitLabel(units.ec);
export function ecTyped(text: string, units: DisplayUnits): number | undefined {
	const v = understandField('ec', text, null, units, null);
	const value = v.state === 'value' ? toCanonical(Number(v.digits), v.unit) : Number.NaN;
	return Number.isFinite(value) ? value : undefined;
}

const VOLUMES: readonly (Unit | null)[] = [null, 'L', 'mL', 'gal'];

/**
 * Litres as they are typed: `100`, `20 gal` (US), `500 mL`; undefined where it is no volume. A bare number is in the site's own unit.
 */
export function litresTyped(text: string, units?: Pick<DisplayUnits, 'volume'>): number | undefined {
	const parsed = parseTyped(text.trim());
	if (!parsed.ok || parsed.value.kind !== 'number') return undefined;
	const { unit, value } = parsed.value;
	if (unit === 'ppm' || !VOLUMES.includes(unit)) return undefined;
	return toCanonical(value, unit ?? units?.volume ?? 'L');
}

/** Litres as a number in the site's own unit, and with it. */
export const volumeShown = (litres: number, units: DisplayUnits): string => shown('volume', litres, units);
export const volumeWithUnit = (litres: number, units: DisplayUnits): string => shownWithUnit('volume', litres, units);
/** What the number in a field of volume is. */
export const volumeName = (units: DisplayUnits): string => (units.volume === 'L' ? 'litres' : unitLabel(units.volume));

/** °C of a temperature that is typed in the site's own unit, and as it is shown there. */
export function tempTyped(text: string, units: DisplayUnits): number | undefined {
	const v = understandField('temp', text, null, units, null);
	return v.state === 'value' ? toCanonical(Number(v.digits), v.unit) : undefined;
}
export const tempShown = (c: number, units: DisplayUnits): string => shown('temp', c, units);
