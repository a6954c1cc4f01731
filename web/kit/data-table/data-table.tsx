'use client';

import {
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
  useMemo,
  useRef,
  useState,
} from 'react';
import { useAddress } from '@/lib/use-address';
import { Button } from '../button';
import { Tick } from '../tick';
import { type DataColumn, layoutText, viewOf } from './columns';
import { NONE, pressed, pressedAll, type Selection, share } from './selection';
import { TableBody } from './table-body';
import { TableHead } from './table-head';
import { TableRow } from './table-row';
import { TableTools } from './table-tools';
import { useTableRows } from './use-table-rows';

/** Moves of the keyboard between rows. */
const STEPS: Record<string, (at: number, last: number) => number> = {
  ArrowDown: (at, last) => Math.min(last, at + 1),
  ArrowUp: (at) => Math.max(0, at - 1),
  PageDown: (at, last) => Math.min(last, at + 12),
  PageUp: (at) => Math.max(0, at - 12),
  Home: () => 0,
  End: (_, last) => last,
};

/** Widths of columns as a grid, after the box a row is chosen by. */
function gridOf<Row>(
  shown: readonly DataColumn<Row>[],
  sizeOf: (key: string) => number,
  isChosen: boolean,
) {
  return {
    gridTemplateColumns: [
      ...(isChosen ? ['2.4rem'] : []),
      ...shown.map(({ key, grows }) =>
        grows ? `minmax(${sizeOf(key)}px, 1fr)` : `${sizeOf(key)}px`,
      ),
    ].join(' '),
    minWidth: shown.reduce((sum, { key }) => sum + sizeOf(key), isChosen ? 36 : 0),
  };
}

/** The box in the head that chooses all rows, or none. */
function ChooseAll({ share: of, onPress }: { share: boolean | 'some'; onPress: () => void }) {
  return (
    <span role="columnheader" className="grid place-items-center">
      <Tick label="Choose all rows" checked={of} onChecked={onPress} />
    </span>
  );
}

/** What can be done with the chosen rows. */
function ChosenActs<Row>({
  rows,
  acts,
  clear,
}: {
  rows: readonly Row[];
  acts: (chosen: readonly Row[], clear: () => void) => ReactNode;
  clear: () => void;
}) {
  if (rows.length === 0) return null;
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2" role="status">
      <span className="font-medium tabular-nums">{rows.length} chosen</span>
      {acts(rows, clear)}
      <Button look="bare" onClick={clear}>
        Choose none
      </Button>
    </div>
  );
}

/** Scrolls so far that a row stands whole between the heads and the lower edge. */
function scrollToRow(scroller: HTMLElement, row: number, rowHeight: number): void {
  const heads = scroller.firstElementChild?.clientHeight ?? 0;
  const top = row * rowHeight;
  const lowest = top + rowHeight - (scroller.clientHeight - heads);
  scroller.scrollTop = Math.min(top, Math.max(lowest, scroller.scrollTop));
}

/** Moves the focus between rows by keys; Space takes the one it is on, Enter opens it. */
function useRowKeys({
  count,
  rowHeight,
  scroller,
  onSpace,
}: {
  count: number;
  /** px. */
  rowHeight: number;
  scroller: RefObject<HTMLDivElement | null>;
  /** Null where rows are not chosen. */
  onSpace: ((row: number, upTo: boolean) => void) | null;
}) {
  const [at, setAt] = useState(0);
  const rowElement = (index: number) =>
    scroller.current?.querySelector<HTMLElement>(`[data-row="${index}"]`);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    // Keys belong to what stands in a row while that has the focus.
    if (event.target !== event.currentTarget) return;
    const step = STEPS[event.key];
    if (step) {
      event.preventDefault();
      const to = step(at, count - 1);
      setAt(to);
      if (scroller.current) scrollToRow(scroller.current, to, rowHeight);
      requestAnimationFrame(() => rowElement(to)?.focus({ preventScroll: true }));
    } else if (event.key === ' ' && onSpace) {
      event.preventDefault();
      onSpace(at, event.shiftKey);
    } else if (event.key === 'Enter') rowElement(at)?.querySelector<HTMLElement>('a')?.click();
  };
  return { at, setAt, onKeyDown };
}

/**
 * A long table: sorted, searched, with chosen columns, rows to act on, copy and files. Order, search
 * and columns stand in the address, widths stay with the person; arrows move between rows, Space
 * takes one, Enter opens it.
 */
export function DataTable<Row extends object>({
  name,
  label,
  rows,
  rowId,
  columns,
  rowHeight = 45,
  tools,
  acts,
  empty,
}: {
  /** Name its widths are kept under. */
  name: string;
  /** Said to a screen reader, and the name of its files. */
  label: string;
  rows: readonly Row[];
  rowId: (row: Row) => string;
  /** The same list at each drawing. */
  columns: readonly DataColumn<Row>[];
  /** px. */
  rowHeight?: number;
  /** Further tools before the search. */
  tools?: ReactNode;
  /** What can be done with chosen rows; without it none can be chosen. */
  acts?: (chosen: readonly Row[], clear: () => void) => ReactNode;
  empty: ReactNode;
}) {
  const { query, set } = useAddress();
  const view = useMemo(() => viewOf(columns, query), [columns, query]);
  const table = useTableRows(name, columns, rows, view);
  const [selection, setSelection] = useState<Selection>(NONE);
  const scroller = useRef<HTMLDivElement>(null);
  const found = table.getRowModel().rows;
  const ids = useMemo(() => found.map(({ original }) => rowId(original)), [found, rowId]);
  const chosenRows = useMemo(
    () => found.map(({ original }) => original).filter((row) => selection.chosen.has(rowId(row))),
    [found, selection, rowId],
  );
  const byKey = useMemo(() => new Map(columns.map((column) => [column.key, column])), [columns]);
  const shown = table.getVisibleLeafColumns().map(({ id }) => byKey.get(id)!);
  const grid = gridOf(shown, (key) => table.getColumn(key)!.getSize(), acts !== undefined);
  const { at, setAt, onKeyDown } = useRowKeys({
    count: found.length,
    rowHeight,
    scroller,
    onSpace: acts ? (row, upTo) => setSelection(pressed(selection, ids, ids[row]!, upTo)) : null,
  });
  const draw = (index: number) => {
    const id = ids[index];
    if (id === undefined) return null;
    return (
      <TableRow
        key={id}
        id={id}
        index={index}
        row={found[index]!.original}
        columns={shown}
        isCurrent={index === Math.min(at, found.length - 1)}
        selection={acts ? selection : null}
        onSelection={(upTo) => setSelection(pressed(selection, ids, id, upTo))}
        onFocus={() => setAt(index)}
        onKeyDown={onKeyDown}
        style={{ ...grid, height: rowHeight, transform: `translateY(${index * rowHeight}px)` }}
      />
    );
  };
  return (
    <>
      <TableTools
        label={label}
        columns={columns}
        layout={view.layout}
        rows={chosenRows.length > 0 ? chosenRows : found.map(({ original }) => original)}
        find={view.find}
        onFind={(find) => set({ find })}
        onLayout={(layout) => set({ columns: layoutText(columns, layout) })}
      >
        {tools}
      </TableTools>
      {acts && <ChosenActs rows={chosenRows} acts={acts} clear={() => setSelection(NONE)} />}
      <div
        ref={scroller}
        className="panel max-h-[calc(100dvh-9rem)] min-h-40 overflow-auto"
        role="table"
        aria-label={label}
        aria-rowcount={found.length + 1}
      >
        <TableHead
          table={table}
          columns={shown}
          view={view}
          grid={grid}
          onSort={(key, falling) => set({ sort: key, falling: falling ? '1' : null })}
        >
          {acts && (
            <ChooseAll
              share={share(selection, ids)}
              onPress={() => setSelection(pressedAll(selection, ids))}
            />
          )}
        </TableHead>
        <TableBody
          count={found.length}
          rowHeight={rowHeight}
          minWidth={grid.minWidth}
          scroller={scroller}
          draw={draw}
        />
        {found.length === 0 && <div className="p-4 text-quiet">{empty}</div>}
      </div>
    </>
  );
}
