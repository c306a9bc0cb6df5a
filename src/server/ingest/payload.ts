import { QUANTITY } from '@/core/quantity';
import { formatTime } from '@/core/quantity/time';

/** A payload as a sample; null where it is neither a number nor an object. @example understood('5.9', 'ph', 0)?.unit // 'pH' */
export function understood(
	text: string,
	quantity: keyof typeof QUANTITY,
	heard: number,
): { at: unknown; value: unknown; unit: unknown } | null {
	const plain = { at: formatTime(heard), unit: QUANTITY[quantity].canonical };
	let value: unknown;
	try {
		value = JSON.parse(text);
	} catch {
		return null;
	}
	if (typeof value === 'number') return { ...plain, value };
	if (typeof value !== 'object' || value === null || Array.isArray(value)) return null;
	const { at = plain.at, value: v, unit = plain.unit } = value as Record<string, unknown>;
	return { at, value: v, unit };
}
