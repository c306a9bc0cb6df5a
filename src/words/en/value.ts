import type { SeriesQuantity } from '@/core/quantity';
import type { ParseProblem } from '@/core/quantity/parse';

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

/** What to tell a person whose entry was refused. */
export function typedProblem({ code, near }: { code: ParseProblem; near: string }): string {
	switch (code) {
		case 'empty':
			return 'Type a number.';
		case 'not-a-number':
			return `“${near}” is not a number. Type digits, as 5.8 or 1,9.`;
		case 'two-separators':
			return `“${near}” has more than one decimal mark. Use one point or comma.`;
		case 'unknown-unit':
			return `“${near}” is not a unit known here. Try mS, uS, ppm500, ppm700, C or F.`;
		case 'reversed-interval':
			return `“${near}” runs backwards. Put the lower end first, as 5.0..6.0.`;
		case 'too-large':
			return `“${near}” is beyond any meter.`;
	}
}
