import {
	columnVisibilityFeature,
	createSortedRowModel,
	type RowData,
	rowSelectionFeature,
	rowSortingFeature,
	sortFn_alphanumeric,
	sortFn_basic,
	tableFeatures,
	useTable,
} from '@tanstack/react-table';
import { Fragment, type ReactNode, useEffect, useMemo, useRef } from 'react';
import type { Column, TableState } from './table-state';
import { useTableKeys } from './use-table-keys';

const features = tableFeatures({
	rowSortingFeature,
	rowSelectionFeature,
	columnVisibilityFeature,
	sortedRowModel: createSortedRowModel(),
	sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
});

/** A table that is sorted by its heads, walked by keys, opened row by row, and of which many rows can be chosen. */
export function DataTable<T extends RowData>({
	rows,
	columns,
	idOf,
	state,
	onState,
	rowClass,
	rowData,
	opened,
	nameOf,
}: {
	rows: T[];
	columns: readonly Column<T>[];
	idOf: (row: T) => string;
	state: TableState;
	onState: (change: Partial<TableState>) => void;
	rowClass?: (row: T) => string;
	/** Attributes that tell one row from another. */
	rowData?: (row: T) => Record<`data-${string}`, string | number>;
	/** What an open row shows below itself. */
	opened: (row: T) => ReactNode;
	/** A row in words, for who does not see it. */
	nameOf: (row: T) => string;
}) {
	const body = useRef<HTMLTableSectionElement>(null);
	const byKey = useRef(false);
	const defs = useMemo(
		() =>
			columns.map((c) => ({
				id: c.id,
				header: c.name,
				accessorFn: c.of,
				sortFn: 'basic' as const,
				sortDescFirst: c.id === 'time',
			})),
		[columns],
	);
	const table = useTable({
		features,
		data: rows,
		columns: defs,
		getRowId: idOf,
		enableSortingRemoval: false,
		state: { sorting: state.sorting, rowSelection: state.chosen, columnVisibility: state.shown },
		onSortingChange: (u) => onState({ sorting: typeof u === 'function' ? u(state.sorting) : u, current: 0 }),
		onRowSelectionChange: (u) => onState({ chosen: typeof u === 'function' ? u(state.chosen) : u }),
		onColumnVisibilityChange: (u) => onState({ shown: typeof u === 'function' ? u(state.shown) : u }),
	});
	const lines = table.getRowModel().rows;
	const columnOf = new Map(columns.map((c) => [c.id, c]));
	const heads = table.getHeaderGroups()[0]?.headers ?? [];

	const toggle = (id: string, current: number) => onState({ open: state.open === id ? null : id, current });
	useTableKeys(body, lines.length, state.current, {
		go: (current) => onState({ current }),
		choose: () => lines[state.current]?.toggleSelected(),
		open: () => {
			const line = lines[state.current];
			if (!line) return;
			byKey.current = state.open !== line.id;
			toggle(line.id, state.current);
		},
	});
	// What was opened by a key is gone on with by keys.
	useEffect(() => {
		if (byKey.current && state.open !== null) body.current?.querySelector<HTMLElement>('[data-opened] button')?.focus();
		byKey.current = false;
	}, [state.open]);

	return (
		<div className="overflow-x-auto">
			<table className="w-full text-[0.92rem]">
				<thead>
					<tr className="border-b border-base-content">
						<th scope="col" className="w-8">
							<label className="flex min-h-8 min-w-8 items-center">
								<input
									type="checkbox"
									aria-label="Choose all of these"
									checked={lines.length > 0 && table.getIsAllRowsSelected()}
									onChange={table.getToggleAllRowsSelectedHandler()}
								/>
							</label>
						</th>
						{heads.map((h) => {
							const sorted = h.column.getIsSorted();
							return (
								<th
									key={h.id}
									scope="col"
									aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
									className={`py-1 pr-3 ${columnOf.get(h.id)?.wide ? 'hidden md:table-cell' : ''}`}
								>
									<button type="button" className="cursor-pointer" onClick={h.column.getToggleSortingHandler()}>
										{columnOf.get(h.id)?.name}
										{sorted === 'desc' ? ' ↓' : sorted === 'asc' ? ' ↑' : ''}
									</button>
								</th>
							);
						})}
					</tr>
				</thead>
				<tbody ref={body}>
					{lines.map((line, i) => {
						const row = line.original;
						const open = state.open === line.id;
						return (
							<Fragment key={line.id}>
								<tr
									data-row={line.id}
									{...rowData?.(row)}
									className={`border-b border-line cursor-pointer ${i === state.current ? 'bg-zone' : ''} ${rowClass?.(row) ?? ''}`}
									onClick={(e) => (e.target as HTMLElement).closest('input, label') === null && toggle(line.id, i)}
								>
									<td>
										<label className="flex min-h-8 min-w-8 items-center">
											<input
												type="checkbox"
												aria-label={`Choose ${nameOf(row)}`}
												checked={line.getIsSelected()}
												onChange={line.getToggleSelectedHandler()}
											/>
										</label>
									</td>
									{line.getVisibleCells().map((cell, k) => {
										const c = columnOf.get(cell.column.id)!;
										return (
											<td
												key={cell.id}
												className={`py-1 pr-3 ${c.wide ? 'hidden md:table-cell' : ''} ${c.className ?? ''}`}
											>
												{k > 0 ? (
													c.cell(row)
												) : (
													<button
														type="button"
														className="cursor-pointer min-h-8 text-left"
														aria-expanded={open}
														tabIndex={i === state.current ? 0 : -1}
													>
														{c.cell(row)}
													</button>
												)}
											</td>
										);
									})}
								</tr>
								{open && (
									<tr className="border-b border-line bg-lit" data-opened={line.id}>
										<td colSpan={columns.length + 1} className="p-3 max-md:px-0">
											{/* As wide as the screen, however wide the table is. */}
											<div className="max-md:sticky max-md:left-0 max-md:w-[calc(100vw-2rem)]">{opened(row)}</div>
										</td>
									</tr>
								)}
							</Fragment>
						);
					})}
				</tbody>
			</table>
		</div>
	);
}
