'use client';

import {
  type ColumnDef,
  columnOrderingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  createFilteredRowModel,
  createSortedRowModel,
  columnFilteringFeature,
  globalFilteringFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useMemo } from 'react';
import { comparePlain, type DataColumn, hasWords, type Plain, type TableView } from './columns';
import { useWidths } from './use-widths';

const features = tableFeatures({
  columnFilteringFeature,
  globalFilteringFeature,
  rowSortingFeature,
  columnVisibilityFeature,
  columnOrderingFeature,
  columnSizingFeature,
  columnResizingFeature,
  filteredRowModel: createFilteredRowModel(),
  sortedRowModel: createSortedRowModel(),
});

/** Rows found and in order, columns in their places and widths. */
export function useTableRows<Row extends object>(
  name: string,
  columns: readonly DataColumn<Row>[],
  rows: readonly Row[],
  { sort, falling, find, layout }: TableView,
) {
  const [widths, setWidths] = useWidths(name);
  const defs = useMemo(
    () =>
      columns.map((column): ColumnDef<typeof features, Row> => ({
        id: column.key,
        header: column.head,
        // Nothing stands last in either direction.
        accessorFn: (row) => column.plain(row) ?? undefined,
        sortUndefined: 'last',
        sortFn: (a, b, id) => comparePlain(a.getValue<Plain>(id), b.getValue<Plain>(id)),
        enableSorting: !column.unsorted,
        size: column.width,
        minSize: 48,
      })),
    [columns],
  );
  const data = useMemo(() => [...rows], [rows]);
  const shown = useMemo(
    () => columns.filter(({ key }) => !layout.hidden.has(key)),
    [columns, layout],
  );
  return useTable({
    features,
    data,
    columns: defs,
    columnResizeMode: 'onChange',
    globalFilterFn: (row, _id, text: string) => hasWords(shown, row.original, text),
    getColumnCanGlobalFilter: () => true,
    state: {
      sorting: sort === null ? [] : [{ id: sort, desc: falling }],
      globalFilter: find.trim(),
      columnVisibility: Object.fromEntries([...layout.hidden].map((key) => [key, false])),
      columnOrder: [...layout.order],
      columnSizing: widths,
    },
    onColumnSizingChange: setWidths,
  });
}

export type TableOf<Row extends object> = ReturnType<typeof useTableRows<Row>>;
