import type { Quantity } from '../quantity';

/** What the columns of a grower's own spreadsheet mean, said once and kept. */
export type ColumnUse =
	| { as: 'ignore' | 'time' | 'date' | 'clock' | 'station' | 'instrument' | 'note' }
	| { as: 'quantity'; quantity: Quantity; unit: string };
export type DateOrder = 'ymd' | 'dmy' | 'mdy';
export interface SheetMapping {
	/** Lines before the one that names the columns. */
	linesBefore: number;
	columns: { name: string; use: ColumnUse }[];
	dateOrder: DateOrder;
	/** Where no column says it; codes. */
	station: string;
	instrument: string;
	/** When it was read, where no column tells the hour; as 07:30. */
	clock: string;
}
