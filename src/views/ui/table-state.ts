import type { ColumnVisibilityState, RowSelectionState, SortingState } from '@tanstack/react-table';
import type { ReactNode } from 'react';

/** One column of a table. */
export interface Column<T> {
	id: string;
	name: string;
	/** What it is sorted by. */
	of: (row: T) => string | number;
	cell: (row: T) => ReactNode;
	/** Left out where there is little room. */
	wide?: boolean;
	className?: string;
}

/** Which row the keys are at, which one is open, which are chosen, how they are sorted, and which columns are shown. */
export interface TableState {
	current: number;
	open: string | null;
	chosen: RowSelectionState;
	sorting: SortingState;
	shown: ColumnVisibilityState;
}
export const newTable = (sorting: SortingState): TableState => ({
	current: 0,
	open: null,
	chosen: {},
	sorting,
	shown: {},
});
