'use client';

import type { CSSProperties, KeyboardEvent } from 'react';
import { Tick } from '../tick';
import type { DataColumn } from './columns';
import type { Selection } from './selection';

/** One row: it takes the keys while it has the focus. */
export function TableRow<Row>({
  id,
  index,
  row,
  columns,
  isCurrent,
  selection,
  onSelection,
  onFocus,
  onKeyDown,
  style,
}: {
  id: string;
  index: number;
  row: Row;
  columns: readonly DataColumn<Row>[];
  /** Whether it is the one the keys are at. */
  isCurrent: boolean;
  /** Null where rows are not chosen. */
  selection: Selection | null;
  /** Its box was pressed, with all rows up to it or alone. */
  onSelection: (upTo: boolean) => void;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent<HTMLElement>) => void;
  style: CSSProperties;
}) {
  return (
    <div
      role="row"
      data-row={index}
      aria-rowindex={index + 2}
      aria-selected={selection?.chosen.has(id)}
      tabIndex={isCurrent ? 0 : -1}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
      className="absolute inset-x-0 grid items-center border-b border-rule hover:bg-wash focus-visible:-outline-offset-2 aria-selected:bg-ember-wash"
      style={style}
    >
      {selection && (
        <span
          role="cell"
          className="grid place-items-center"
          onClickCapture={(event) => {
            if (!event.shiftKey) return;
            event.preventDefault();
            event.stopPropagation();
            onSelection(true);
          }}
        >
          <Tick
            label={`Choose ${id}`}
            checked={selection.chosen.has(id)}
            onChecked={() => onSelection(false)}
          />
        </span>
      )}
      {columns.map((column) => (
        <span
          key={column.key}
          role="cell"
          className={`min-w-0 px-2 ${column.num ? 'text-right' : ''}`}
        >
          {column.cell(row)}
        </span>
      ))}
    </div>
  );
}
