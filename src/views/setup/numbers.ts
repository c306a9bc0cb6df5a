import { decimal } from '@/core/quantity';

/** A number of a form as it is typed; empty for none. */
export const showNumber = (v: number | null | undefined): string => (v === null || v === undefined ? '' : String(v));

/** What a checked text says: a number, or none where nothing stands there. */
export const readNumber = (text: string): number | null => decimal(text.trim()) ?? null;

/** Says what is wrong with a number that is not between two limits. */
export const between =
	(low: number, high: number, say: string) =>
	(text: string): true | string => {
		const v = decimal(text.trim());
		return (v !== undefined && v >= low && v <= high) || say;
	};
