import type { SeriesQuantity } from '@/core/quantity';

const trim = (v: number, decimals: number) => String(Number(v.toFixed(decimals)));

/**
 * A canonical value by the way it is read aloud.
 * @example displayValue('ec', 1712) // '1.712 mS/cm'
 */
export function displayValue(quantity: SeriesQuantity, canonical: number): string {
	switch (quantity) {
		case 'ph':
			return `pH ${trim(canonical, 2)}`;
		case 'ec':
			return canonical >= 100 ? `${trim(canonical / 1000, 3)} mS/cm` : `${trim(canonical, 1)} µS/cm`;
		case 'temp':
			return `${trim(canonical, 1)} °C`;
		default:
			return trim(canonical, 2);
	}
}
