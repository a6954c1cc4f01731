'use client';

import type { CSSProperties, ReactNode } from 'react';
import type { DataColumn, TableView } from './columns';
import type { TableOf } from './use-table-rows';

/** Heads that sort when pressed, and a handle at the end of each that changes its width. */
export function TableHead<Row extends object>({
  table,
  columns,
  view,
  grid,
  onSort,
  children,
}: {
  table: TableOf<Row>;
  columns: readonly DataColumn<Row>[];
  view: TableView;
  grid: CSSProperties;
  onSort: (key: string, falling: boolean) => void;
  /** Stands before the first head. */
  children?: ReactNode;
}) {
  const headers = new Map(table.getLeafHeaders().map((header) => [header.column.id, header]));
  return (
    <div
      role="row"
      className="sticky top-0 z-10 grid border-b border-strong-rule bg-sheet text-[0.82rem] text-quiet"
      style={grid}
    >
      {children}
      {columns.map(({ key, head, num, unsorted }) => {
        const here = view.sort === key;
        const resize = headers.get(key)?.getResizeHandler();
        return (
          <span
            key={key}
            role="columnheader"
            aria-sort={here ? (view.falling ? 'descending' : 'ascending') : undefined}
            className={`relative min-w-0 truncate px-2 py-1.5 font-semibold ${num ? 'text-right' : ''}`}
          >
            {unsorted ? (
              head
            ) : (
              <button
                type="button"
                onClick={() => onSort(key, here && !view.falling)}
                className="hover:text-ink"
              >
                {head}
                {here ? (view.falling ? ' ↓' : ' ↑') : ''}
              </button>
            )}
            <span
              aria-hidden
              title="Drag to change the width"
              onMouseDown={resize}
              onTouchStart={resize}
              className="absolute inset-y-1 right-0 w-1.5 cursor-col-resize border-r border-rule hover:border-ember"
            />
          </span>
        );
      })}
    </div>
  );
}
