import type { Quantity } from '../quantity';

/** One line of the sheet that is carried along the line and copied in afterwards. */
export interface SheetRow {
	station: string;
	name: string;
	due: Quantity[];
	/** Newest values, canonical. */
	last: Partial<Record<'ph' | 'ec' | 'temp', number>>;
	lastAt: number | null;
}
