import { fromCanonical, type Unit } from '@/core/quantity';

/** A suggested canonical value in the unit of the field, with no more digits than a person would type. */
export function fixedValue(canonical: number, unit: Unit, typedDigits: string): string {
	const value = fromCanonical(canonical, unit);
	const significant = Math.max(typedDigits.replace(/\D/g, '').replace(/^0+/, '').length, 3);
	return String(Number(value.toPrecision(significant)));
}
