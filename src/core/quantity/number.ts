/** Numbers as people type them: one separator, comma or point, is the decimal mark. Nothing is guessed. */
const TYPED = /^[+\-−]?(?:\d+(?:[.,]\d*)?|[.,]\d+)$/;
const PLAIN = /^-?(?:\d+\.?\d*|\.\d+)$/;

/**
 * Digits with a decimal point, otherwise as typed; undefined when the text is not one plain number.
 * @example plainDigits('1,90') // '1.90'
 */
export function plainDigits(text: string): string | undefined {
	// Files of millions of lines come through here, nearly all of them plain already.
	if (PLAIN.test(text)) return text;
	if (!TYPED.test(text)) return undefined;
	return text.replace(',', '.').replace('−', '-').replace(/^\+/, '');
}

/**
 * A plain decimal, with comma or point; no exponents, no blanks, no NaN. Undefined for anything else.
 * @example decimal('1,9') // 1.9
 */
export function decimal(text: string): number | undefined {
	const digits = plainDigits(text);
	if (digits === undefined) return undefined;
	const value = Number(digits);
	return Number.isFinite(value) ? value : undefined;
}

/** A number has its two ends in one. */
export interface TypedNumber {
	/** With a decimal point; `5.0..6.0` for an interval. */
	digits: string;
	low: number;
	high: number;
}

/**
 * `5.8`, `5,8` or the interval `5.0..6.0`; undefined for anything else, and for an interval that runs backwards.
 * @example typedNumber('5,0..6,0') // { digits: '5.0..6.0', low: 5, high: 6 }
 */
export function typedNumber(text: string): TypedNumber | undefined {
	const dots = text.indexOf('..');
	if (dots < 0) {
		const digits = plainDigits(text);
		const value = digits === undefined ? Number.NaN : Number(digits);
		return Number.isFinite(value) ? { digits: digits!, low: value, high: value } : undefined;
	}
	const low = typedNumber(text.slice(0, dots));
	const high = typedNumber(text.slice(dots + 2));
	if (!low || !high || low.low !== low.high || high.low !== high.high || !(low.low < high.low)) return undefined;
	return { digits: `${low.digits}..${high.digits}`, low: low.low, high: high.low };
}

/** Smallest step the typed digits show: 5.80 → 0.01, 1413 → 1. */
export function typedResolution(digits: string): number {
	const point = digits.indexOf('.');
	if (point < 0) return 1;
	const places = digits.length - point - 1;
	return STEPS[places] ?? 10 ** -places;
}
const STEPS: readonly number[] = Array.from({ length: 8 }, (_, places) => 10 ** -places);
